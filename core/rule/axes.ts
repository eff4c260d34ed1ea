/**
 * The space of all that a gate can be asked: an axis for each thing its tests look at, cut into regions at every
 * constant, so that no test changes its mind within a region.
 */
import { printExpression } from '../expression/print'
import type { Node } from '../expression/tree'
import { compareValues } from '../value/compare'
import { Decimal } from '../value/number'
import { numberBetween } from '../value/number-between'
import { type DateValue, type DayTimeDuration, isNumber, kindOf, type RangeValue, type Value, type YearMonthDuration } from '../value/value'
import { textOfValue, valueFromText } from '../value/value-text'
import { type Test, testsOf } from './condition'
import type { Lowered, LoweredInput } from './rules'
import { blankTest, isInPiece, simpleTest, type SimpleTest } from './simple-test'

/** A stretch of an axis on which every test is true throughout or false throughout. */
export interface Region {
  /** A value in it. */
  example: Value
  /** As a FEEL unary test. */
  text: string
  /** Exactly one value: a cut. */
  isPoint: boolean
  /** Its ends, where the axis is ordered; null where it has none on that side. */
  low: Value
  high: Value
  /** Whether the values in it are expected at all. */
  isExpected: boolean
}

export interface Axis {
  /** The input's name, or the expression's text. */
  name: string
  /** What lies along it. */
  subject: Node
  /** The given input, where the axis is one; null for a figure, an expression, and a test that is taken as a whole. */
  input: LoweredInput | null
  /** Whether it is an input by itself, given or a figure. */
  isInput: boolean
  isOrdered: boolean
  regions: Region[]
}

export interface Space {
  axes: Axis[]
  /** By test. */
  places: ReadonlyMap<string, TestPlace>
}

export interface TestPlace {
  axis: number
  /** In which of the axis' regions the test is true. */
  readonly isTrue: readonly boolean[]
}

/** Of many tests on one axis it is much, and most who ask for a space look at its axes alone: it is worked out when it is first asked for. */
function placeOn(axis: number, find: () => boolean[]): TestPlace {
  let found: boolean[] | null = null
  return {
    axis,
    get isTrue() {
      return (found ??= find())
    },
  }
}

export function spaceOf(gate: Lowered, today: DateValue): Space {
  const axes: Axis[] = []
  const places = new Map<string, TestPlace>()
  const { subjects, others } = testsBySubject(gate, today)
  for (const test of others) {
    const isBlank = blankTest(test.tree)
    // Among values, `= null` is false and `!= null` is true.
    if (isBlank) places.set(test.text, { axis: axes.push(wholeAxis(test, [isBlank.isNegated])) - 1, isTrue: [isBlank.isNegated] })
    else places.set(test.text, { axis: axes.push(wholeAxis(test, [true, false])) - 1, isTrue: [true, false] })
  }
  for (const [name, tests] of subjects) {
    const { axis, isTrue } = axisOf(gate, name, tests)
    const at = axes.push(axis) - 1
    tests.forEach(([{ text }], test) => places.set(text, placeOn(at, () => isTrue(test))))
  }
  return { axes, places }
}

export type SubjectTest = readonly [Test, SimpleTest]

/** A gate's tests by what they look at, and those that are none of constants. */
export function testsBySubject(gate: Lowered, today: DateValue): { subjects: ReadonlyMap<string, SubjectTest[]>; others: Test[] } {
  const tests = new Map<string, Test>()
  for (const { condition } of gate.rules) for (const test of testsOf(condition)) tests.set(test.text, test)
  const subjects = new Map<string, SubjectTest[]>()
  const others: Test[] = []
  for (const test of tests.values()) {
    const simple = simpleTest(test.tree, today)
    if (!simple || !isRegular(simple)) {
      others.push(test)
      continue
    }
    const name = printExpression(simple.subject)
    if (subjects.get(name)?.push([test, simple]) === undefined) subjects.set(name, [[test, simple]])
  }
  return { subjects, others }
}

/** @returns the axis, and in which of its regions a test, by its place among `tests`, is true */
export function axisOf(gate: Lowered, name: string, tests: readonly SubjectTest[]): { axis: Axis; isTrue: (test: number) => boolean[] } {
  const { subject } = tests[0]![1]
  const input = inputOf(gate, name, subject)
  const regions = regionsOf(tests.flatMap(([, { pieces }]) => pieces), input, isCount(input?.figure ?? subject))
  const isOrdered = isOrderedKind(regions[0]!.example)
  const reach = isOrdered ? orderedReach(regions) : singleReach(regions)
  return {
    axis: { name, subject, input: input?.figure ? null : input, isInput: input !== null, isOrdered, regions },
    isTrue(test) {
      const { pieces, isNegated } = tests[test]![1]
      const isTrue = new Array<boolean>(regions.length).fill(isNegated)
      for (const piece of pieces) isTrue.fill(!isNegated, ...reach(piece))
      return isTrue
    },
  }
}

/** The input that a subject is by itself; null where it is an expression. */
export function inputOf(gate: Lowered, name: string, subject: Node): LoweredInput | null {
  return subject.kind === 'name' ? (gate.inputs.get(name) ?? null) : null
}

/** The first region that a piece lies in, and the one behind the last. */
type Reach = (piece: RangeValue) => [first: number, end: number]

/** Of regions that are a value each, as all pieces are. */
function singleReach(regions: readonly Region[]): Reach {
  const places = new Map(regions.map(({ example }, region) => [example, region]))
  return ({ low }) => {
    const place = places.get(low)!
    return [place, place + 1]
  }
}

/** Regions are in order, so that the two that a piece ends in say it of all. */
function orderedReach(regions: readonly Region[]): Reach {
  const count = (isBefore: (example: Value) => boolean) => {
    let [from, to] = [0, regions.length]
    while (from < to) {
      const middle = (from + to) >>> 1
      if (isBefore(regions[middle]!.example)) from = middle + 1
      else to = middle
    }
    return from
  }
  return ({ low, high, lowIncluded, highIncluded }) => {
    const first = low === null ? 0 : count((example) => compareValues(example, low)! < (lowIncluded ? 0 : 1))
    const end = high === null ? regions.length : count((example) => compareValues(example, high)! < (highIncluded ? 1 : 0))
    return [first, end]
  }
}

/** Functions whose values are whole numbers from 0 on. */
const COUNTS: ReadonlySet<string> = new Set(['count', 'string length'])

function isCount(subject: Node): boolean {
  return subject.kind === 'call' && COUNTS.has(subject.name)
}

function wholeAxis({ text, tree }: Test, verdicts: boolean[]): Axis {
  const regions = verdicts.map((verdict): Region => ({ example: verdict, text: String(verdict), isPoint: true, low: null, high: null, isExpected: true }))
  return { name: text, subject: tree, input: null, isInput: false, isOrdered: false, regions }
}

/** Texts lie side by side here, not in a row: an order of texts is taken as a whole. */
function isRegular({ pieces }: SimpleTest): boolean {
  return pieces.every((piece) => piece.isPoint || isOrderedKind(piece.low ?? piece.high)) && pieces.length > 0
}

function isOrderedKind(value: Value): boolean {
  const kind = kindOf(value)
  return kind !== 'text' && kind !== 'boolean'
}

function regionsOf(pieces: readonly RangeValue[], input: LoweredInput | null, counts: boolean): Region[] {
  const sample = pieces.flatMap(({ low, high }) => [low, high]).find((end) => end !== null)!
  if (kindOf(sample) === 'boolean') return [true, false].map((value) => valueRegion(value, input))
  if (kindOf(sample) === 'text') return textRegions(pieces, input)
  return orderedRegions(pieces, input, counts)
}

function valueRegion(value: Value, input: LoweredInput | null): Region {
  const text = typeof value === 'string' ? JSON.stringify(value) : textOfValue(value)
  return { example: value, text, isPoint: true, low: value, high: value, isExpected: isExpectedValue(value, input) }
}

function textRegions(pieces: readonly RangeValue[], input: LoweredInput | null): Region[] {
  const expected = input?.expected?.kind === 'list' ? input.expected.values : []
  const values = [...new Set([...pieces.map(({ low }) => low as string), ...expected])]
  let other = 'anything else'
  while (values.includes(other)) other += ' …'
  const isClosed = input?.expected?.kind === 'list'
  return [
    ...values.map((value) => valueRegion(value, input)),
    { example: other, text: `not(${values.map((value) => JSON.stringify(value)).join(', ')})`, isPoint: false, low: null, high: null, isExpected: !isClosed },
  ]
}

function isExpectedValue(value: Value, input: LoweredInput | null): boolean {
  const expected = input?.expected
  if (!expected) return true
  if (expected.kind === 'list') return expected.values.includes(textOfValue(value))
  const end = (at: string | undefined) => (at === undefined ? null : valueFromText(at, input.type))
  return isInPiece(value, {
    kind: 'range', low: end(expected.low?.at), high: end(expected.high?.at), lowIncluded: expected.low?.included ?? false, highIncluded: expected.high?.included ?? false,
  }) !== false
}

/** Below, on, between and above all constants, and the ends of what is expected; stretches without any value are left out. */
function orderedRegions(pieces: readonly RangeValue[], input: LoweredInput | null, counts: boolean): Region[] {
  const kind = kindOf(pieces.flatMap(({ low, high }) => [low, high]).find((end) => end !== null)!)
  const expected = input?.expected?.kind === 'range' ? [input.expected.low, input.expected.high].flatMap((bound) => (bound ? [valueFromText(bound.at, input.type)] : [])) : []
  const step = stepOf(kind, input) ?? (counts ? new Decimal(1) : null)
  const ends = [...pieces.flatMap(({ low, high }) => [low, high]), ...expected].filter((end) => end !== null)
  const points = ends.toSorted((a, b) => compareValues(a, b)!).filter((point, at, all) => at === 0 || compareValues(point, all[at - 1]!) !== 0)
  const regions: Region[] = []
  const between = (low: Value, high: Value) => {
    const isBelowAll = counts && (low === null || sizeOf(low).isNegative())
    const example = valueBetween(isBelowAll ? new Decimal(-1) : low, high, step)
    if (example === null) return
    const text = low === null ? `< ${boundText(high)}` : high === null ? `> ${boundText(low)}` : `(${boundText(low)}..${boundText(high)})`
    regions.push({ example, text, isPoint: false, low, high, isExpected: isExpectedValue(example, input) })
  }
  between(null, points[0]!)
  points.forEach((point, at) => {
    // A cut that no rounded value can lie on is no value at all.
    if (isOnStep(point, step) && !(counts && sizeOf(point).isNegative())) regions.push({ example: point, text: boundText(point), isPoint: true, low: point, high: point, isExpected: isExpectedValue(point, input) })
    between(point, points[at + 1] ?? null)
  })
  return regions
}

/** A bound as FEEL writes it. */
function boundText(value: Value): string {
  return isNumber(value) ? textOfValue(value) : `@"${textOfValue(value)}"`
}

/** The distance of neighbouring values, where the axis has one: a day, or the last place that a precision leaves. */
function stepOf(kind: ReturnType<typeof kindOf>, input: LoweredInput | null): Decimal | null {
  if (kind === 'date' || kind === 'years and months duration') return new Decimal(1)
  return kind === 'number' && input && input.precision.kind !== 'as measured' ? new Decimal(10).pow(-input.precision.places) : null
}

function isOnStep(value: Value, step: Decimal | null): boolean {
  return step === null || !isNumber(value) || value.mod(step).isZero()
}

/** A plain value strictly between two others; null where there is none. */
function valueBetween(low: Value, high: Value, step: Decimal | null): Value {
  const [a, b] = [low === null ? null : sizeOf(low), high === null ? null : sizeOf(high)]
  const size = sizeBetween(a, b, step)
  return size === null ? null : withSize(low ?? high, size)
}

function sizeBetween(a: Decimal | null, b: Decimal | null, step: Decimal | null): Decimal | null {
  if (step) {
    const found: Decimal = a ? a.div(step).floor().plus(1).times(step) : b!.div(step).ceil().minus(1).times(step)
    return b && found.gte(b) ? null : found
  }
  if (!a) return b!.minus(1).floor()
  if (!b) return a.plus(1).ceil()
  return a.lt(b) ? numberBetween(a, b) : null
}

/** How far an ordered value lies along its axis. */
export function sizeOf(value: Value): Decimal {
  if (isNumber(value)) return value
  switch (kindOf(value)) {
    case 'date':
      return new Decimal((value as DateValue).day)
    case 'years and months duration':
      return new Decimal((value as YearMonthDuration).months)
    case 'days and time duration':
      return (value as DayTimeDuration).seconds
    default: {
      const { day = 0, nanos } = value as { day?: number; nanos: number }
      return new Decimal(day).times(86_400).plus(new Decimal(nanos).div(1e9))
    }
  }
}

function withSize(like: Value, size: Decimal): Value {
  if (isNumber(like)) return size
  switch (kindOf(like)) {
    case 'date':
      return { ...(like as DateValue), day: size.toNumber() }
    case 'years and months duration':
      return { ...(like as YearMonthDuration), months: size.toNumber() }
    case 'days and time duration':
      return { ...(like as DayTimeDuration), seconds: size }
    default: {
      const { day, ...rest } = like as { kind: 'time'; day?: number; nanos: number; offset: number | null }
      const days = day === undefined ? 0 : size.div(86_400).floor().toNumber()
      const nanos = size.minus(new Decimal(days).times(86_400)).times(1e9).floor().toNumber()
      const isTimeOfDay = nanos >= 0 && nanos < 86_400e9
      return isTimeOfDay ? ({ ...rest, ...(day === undefined ? {} : { day: days }), nanos } as Value) : null
    }
  }
}
