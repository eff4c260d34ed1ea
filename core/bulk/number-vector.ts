/**
 * Numeric expressions over whole columns, in doubles that carry a bound of their own error: whoever compares
 * one with a constant closer than its error has to ask the decimals (see `subject-classes`). Days are counted as
 * numbers too, and durations in seconds, or in months.
 */
import { evaluate } from '../expression/evaluate'
import { freeNames, type Node, type NodeOf } from '../expression/tree'
import { emptyBitmap, fullBitmap, hasBit, intersection } from '../table/bitmap'
import { sizeOf } from '../rule/axes'
import { calendarDay, completedMonths } from '../value/calendar'
import { kindOf, type Value } from '../value/value'
import { GATHERED, gathered, type Gathering, RANKED, rankedMembers } from './gathered'
import { countWhere, membersOf } from './set-members'
import { errorAt, LARGEST, NONE_INEXACT, type NumberVector, SMALLEST, standsFor, UNIT, type VectorKind, type VectorSources } from './vector'

const SECONDS_A_DAY = 86_400
/** Beyond, days are near the end of the calendar, which only exact arithmetic knows. */
const FARTHEST_DAY = 1e8

/** @returns null where the expression is made of anything else than numbers, days, lengths of time, + - * /, abs, and what can be gathered of lists and sets */
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
      return partOf(node, sources)
    default:
      return null
  }
}

function constantVector(value: Value, length: number): NumberVector | null {
  const kind = kindOf(value)
  // What comes to nothing does so in every record.
  if (value === null) return { length, kind: 'number', doubles: new Float64Array(length), errors: null, valid: emptyBitmap(length), inexact: NONE_INEXACT }
  if (!isVectorKind(kind)) return null
  return { length, kind, doubles: new Float64Array(length).fill(sizeOf(value).toNumber()), errors: null, valid: fullBitmap(length), inexact: NONE_INEXACT }
}

function isVectorKind(kind: string): kind is VectorKind {
  return kind === 'number' || kind === 'date' || kind === 'days and time duration' || kind === 'years and months duration'
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
  if (a === 'years and months duration' || b === 'years and months duration') return a === b && isSum ? a : null
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

/** `(today() - Due).days`, and the whole years of a length of time, or the months beyond them. */
function partOf({ of, name }: NodeOf<'path'>, sources: VectorSources): NumberVector | null {
  const part = PARTS[name]
  const vector = part && numberVector(of, sources)
  if (!vector || vector.kind !== part.kind) return null
  // Adding zero turns -0 into 0.
  const doubles = vector.doubles.map((size) => part.of(size) + 0)
  return { ...vector, kind: 'number', doubles, errors: doubles.map((_, at) => (errorAt(vector, at) === 0 ? 0 : Infinity)) }
}

const PARTS: Partial<Record<string, { kind: VectorKind; of(size: number): number }>> = {
  days: { kind: 'days and time duration', of: (seconds) => Math.trunc(seconds / SECONDS_A_DAY) },
  years: { kind: 'years and months duration', of: (months) => Math.trunc(months / 12) },
  months: { kind: 'years and months duration', of: (months) => months % 12 },
}

/** Completed months from one day to another. */
function monthsBetween([from, to]: readonly Node[], sources: VectorSources): NumberVector | null {
  const [a, b] = [numberVector(from!, sources), numberVector(to!, sources)]
  if (a?.kind !== 'date' || b?.kind !== 'date') return null
  const { length } = a
  const [doubles, errors, valid] = [new Float64Array(length), new Float64Array(length), intersection(a.valid, b.valid)]
  for (let at = 0; at < length; at++) {
    if (!hasBit(valid, at)) continue
    const [first, last] = [a.doubles[at]!, b.doubles[at]!]
    const isKnown = errorAt(a, at) === 0 && errorAt(b, at) === 0 && Math.abs(first) < FARTHEST_DAY && Math.abs(last) < FARTHEST_DAY
    if (isKnown) doubles[at] = completedMonths(calendarDay(first), calendarDay(last))
    else errors[at] = Infinity
  }
  return { length, kind: 'years and months duration', doubles, errors, valid, inexact: NONE_INEXACT }
}

function call({ name, args, names }: NodeOf<'call'>, sources: VectorSources): NumberVector | null {
  const [first] = args
  if (!first || names) return null
  if (name === 'abs' && args.length === 1) {
    const of = numberVector(first, sources)
    return of && of.kind !== 'date' ? { ...of, doubles: of.doubles.map(Math.abs), bounds: undefined } : null
  }
  if (name === RANKED.fromAbove || name === RANKED.fromBelow) return ranked(name, first, args[1]!, sources)
  if (name === 'years and months duration' && args.length === 2) return monthsBetween(args, sources)
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

function ranked(name: string, set: Node, place: Node, sources: VectorSources): NumberVector | null {
  const members = set.kind === 'name' ? sources.members(set.name) : null
  // What does not stand for its decimal could change places with its neighbour.
  if (!members || place.kind !== 'number' || members.some(({ errors, inexact }) => errors || inexact.size > 0)) return null
  return rankedMembers(members, Number(place.number), name === RANKED.fromAbove ? 1 : -1, sources.length)
}
