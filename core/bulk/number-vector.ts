/**
 * Numeric expressions over whole columns, in doubles that carry a bound of their own error: whoever compares
 * one with a constant closer than its error has to ask the decimals (see `subject-classes`). Days are counted as
 * numbers too, and durations in seconds.
 */
import { evaluate } from '../expression/evaluate'
import { freeNames, type Node, type NodeOf } from '../expression/tree'
import { simpleTest } from '../rule/simple-test'
import { type Bitmap, emptyBitmap, intersection, fullBitmap, hasBit, setBit } from '../table/bitmap'
import { type DateValue, type DayTimeDuration, isNumber, kindOf, type Value } from '../value/value'
import { stretchOf } from './thresholds'

export type VectorKind = 'number' | 'date' | 'days and time duration'

export interface NumberVector {
  readonly length: number
  readonly kind: VectorKind
  /** Near the decimal result; meaningless where `valid` says no. */
  readonly doubles: Float64Array
  /**
   * No decimal result lies further away than this; 0 where the double is the nearest to its decimal and stands for it, as
   * 0.1 stands for the decimal 0.1; null where that is so of all but those in `inexact`. Infinite where nothing can be said.
   */
  readonly errors: Float64Array | null
  readonly valid: Bitmap
  /** Of nearest doubles, the records whose decimals they do not stand for exactly. */
  readonly inexact: ReadonlyMap<number, unknown>
  /** Of a greatest or least value, what it is at least, or at most, where some of its parts are missing; NaN where nothing is known. */
  readonly bounds?: Float64Array
}

export interface VectorSources {
  length: number
  today: DateValue
  /** An input that is a number, or a day; null where it is none, or cannot be had as a vector. */
  input(name: string): NumberVector | null
  /** The members of a column set. */
  members(name: string): readonly NumberVector[] | null
  /** Any expression; null where it cannot be reckoned here. */
  of(node: Node): NumberVector | null
}

/** Half a unit in the last place, relative: what rounding to the nearest double may cost. */
export const UNIT = 2 ** -53
/** Results this small may have lost digits to underflow, and results this large are near the end of the doubles. */
const SMALLEST = 1e-290
const LARGEST = 1e290
const NONE_INEXACT: ReadonlyMap<number, unknown> = new Map()
const SECONDS_A_DAY = 86_400
/** Beyond, days are near the end of the calendar, which only exact arithmetic knows. */
const FARTHEST_DAY = 1e8

/** @returns null where the expression is made of anything else than numbers, days, + - * /, abs, and what can be gathered of lists and sets */
export function numberVector(node: Node, sources: VectorSources): NumberVector | null {
  if (node.kind !== 'name' && freeNames(node).length === 0) return constantVector(evaluate(node, { value: () => null, today: sources.today }), sources.length)
  switch (node.kind) {
    case 'name':
      return sources.input(node.name)
    case 'negate': {
      const of = numberVector(node.of, sources)
      return of && of.kind !== 'date' ? { ...of, doubles: of.doubles.map((double) => -double), bounds: undefined } : null
    }
    case 'arithmetic':
      return arithmetic(node, sources)
    case 'call':
      return call(node, sources)
    case 'path':
      return daysOf(node, sources)
    default:
      return null
  }
}

function constantVector(value: Value, length: number): NumberVector | null {
  const kind = kindOf(value)
  // What comes to nothing does so in every record.
  if (value === null) return { length, kind: 'number', doubles: new Float64Array(length), errors: null, valid: emptyBitmap(length), inexact: NONE_INEXACT }
  const number = isNumber(value) ? value.toNumber() : kind === 'date' ? (value as DateValue).day : kind === 'days and time duration' ? (value as DayTimeDuration).seconds.toNumber() : null
  return number === null ? null : { length, kind: kind as VectorKind, doubles: new Float64Array(length).fill(number), errors: null, valid: fullBitmap(length), inexact: NONE_INEXACT }
}

/** How far a decimal can lie from its double, as it counts in what is reckoned from it: nothing only for whole numbers that fit into a double. */
export function errorAt({ doubles, errors, inexact }: NumberVector, at: number): number {
  const error = errors ? errors[at]! : 0
  if (error !== 0) return error
  const size = Math.abs(doubles[at]!)
  return size < 2 ** 53 && Math.floor(size) === size && (inexact.size === 0 || !inexact.has(at)) ? 0 : size * UNIT
}

/** Whether the double stands for its decimal: it is the nearest, and read back as its shortest text gives the same number. */
export function standsFor({ errors, inexact }: NumberVector, at: number): boolean {
  return errors ? errors[at] === 0 : inexact.size === 0 || !inexact.has(at)
}

/** A result and its error: one object for a whole loop, because returning two numbers at once would make a heap of them. */
class Reckoning {
  result = 0
  error = 0

  settle(result: number, carried: number, canVanish = false): void {
    const size = Math.abs(result)
    this.result = result
    // The last term makes up for the roundings in the bound itself, and for decimal128's own.
    this.error = size > LARGEST || (canVanish && size < SMALLEST) ? Infinity : carried * (1 + 1e-9) + size * UNIT * (1 + 1e-9)
  }

  add(a: number, aError: number, b: number, bError: number): void {
    this.settle(a + b, aError + bError)
    // Whole numbers that are known exactly add up exactly.
    if (aError === 0 && bError === 0 && Math.abs(this.result) < 2 ** 53) this.error = 0
  }

  multiply(a: number, aError: number, b: number, bError: number): void {
    this.settle(a * b, Math.abs(a) * bError + Math.abs(b) * aError + aError * bError, a !== 0 && b !== 0)
    if (aError === 0 && bError === 0 && Math.abs(this.result) < 2 ** 53) this.error = 0
  }

  divide(a: number, aError: number, b: number, bError: number): void {
    const quotient = a / b
    const room = Math.abs(b) - bError
    this.settle(quotient, room > 0 ? (aError + Math.abs(quotient) * bError) / room : Infinity, a !== 0)
  }
}

/** What comes of two kinds; null where it cannot be reckoned here. */
function kindOfResult(operator: NodeOf<'arithmetic'>['operator'], a: VectorKind, b: VectorKind): VectorKind | null {
  if (operator === '**') return null
  if (a === 'number' && b === 'number') return 'number'
  const isSum = operator === '+' || operator === '-'
  if (a === 'date' && b === 'date') return operator === '-' ? 'days and time duration' : null
  if (a === 'date' || b === 'date') return isSum && (a === 'date' ? b : operator === '+' ? a : null) === 'days and time duration' ? 'date' : null
  if (a === b) return isSum ? a : operator === '/' ? 'number' : null
  return operator === '*' || (operator === '/' && b === 'number') ? 'days and time duration' : null
}

function arithmetic({ operator, left, right }: NodeOf<'arithmetic'>, sources: VectorSources): NumberVector | null {
  const [a, b] = [numberVector(left, sources), operator === '**' ? null : numberVector(right, sources)]
  const kind = a && b && kindOfResult(operator, a.kind, b.kind)
  if (!a || !b || !kind) return null
  if (kind === 'date') return a.kind === 'date' ? shifted(a, b, operator === '-' ? -1 : 1) : shifted(b, a, 1)
  const { length } = a
  const [doubles, errors, valid] = [new Float64Array(length), new Float64Array(length), intersection(a.valid, b.valid)]
  const scale = a.kind === 'date' ? SECONDS_A_DAY : 1
  const reckoning = new Reckoning()
  for (let at = 0; at < length; at++) {
    const [one, other] = [a.doubles[at]! * scale, b.doubles[at]! * scale]
    const [oneError, otherError] = [errorAt(a, at), errorAt(b, at)]
    if (operator === '/' && other === 0 && otherError === 0) {
      valid.words[at >>> 5]! &= ~(1 << (at & 31))
      continue
    }
    if (operator === '+') reckoning.add(one, oneError, other, otherError)
    else if (operator === '-') {
      reckoning.add(one, oneError, -other, otherError)
      // Two equal doubles that are the nearest to their decimals, and stand for them, stand for the same.
      if (reckoning.result === 0 && standsFor(a, at) && standsFor(b, at)) reckoning.error = 0
    } else if (operator === '*') reckoning.multiply(one, oneError, other, otherError)
    else reckoning.divide(one, oneError, other, otherError)
    doubles[at] = reckoning.result
    errors[at] = reckoning.error
  }
  return { length, kind, doubles, errors, valid, inexact: NONE_INEXACT }
}

/** A day and a duration after, or before, it: whole days of it count, the rest is dropped downwards (DMN 1.5 table 55). */
function shifted(days: NumberVector, by: NumberVector, sign: 1 | -1): NumberVector {
  const { length } = days
  const [doubles, errors] = [new Float64Array(length), new Float64Array(length)]
  for (let at = 0; at < length; at++) {
    doubles[at] = days.doubles[at]! + Math.floor((sign * by.doubles[at]!) / SECONDS_A_DAY)
    errors[at] = errorAt(by, at) === 0 && Math.abs(doubles[at]!) < FARTHEST_DAY ? 0 : Infinity
  }
  return { length, kind: 'date', doubles, errors, valid: intersection(days.valid, by.valid), inexact: NONE_INEXACT }
}

/** `(today() - Due).days` */
function daysOf({ of, name }: NodeOf<'path'>, sources: VectorSources): NumberVector | null {
  const vector = name === 'days' ? numberVector(of, sources) : null
  if (vector?.kind !== 'days and time duration') return null
  const doubles = vector.doubles.map((seconds) => Math.trunc(seconds / SECONDS_A_DAY) + 0)
  return { ...vector, kind: 'number', doubles, errors: doubles.map((_, at) => (errorAt(vector, at) === 0 ? 0 : Infinity)) }
}

const GATHERED = ['mean', 'sum', 'min', 'max', 'median', 'count'] as const
type Gathering = (typeof GATHERED)[number]

function call({ name, args, names }: NodeOf<'call'>, sources: VectorSources): NumberVector | null {
  const [first] = args
  if (!first || names) return null
  if (name === 'abs' && args.length === 1) {
    const of = numberVector(first, sources)
    return of && of.kind !== 'date' ? { ...of, doubles: of.doubles.map(Math.abs), bounds: undefined } : null
  }
  if (!(GATHERED as readonly string[]).includes(name)) return null
  const counted = name === 'count' && args.length === 1 && first.kind === 'filter' ? countWhere(first, sources) : null
  if (counted) return counted
  const set = args.length === 1 ? membersOf(first, sources) : null
  if (set) return gathered(name as Gathering, set, sources.length, false)
  if (name === 'count') return null
  const items = args.length === 1 && first.kind === 'list' ? first.items : args
  const vectors = items.map((item) => numberVector(item, sources))
  if (vectors.length === 0 || vectors.includes(null)) return null
  const [one, ...others] = vectors as NumberVector[]
  const isOfKind = one!.kind === 'number' || name === 'min' || name === 'max'
  return isOfKind && others.every(({ kind }) => kind === one!.kind) ? gathered(name as Gathering, vectors as NumberVector[], sources.length, true) : null
}

interface Filtered {
  members: readonly NumberVector[]
  isLeft(double: number): boolean
  /** The one stretch that is left; null where it is more than one. */
  stretch: readonly [from: number, to: number] | null
}

/** A column set of which a test of each member by itself leaves some. */
function filteredSet(node: NodeOf<'filter'>, sources: VectorSources): Filtered | null {
  const members = node.of.kind === 'name' ? sources.members(node.of.name) : null
  const simple = members && simpleTest(node.by, sources.today)
  const isOfItems = simple?.subject.kind === 'name' && simple.subject.name === 'item' && simple.pieces.every(({ low, high }) => [low, high].every((end) => end === null || isNumber(end)))
  if (!members || !isOfItems || members.some(({ errors, inexact }) => errors || inexact.size > 0)) return null
  const stretches = simple.pieces.map((piece) => stretchOf(piece))
  const [only] = stretches
  return {
    members, stretch: only && stretches.length === 1 && !simple.isNegated ? only : null,
    isLeft: (double) => stretches.some(([from, to]) => double >= from && double < to) !== simple.isNegated,
  }
}

/** A column set, or what is left of it. */
function membersOf(node: Node, sources: VectorSources): readonly NumberVector[] | null {
  if (node.kind === 'name') return sources.members(node.name)
  const filtered = node.kind === 'filter' ? filteredSet(node, sources) : null
  return filtered && filtered.members.map((member) => {
    const valid = emptyBitmap(member.length)
    for (let at = 0; at < member.length; at++) if (hasBit(member.valid, at) && filtered.isLeft(member.doubles[at]!)) setBit(valid, at)
    return { ...member, valid }
  })
}

/** `count(Set[item >= 3])`, without a set of what is left. */
function countWhere(node: NodeOf<'filter'>, sources: VectorSources): NumberVector | null {
  const filtered = filteredSet(node, sources)
  if (!filtered?.stretch) return null
  const { length } = sources
  const counts = new Float64Array(length)
  for (const member of filtered.members) addWithin(counts, member, ...filtered.stretch)
  return { length, kind: 'number', doubles: counts, errors: null, valid: fullBitmap(length), inexact: NONE_INEXACT }
}

function addWithin(counts: Float64Array, member: NumberVector, from: number, to: number): void {
  const doubles = withoutMissing(member)
  const { length } = counts
  if (to === Infinity) for (let at = 0; at < length; at++) counts[at]! += Number(doubles[at]! >= from)
  else for (let at = 0; at < length; at++) counts[at]! += Number(doubles[at]! >= from) & Number(doubles[at]! < to)
}

const known = new WeakMap<Float64Array, Float64Array>()

/** The doubles, with what is like no number where there is none: made once for all that is counted of them. */
function withoutMissing({ doubles, valid: { words } }: NumberVector): Float64Array {
  const made = known.get(doubles) ?? doubles.map((double, at) => (((words[at >>> 5]! >>> (at & 31)) & 1) === 1 ? double : NaN))
  known.set(doubles, made)
  return made
}

/** @param needsAll whether a blank among the members makes the result blank, as among arguments; of a column set blanks are left out */
function gathered(name: Gathering, members: readonly NumberVector[], length: number, needsAll: boolean): NumberVector {
  const counts = countsOf(members, length)
  const least = needsAll ? members.length : name === 'count' ? 0 : 1
  const valid = emptyBitmap(length)
  for (let at = 0; at < length; at++) if (counts[at]! >= least) setBit(valid, at)
  const kind = members[0]?.kind ?? 'number'
  switch (name) {
    case 'count':
      return { length, kind: 'number', doubles: Float64Array.from(counts), errors: null, valid, inexact: NONE_INEXACT }
    case 'sum': case 'mean':
      return { length, kind, ...summed(members, length, name === 'mean' ? counts : null), valid, inexact: NONE_INEXACT }
    case 'median':
      return { length, kind, ...medians(members, length), valid, inexact: NONE_INEXACT }
    case 'min': case 'max': {
      const { doubles, errors } = extremes(members, length, name === 'max' ? 1 : -1)
      // What is there is a bound of it where something is missing, as long as it is known exactly.
      const bounds = needsAll ? doubles.map((double, at) => (counts[at] === 0 || errors[at] !== 0 ? NaN : double)) : undefined
      return { length, kind, doubles, errors, valid, inexact: NONE_INEXACT, bounds }
    }
  }
}

function countsOf(members: readonly NumberVector[], length: number): Uint16Array {
  const counts = new Uint16Array(length)
  for (const { valid: { words } } of members) for (let at = 0; at < length; at++) counts[at]! += (words[at >>> 5]! >>> (at & 31)) & 1
  return counts
}

/**
 * Sums, or where counts are given means. No sum of n doubles, each the nearest to its decimal, is further off than n units
 * of the sum of their sizes (N. J. Higham, Accuracy and Stability of Numerical Algorithms, clause 4.2).
 */
function summed(members: readonly NumberVector[], length: number, counts: Uint16Array | null): { doubles: Float64Array; errors: Float64Array } {
  const [doubles, errors, sizes] = [new Float64Array(length), new Float64Array(length), new Float64Array(length)]
  for (const { doubles: values, errors: own, valid: { words } } of members) {
    for (let at = 0; at < length; at++) {
      if (((words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      doubles[at]! += values[at]!
      sizes[at]! += Math.abs(values[at]!)
      if (own) errors[at]! += own[at]!
    }
  }
  const units = (members.length + 1) * UNIT
  for (let at = 0; at < length; at++) {
    const count = counts ? Math.max(1, counts[at]!) : 1
    const size = sizes[at]!
    const [total, far] = [doubles[at]!, errors[at]!]
    doubles[at] = total / count
    // The last terms make up for the division, for decimal128's own rounding, and for those in the bound itself.
    errors[at] = size > LARGEST || !(size === 0 || size > SMALLEST) ? Infinity : ((far + size * units) / count) * (1 + 1e-9) + Math.abs(doubles[at]!) * 2 * UNIT
  }
  return { doubles, errors }
}

function extremes(members: readonly NumberVector[], length: number, sign: 1 | -1): { doubles: Float64Array; errors: Float64Array } {
  const [doubles, errors] = [new Float64Array(length).fill(sign * -Infinity), new Float64Array(length)]
  for (const member of members) {
    const { doubles: values, valid: { words } } = member
    const isExact = !member.errors && member.inexact.size === 0
    for (let at = 0; at < length; at++) {
      if (((words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      const value = values[at]!
      if (sign === 1 ? value > doubles[at]! : value < doubles[at]!) doubles[at] = value
      // One that does not stand for its decimal leaves a doubt, whichever it is in the end.
      if (!isExact && !standsFor(member, at)) errors[at] = Math.max(errors[at]!, errorAt(member, at))
    }
  }
  for (let at = 0; at < length; at++) if (errors[at] !== 0) errors[at] = Math.max(errors[at]!, Math.abs(doubles[at]!) * UNIT)
  return { doubles, errors }
}

/** No value is off by more than the worst of them, and so neither is the one in the middle. */
function medians(members: readonly NumberVector[], length: number): { doubles: Float64Array; errors: Float64Array } {
  const [doubles, errors] = [new Float64Array(length), new Float64Array(length)]
  const values = new Float64Array(members.length)
  const areExact = members.every((member) => !member.errors && member.inexact.size === 0)
  for (let at = 0; at < length; at++) {
    let count = 0
    let error = 0
    for (let next = 0; next < members.length; next++) {
      const member = members[next]!
      if (((member.valid.words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      insert(values, count++, member.doubles[at]!)
      if (!areExact && !standsFor(member, at)) error = Math.max(error, errorAt(member, at))
    }
    if (count === 0) continue
    const middle = count >>> 1
    const value = values[middle]!
    if (count % 2 === 1) {
      doubles[at] = value
      errors[at] = error === 0 ? 0 : Math.max(error, Math.abs(value) * UNIT)
    } else {
      const below = values[middle - 1]!
      doubles[at] = (below + value) / 2
      errors[at] = below === value && error === 0 ? 0 : Math.max(error, Math.max(Math.abs(below), Math.abs(value)) * 4 * UNIT)
    }
  }
  return { doubles, errors }
}

/** Puts a value among `count` others that ascend. */
function insert(values: Float64Array, count: number, value: number): void {
  let at = count
  for (; at > 0 && values[at - 1]! > value; at--) values[at] = values[at - 1]!
  values[at] = value
}
