/**
 * Classes under tests that ask where one number, or day, lies: a column's, or one that is reckoned from several. Doubles
 * tell between which cuts it lies; what lies closer to a cut than they can tell is asked in decimals.
 */
import { isOpen } from '../expression/open'
import { freeNames, type Node } from '../expression/tree'
import { sizeOf } from '../rule/axes'
import type { Test } from '../rule/condition'
import { isInPiece, type Piece } from '../rule/simple-test'
import { type Bitmap, complement, hasBit, isFull, placesOf } from '../table/bitmap'
import type { Value } from '../value/value'
import { testVerdict } from '../decide/decide-record'
import { holds } from '../decide/facts'
import { FALSE, TRUE, type Verdict } from '../decide/verdict'
import { type AskedTable, classFor, possibleOf } from './asked-table'
import { isMissing } from './input-columns'
import type { AddClasses } from './record-numbers'
import { placesBetween, stretchIndex } from './stretch-index'
import { type Changed, ClassList, inUse, type TestClasses } from './test-classes'
import type { GroupedTest } from './subject-tests'
import { intervalAdder, intervalOf, stretchOf, thresholdsOf } from './thresholds'
import type { NumberVector } from './vector'

export interface SubjectClasses extends TestClasses {
  readonly vector: NumberVector
  readonly thresholds: Float64Array
  /** By number of thresholds passed, the class. */
  readonly classOf: Uint32Array
  /** Whether no record but the missing ones had to be looked at by itself. */
  readonly isPlain: boolean
  readonly others: OtherRecords
}

/** The records that are not where their doubles lie. */
interface OtherRecords {
  /** By each of their classes, one of them. */
  readonly samples: ReadonlyMap<number, number>
  /** Gives them their classes in place of those that were added last. */
  readonly putRight: AddClasses
}

/** @param subject what all of the tests look at */
export function subjectClasses(asked: AskedTable, subject: Node, grouped: readonly GroupedTest[], vector: NumberVector): SubjectClasses {
  const tests = grouped.map(({ test }) => test)
  const list = new ClassList()
  const { thresholds, verdicts } = intervalsOf(grouped)
  const byInterval = verdicts.map((one) => list.placeOf(one, []))
  const classOf = Uint32Array.from(byInterval)
  const look = (at: number) => {
    const { verdicts, open } = classFor(asked, tests, asked.facts(at))
    return list.placeOf(verdicts, open)
  }
  // Of a greatest value that is missing something is known, which may be enough beside another.
  const hasBounds = grouped.some(({ test: { tree } }) => tree.kind === 'comparison' && [tree.left, tree.right].every((side) => freeNames(side).length > 0) && [tree.left, tree.right].some((side) => isExtremeValue(side, asked)))
  const missing = hasBounds ? look : missingClasses(asked, subject, vector, thresholds, grouped.some(({ isOfTwo }) => isOfTwo), look)
  const doubtful = doubtfulPlaces(vector, thresholds, grouped.flatMap(({ pieces }) => pieces))
  const doubtfulClass = (at: number) => {
    const value = possibleOf(subject, asked.facts(at))
    return isOpen(value) || value === null ? look(at) : list.placeOf(grouped.map((one) => verdictOn(one, value)), [])
  }
  // Of one given input only that itself can be missing, in all of these records alike.
  const isOneInput = subject.kind === 'name' && !asked.gate.inputs.get(subject.name)!.figure
  const others = isOneInput && doubtful.length === 0 ? alikeOthers(vector.valid, look) : listedOthers(vector.valid, missing, doubtful, doubtfulClass)
  const isPlain = doubtful.length === 0 && !vector.errors && vector.inexact.size === 0
  return { tests, verdicts: list.verdicts, open: list.open, vector, thresholds, classOf, inUse: inUse(classOf), isPlain, others, addTo: adder(vector, thresholds, classOf, others) }
}

function adder({ doubles }: NumberVector, thresholds: Float64Array, classOf: Uint32Array, others: OtherRecords): AddClasses {
  let addIntervals: AddClasses | null = null
  return (numbers, width, from) => {
    // Not before it is needed: while cuts move, most never are.
    addIntervals ??= intervalAdder(doubles, thresholds, classOf)
    addIntervals(numbers, width, from)
    others.putRight(numbers, width, from)
  }
}

/** Records without a value that are all of one class. */
function alikeOthers(valid: Bitmap, look: (at: number) => number): OtherRecords {
  const first = firstOutside(valid)
  if (first === null) return { samples: new Map(), putRight: () => undefined }
  const place = look(first)
  return {
    samples: new Map([[place, first]]),
    putRight(numbers, width, from) {
      // Stretches begin where words do.
      for (let start = 0; start < numbers.length; start += 32) {
        for (let left = ~valid.words[(from + start) >>> 5]!; left !== 0; left &= left - 1) {
          const at = start + 31 - Math.clz32(left & -left)
          if (at < numbers.length) numbers[at] = numbers[at]! - (numbers[at]! % width) + place
        }
      }
    },
  }
}

function firstOutside(valid: Bitmap): number | null {
  if (isFull(valid)) return null
  for (let at = 0; at < valid.length; at++) if (!hasBit(valid, at)) return at
  return null
}

/** Records without a value, and those that doubles leave a doubt about, each with a class of its own. */
function listedOthers(valid: Bitmap, missing: (at: number) => number, doubtful: readonly number[], doubtfulClass: (at: number) => number): OtherRecords {
  const without = isFull(valid) ? new Uint32Array() : placesOf(complement(valid))
  const places = new Uint32Array(without.length + doubtful.length)
  const classes = new Uint32Array(places.length)
  const samples = new Map<number, number>()
  for (let [next, ofWithout, ofDoubtful] = [0, 0, 0]; next < places.length; next++) {
    const isMissingNext = ofDoubtful === doubtful.length || without[ofWithout]! < doubtful[ofDoubtful]!
    const at = isMissingNext ? without[ofWithout++]! : doubtful[ofDoubtful++]!
    places[next] = at
    classes[next] = isMissingNext ? missing(at) : doubtfulClass(at)
    if (classes[next] !== classes[next - 1] && !samples.has(classes[next]!)) samples.set(classes[next]!, at)
  }
  return {
    samples,
    putRight(numbers, width, from) {
      const end = firstFrom(places, from + numbers.length)
      for (let next = firstFrom(places, from); next < end; next++) {
        const at = places[next]! - from
        numbers[at] = numbers[at]! - (numbers[at]! % width) + classes[next]!
      }
    },
  }
}

/** Where in ascending places the first is that is at least `record`. */
function firstFrom(places: Uint32Array, record: number): number {
  let [from, to] = [0, places.length]
  while (from < to) {
    const middle = (from + to) >>> 1
    if (places[middle]! < record) from = middle + 1
    else to = middle
  }
  return from
}

/** What the tests come to between any two neighbouring thresholds. */
function intervalsOf(grouped: readonly GroupedTest[]): { thresholds: Float64Array; verdicts: Verdict[][] } {
  const thresholds = thresholdsOf(grouped.flatMap(({ pieces }) => pieces))
  const stretches = grouped.map(({ pieces }) => pieces.map((piece) => stretchOf(piece)))
  const verdicts = Array.from({ length: thresholds.length + 1 }, (_, passed) => {
    const double = passed === 0 ? -Infinity : thresholds[passed - 1]!
    return grouped.map(({ isNegated }, test): Verdict => (stretches[test]!.some(([from, to]) => double >= from && double < to) !== isNegated ? TRUE : FALSE))
  })
  return { thresholds, verdicts }
}

function verdictOn({ pieces, isNegated }: { pieces: readonly Piece[]; isNegated: boolean }, value: Value): Verdict {
  const size = sizeOf(value)
  const isInside = pieces.some((piece) => isInPiece(size, { ...piece, low: piece.low === null ? null : sizeOf(piece.low), high: piece.high === null ? null : sizeOf(piece.high) }))
  return isInside !== isNegated ? TRUE : FALSE
}

/** Records whose doubles leave a doubt about the cuts that they lie between. */
function doubtfulPlaces(vector: NumberVector, thresholds: Float64Array, pieces: readonly Piece[]): number[] {
  const { doubles, errors, inexact, valid, length } = vector
  const isValid = (at: number) => ((valid.words[at >>> 5]! >>> (at & 31)) & 1) === 1
  if (!errors) {
    // Rounding to doubles keeps order, so only decimals that share their double with an end need care.
    const ends = new Set(pieces.flatMap(({ low, high }) => [low, high]).filter((end) => end !== null).map((end) => sizeOf(end).toNumber()))
    return [...inexact.keys()].filter((at) => isValid(at) && ends.has(doubles[at]!))
  }
  const doubtful: number[] = []
  if (thresholds.length === 0) return doubtful
  for (let at = 0; at < length; at++) {
    const error = errors[at]!
    if (error === 0) continue
    const double = doubles[at]!
    const passed = intervalOf(double, thresholds)
    const below = passed === 0 ? Infinity : double - thresholds[passed - 1]!
    const above = passed === thresholds.length ? Infinity : thresholds[passed]! - double
    const room = error + Math.abs(double) * 2 ** -51
    // Written so that an error that is not a number counts as a doubt.
    if (!(below > room && above > room) && isValid(at)) doubtful.push(at)
  }
  return doubtful
}

/** Gives the class of a record for which nothing came of the subject. Records that lack the same are alike, and asked once. */
function missingClasses(asked: AskedTable, subject: Node, vector: NumberVector, thresholds: Float64Array, isOfTwo: boolean, look: (at: number) => number): (at: number) => number {
  const { gate, table, vectors } = asked
  const names = namesIn(subject, asked)
  const isHolding = names.map((name) => holds(gate.inputs.get(name)!))
  const isGivenMissing = names.map((name) => (gate.inputs.get(name)!.figure ? (at: number) => !isValidAt(vectors.input(name), at) : (at: number) => isMissing(table, name, at)))
  const isExtreme = isExtremeValue(subject, asked)
  // Only what would have a value is bounded by the others.
  const areBounds = asked.givenBehind(names).concat(names).every((name) => holds(gate.inputs.get(name)!))
  const known: number[] = []
  return (at) => {
    let [held, passed] = [false, false]
    for (let place = 0; place < names.length; place++) {
      if (!isGivenMissing[place]!(at)) continue
      if (isHolding[place]!) held = true
      else passed = true
    }
    // What passes beside what holds is null or open, as its own parts have it.
    if ((passed && isHolding.includes(true)) || (isOfTwo && !held)) return look(at)
    let key = Number(held) * 2 + Number(passed)
    if (isExtreme && held) {
      const bound = areBounds ? vector.bounds?.[at] : undefined
      if (bound === undefined || Number.isNaN(bound)) return look(at)
      key += 4 * (1 + intervalOf(bound, thresholds))
    }
    return (known[key] ??= look(at))
  }
}

function isValidAt(vector: NumberVector | null, at: number): boolean {
  return vector !== null && ((vector.valid.words[at >>> 5]! >>> (at & 31)) & 1) === 1
}

/** The inputs that an expression looks at; those of a column set are never missing. */
function namesIn(subject: Node, { gate }: AskedTable): string[] {
  const found = new Set<string>()
  const visit = (node: Node): void => {
    if (node.kind === 'name' && !gate.inputs.get(node.name)?.isSet && gate.inputs.has(node.name)) found.add(node.name)
    else if (node.kind === 'arithmetic') [node.left, node.right].forEach(visit)
    else if (node.kind === 'call') node.args.forEach(visit)
    else if (node.kind === 'list') node.items.forEach(visit)
    else if (node.kind === 'negate' || node.kind === 'path') visit(node.of)
  }
  visit(subject)
  return [...found]
}

/** Whether a greatest or least value is what comes out: of it something is known although a part is missing. */
function isExtremeValue(subject: Node, asked: AskedTable): boolean {
  if (subject.kind === 'call') return subject.name === 'max' || subject.name === 'min'
  const figure = subject.kind === 'name' ? asked.gate.inputs.get(subject.name)?.figure : null
  return figure ? isExtremeValue(figure, asked) : false
}

/** Classes that have come with moves, beside those that are needed: with more of them all records are looked at again. */
const MOST_UNUSED = 32

/**
 * The same tests with other cuts: only records between where a cut was and where it is now are in another class. What is
 * met on the way keeps its class; new ones come behind those that are there.
 * @returns null where more changed than cuts
 */
export function movedClasses(asked: AskedTable, before: SubjectClasses, grouped: readonly GroupedTest[]): { moved: SubjectClasses; changed: Changed } | null {
  if (!before.isPlain || before.tests.length !== grouped.length) return null
  const { thresholds, verdicts: byInterval } = intervalsOf(grouped)
  const known = new Map(before.verdicts.flatMap((one, place) => (before.open[place]!.length === 0 ? [[one.join(), place] as const] : [])))
  const verdicts = [...before.verdicts]
  const classOf = Uint32Array.from(byInterval, (one) => {
    const key = one.join()
    if (!known.has(key)) known.set(key, verdicts.push(one) - 1)
    return known.get(key)!
  })
  if (verdicts.length > byInterval.length + MOST_UNUSED || !areMissingAlike(asked, before, grouped.map(({ test }) => test))) return null
  const { vector, others, open } = before
  const moved: SubjectClasses = {
    ...before, tests: grouped.map(({ test }) => test), thresholds, classOf, inUse: inUse(classOf), addTo: adder(vector, thresholds, classOf, others),
    ...(verdicts.length > before.verdicts.length ? { verdicts, open: [...open, ...verdicts.slice(open.length).map(() => [])] } : {}),
  }
  const [low, high] = stretchOfChange(before, moved)
  return { moved, changed: changedBetween(low, high, vector, before, moved) }
}

type Thresholds = Pick<SubjectClasses, 'thresholds' | 'classOf'>

/** The stretch outside which every value is in the class that it was in; an empty one where all are. */
function stretchOfChange(before: Thresholds, after: Thresholds): [low: number, high: number] {
  const classAt = ({ thresholds, classOf }: Thresholds, double: number) => classOf[intervalOf(double, thresholds)]!
  const starts = [-Infinity, ...Float64Array.from(new Set([...before.thresholds, ...after.thresholds])).sort()]
  const changed = starts.flatMap((start, at) => (classAt(before, start) === classAt(after, start) ? [] : [at]))
  return changed.length === 0 ? [0, 0] : [starts[changed[0]!]!, starts[changed.at(-1)! + 1] ?? Infinity]
}

/** Whether the tests say of records without a value what those before them said. */
function areMissingAlike(asked: AskedTable, { others: { samples }, verdicts }: SubjectClasses, tests: readonly Test[]): boolean {
  return [...samples].every(([place, at]) => {
    const facts = asked.facts(at)
    return tests.every((test, index) => testVerdict(asked.gate, test, facts) === verdicts[place]![index])
  })
}

function changedBetween(low: number, high: number, { doubles, valid: { words } }: NumberVector, before: SubjectClasses, after: SubjectClasses): Changed {
  const index = stretchIndex(doubles)
  const among = index && placesBetween(index, low, high)
  const values = among?.values ?? doubles
  const { length } = values
  // Not lists that grow: a drag would fill the memory with them, and stand still while that is cleared.
  let [places, steps, count] = [new Uint32Array(1024), new Int32Array(1024), 0]
  for (let next = 0; next < length; next++) {
    const double = values[next]!
    if (!(double >= low && double < high)) continue
    const at = among ? among.places[next]! : next
    if (((words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
    const step = after.classOf[intervalOf(double, after.thresholds)]! - before.classOf[intervalOf(double, before.thresholds)]!
    if (step === 0) continue
    if (count === places.length) {
      const [more, further] = [new Uint32Array(4 * count), new Int32Array(4 * count)]
      more.set(places)
      further.set(steps)
      ;[places, steps] = [more, further]
    }
    places[count] = at
    steps[count++] = step
  }
  return { places: places.subarray(0, count), steps: steps.subarray(0, count) }
}
