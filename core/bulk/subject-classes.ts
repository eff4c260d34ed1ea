/**
 * Classes under tests that ask where one number, or day, lies: a column's, or one that is reckoned from several. Doubles
 * tell between which cuts it lies; what lies closer to a cut than they can tell is asked in decimals.
 */
import { isOpen } from '../expression/open'
import type { Node } from '../expression/tree'
import { sizeOf } from '../rule/axes'
import { isInPiece, type Piece } from '../rule/simple-test'
import { complement, isFull, placesOf } from '../table/bitmap'
import type { Value } from '../value/value'
import { holds } from '../decide/facts'
import { FALSE, TRUE, type Verdict } from '../decide/verdict'
import { type AskedTable, classFor, possibleOf } from './asked-table'
import { isMissing } from './input-columns'
import { errorAt, type NumberVector } from './number-vector'
import { ClassList, type TestClasses } from './test-classes'
import type { GroupedTest } from './test-groups'
import { type ClassNumbers, intervalOf, roomForClasses, stretchOf, thresholdsOf, writeClasses } from './thresholds'

export interface SubjectClasses extends TestClasses {
  readonly vector: NumberVector
  readonly thresholds: Float64Array
  /** By number of thresholds passed, the class. */
  readonly classOf: ClassNumbers
  /** Whether no record but the missing ones had to be looked at by itself. */
  readonly isPlain: boolean
}

/** @param subject what all of the tests look at */
export function subjectClasses(asked: AskedTable, subject: Node, grouped: readonly GroupedTest[], vector: NumberVector): SubjectClasses {
  const tests = grouped.map(({ test }) => test)
  const list = new ClassList()
  const { thresholds, verdicts } = intervalsOf(grouped)
  const byInterval = verdicts.map((one) => list.placeOf(one, []))
  // Room for all that missing and doubtful records can add.
  const classOf = Uint32Array.from(byInterval)
  const extra: { at: number; place: number }[] = []
  const look = (at: number) => {
    const { verdicts, open } = classFor(asked, tests, asked.facts(at))
    extra.push({ at, place: list.placeOf(verdicts, open) })
  }
  const isOfTwo = grouped.some((one) => one.isOfTwo)
  const missing = missingClasses(asked, subject, vector, thresholds, isOfTwo, (at) => {
    const { verdicts, open } = classFor(asked, tests, asked.facts(at))
    return list.placeOf(verdicts, open)
  })
  if (!isFull(vector.valid)) for (const at of placesOf(complement(vector.valid))) extra.push({ at, place: missing(at) })
  const doubtful = doubtfulPlaces(vector, thresholds, grouped.flatMap(({ pieces }) => pieces))
  for (const at of doubtful) {
    const value = possibleOf(subject, asked.facts(at))
    if (isOpen(value) || value === null) look(at)
    else extra.push({ at, place: list.placeOf(grouped.map((one) => verdictOn(one, value)), []) })
  }
  const classes = roomForClasses(list.verdicts.length, vector.length)
  writeClasses(vector.doubles, thresholds, classOf, classes)
  for (const { at, place } of extra) classes[at] = place
  return { tests, classes, verdicts: list.verdicts, open: list.open, vector, thresholds, classOf, isPlain: doubtful.length === 0 && !vector.errors && vector.inexact.size === 0 }
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
    const error = errorAt(vector, at)
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
  const known = new Map<string, number>()
  return (at) => {
    let [held, passed] = [false, false]
    names.forEach((_, place) => {
      if (!isGivenMissing[place]!(at)) return
      if (isHolding[place]!) held = true
      else passed = true
    })
    // What passes beside what holds is null or open, as its own parts have it.
    if ((passed && isHolding.includes(true)) || (isOfTwo && !held)) return look(at)
    let key = `${held} ${passed}`
    if (isExtreme && held) {
      const bound = areBounds ? vector.bounds?.[at] : undefined
      if (bound === undefined || Number.isNaN(bound)) return look(at)
      key += ` ${intervalOf(bound, thresholds)}`
    }
    if (!known.has(key)) known.set(key, look(at))
    return known.get(key)!
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

/** The same tests with other cuts: only records between where a cut was and where it is now change. Null where more changed than cuts. */
export function movedClasses(before: SubjectClasses, grouped: readonly GroupedTest[]): { moved: SubjectClasses; changed: Int32Array } | null {
  if (!before.isPlain || before.tests.length !== grouped.length) return null
  const { thresholds, verdicts } = intervalsOf(grouped)
  if (thresholds.length !== before.thresholds.length) return null
  const isSame = verdicts.every((one, passed) => one.join() === before.verdicts[before.classOf[passed]!]!.join())
  if (!isSame) return null
  const { vector, classOf } = before
  const classes = before.classes.slice()
  const changed: number[] = []
  let [low, high] = [Infinity, -Infinity]
  thresholds.forEach((to, at) => {
    const from = before.thresholds[at]!
    if (from === to) return
    low = Math.min(low, from, to)
    high = Math.max(high, from, to)
  })
  const { doubles, valid } = vector
  if (low < high) {
    for (let at = 0; at < doubles.length; at++) {
      const double = doubles[at]!
      if (!(double >= low && double < high) || ((valid.words[at >>> 5]! >>> (at & 31)) & 1) === 0) continue
      const place = classOf[intervalOf(double, thresholds)]!
      if (place === classes[at]) continue
      classes[at] = place
      changed.push(at)
    }
  }
  return { moved: { ...before, tests: grouped.map(({ test }) => test), classes, thresholds }, changed: Int32Array.from(changed) }
}
