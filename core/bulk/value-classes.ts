/** Classes under tests that come down to one column of values that repeat: each different value is asked once. */
import type { Node } from '../expression/tree'
import type { Test } from '../rule/condition'
import { simpleTest } from '../rule/simple-test'
import { BLANK_CODE, type DictionaryColumn } from '../table/dictionary-column'
import { type DateValue, kindOf, type RangeValue, type Value } from '../value/value'
import { testVerdict } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { FALSE, TRUE, type Verdict } from '../decide/verdict'
import { type AskedTable, classFor, openAmong } from './asked-table'
import { hasBlanks, placesByCode } from './code-index'
import { type Changed, ClassList, inUse, type TestClasses } from './test-classes'
import type { RecordNumbers } from './record-numbers'

export interface ValueClasses extends TestClasses {
  readonly column: DictionaryColumn
  /** By code, one place further so that that of a blank has one too, the class. */
  readonly classOf: Uint32Array
  /** By test the shorter way of asking it, where there is one. */
  readonly quick: QuickTests
}

/** Whether a test is true of a value. */
type QuickTest = (value: Value) => boolean
type QuickTests = ReadonlyMap<string, QuickTest | null>

export function valueClasses(asked: AskedTable, name: string, tests: readonly Test[]): ValueClasses {
  return classesIn(new ClassList(), asked, name, tests, new Map())
}

/** Classes that have come with moves, beside those that are needed: with more of them all records are looked at again. */
const MOST_UNUSED = 32
/** So many tests may be others: a value goes from one list to another. */
const MOST_CHANGED = 4
/** Where more of all records are in another class, a look at all is as good. */
const MOST_MOVED = 1 / 8

/**
 * As many tests, which say something else of some values: only the records with these are in another class. Classes that are
 * there keep their numbers; new ones come behind them.
 * @returns null where more changed than that; `changed` is null where so many records did that all are looked at
 */
export function movedValues(asked: AskedTable, before: ValueClasses, name: string, tests: readonly Test[]): { moved: ValueClasses; changed: Changed | null } | null {
  const column = asked.table.columns.get(name)
  if (column !== before.column || tests.length !== before.tests.length) return null
  const list = new ClassList()
  before.verdicts.forEach((verdicts, place) => list.placeOf(verdicts, before.open[place]!))
  const moved = fewChanged(list, asked, name, tests, before) ?? classesIn(list, asked, name, tests, before.quick)
  const used = inUse(moved.classOf)
  if (moved.verdicts.length > used.length + MOST_UNUSED) return null
  return { moved: { ...moved, inUse: used }, changed: changedCodes(before, moved) }
}

/** Where some of the tests are others, and the rest stands where it stood: each value is asked those alone. @returns null where more has to be looked at */
function fewChanged(list: ClassList, { gate, today }: AskedTable, name: string, tests: readonly Test[], before: ValueClasses): ValueClasses | null {
  const { column } = before
  const places = tests.flatMap(({ text }, at) => (text === before.tests[at]!.text ? [] : [at]))
  if (places.length > MOST_CHANGED || tests.some(({ inputs }) => inputs.some((input) => gate.inputs.get(input)?.figure))) return null
  const quick = quickTests(tests, name, today, before.quick)
  const asks = places.map((at) => quick.get(tests[at]!.text))
  if (asks.some((ask) => !ask)) return null
  const answers = answersTo(asks as QuickTest[], column.values)
  const width = 1 << places.length
  const placeOf = new Int32Array(before.verdicts.length * width).fill(-1)
  const classOf = new Uint32Array(before.classOf.length)
  for (let code = 0; code < answers.length; code++) {
    const [was, answer] = [before.classOf[code + 1]!, answers[code]!]
    const key = was * width + answer
    if (placeOf[key] === -1) {
      const verdicts = [...before.verdicts[was]!]
      places.forEach((at, bit) => (verdicts[at] = (answer >>> bit) & 1 ? TRUE : FALSE))
      placeOf[key] = list.placeOf(verdicts, before.open[was]!)
    }
    classOf[code + 1] = placeOf[key]!
  }
  if (hasBlanks(column)) {
    const [was, blank] = [before.classOf[0]!, factsOf(gate, () => null, today)]
    const verdicts = [...before.verdicts[was]!]
    for (const at of places) verdicts[at] = testVerdict(gate, tests[at]!, blank)
    // What is open in a blank is the input itself, whichever of its tests ask.
    classOf[0] = list.placeOf(verdicts, before.open[was]!)
  }
  return madeOf(list, tests, column, classOf, quick)
}

function quickTests(tests: readonly Test[], name: string, today: DateValue, known: QuickTests): QuickTests {
  return new Map(tests.map(({ text, tree, inputs }) => [text, known.has(text) ? known.get(text)! : inputs.length === 1 && inputs[0] === name ? quickTest(tree, today) : null]))
}

function madeOf(list: ClassList, tests: readonly Test[], column: DictionaryColumn, classOf: Uint32Array, quick: QuickTests): ValueClasses {
  return { tests, column, classOf, quick, verdicts: list.verdicts, open: list.open, addTo: (numbers, width, from) => addCodes(numbers, column.codes, classOf, width, from) }
}

function changedCodes({ column, classOf: before }: ValueClasses, { classOf: after }: ValueClasses): Changed | null {
  const { starts, places } = placesByCode(column)
  const changed: number[] = []
  let count = 0
  for (let at = 0; at < after.length; at++) {
    if (after[at] === before[at]) continue
    changed.push(at)
    count += starts[at + 1]! - starts[at]!
  }
  if (count > column.length * MOST_MOVED) return null
  const [found, steps] = [new Uint32Array(count), new Int32Array(count)]
  let next = 0
  for (const at of changed) {
    const some = places.subarray(starts[at]!, starts[at + 1]!)
    found.set(some, next)
    steps.fill(after[at]! - before[at]!, next, (next += some.length))
  }
  return { places: found, steps }
}

/** @param list with the classes that are there already @param known of tests that may be asked again */
function classesIn(list: ClassList, asked: AskedTable, name: string, tests: readonly Test[], known: QuickTests): ValueClasses {
  const { gate, table, today, completions } = asked
  const column = table.columns.get(name) as DictionaryColumn
  // A figure of a value can come to nothing, and is then as open as a blank.
  const hasFigures = tests.some(({ inputs }) => inputs.some((input) => gate.inputs.get(input)?.figure))
  const quick = quickTests(tests, name, today, known)
  const split = splitValues(asked, tests, quick, column)
  const openOf = (value: Value) => (hasFigures ? openAmong(completions, tests, factsOf(gate, () => value, today)) : [])
  const classOf = new Uint32Array(column.values.length + 1)
  const placeBySplit = new Int32Array(split.count).fill(-1)
  column.values.forEach((value, code) => {
    const part = split.partOf[code]!
    if (!hasFigures && placeBySplit[part] !== -1) {
      classOf[code + 1] = placeBySplit[part]!
      return
    }
    placeBySplit[part] = classOf[code + 1] = list.placeOf(split.verdictsOf(code), openOf(value))
  })
  if (hasBlanks(column)) {
    const blank = classFor(asked, tests, factsOf(gate, () => null, today))
    classOf[0] = list.placeOf(blank.verdicts, blank.open)
  }
  // A column of no record has no class at all.
  if (list.verdicts.length === 0) list.placeOf(tests.map(() => FALSE), [])
  return madeOf(list, tests, column, classOf, quick)
}

function addCodes(numbers: RecordNumbers, codes: Int32Array, classOf: Uint32Array, width: number, from: number): void {
  const { length } = numbers
  for (let at = 0; at < length; at++) numbers[at] = Math.imul(numbers[at]!, width) + classOf[codes[from + at]! - BLANK_CODE]!
}

/** Tests whose answers for a value are kept in one number. */
const TOGETHER = 16

interface Parts {
  /** By value a number, the same where all tests come to the same. */
  partOf: Uint32Array
  count: number
}

interface Split extends Parts {
  verdictsOf(code: number): Verdict[]
}

/** Puts values into parts that all tests come to the same for. Each value is asked all quick tests in one go: to fetch it takes longer than to ask it. */
function splitValues(asked: AskedTable, tests: readonly Test[], quick: QuickTests, { values }: DictionaryColumn): Split {
  const { gate, today } = asked
  const asks = tests.flatMap(({ text }, at) => {
    const ask = quick.get(text)
    return ask ? [{ ask, at }] : []
  })
  const columns: { tests: number[]; answers: Uint16Array; verdictsIn(answer: number): Verdict[] }[] = []
  for (let from = 0; from < asks.length; from += TOGETHER) {
    const some = asks.slice(from, from + TOGETHER)
    const answers = answersTo(some.map(({ ask }) => ask), values)
    columns.push({ tests: some.map(({ at }) => at), answers, verdictsIn: (answer) => some.map((_, bit) => ((answer >>> bit) & 1 ? TRUE : FALSE)) })
  }
  tests.forEach((test, at) => {
    if (quick.get(test.text)) return
    const answers = Uint16Array.from(values, (value) => testVerdict(gate, test, factsOf(gate, () => value, today)))
    columns.push({ tests: [at], answers, verdictsIn: (answer) => [answer as Verdict] })
  })
  let split: Parts = { partOf: new Uint32Array(values.length), count: 1 }
  for (const { answers } of columns) split = splitFurther(split, answers)
  return {
    partOf: split.partOf, count: Math.max(1, split.count),
    verdictsOf(code) {
      const verdicts: Verdict[] = tests.map(() => FALSE)
      for (const { tests: places, answers, verdictsIn } of columns) verdictsIn(answers[code]!).forEach((verdict, at) => (verdicts[places[at]!] = verdict))
      return verdicts
    },
  }
}

/** By value a bit for each question. */
function answersTo(asks: readonly QuickTest[], values: readonly Value[]): Uint16Array {
  const answers = new Uint16Array(values.length)
  for (let code = 0; code < answers.length; code++) {
    const value = values[code]!
    let answer = 0
    for (let bit = 0; bit < asks.length; bit++) if (asks[bit]!(value)) answer |= 1 << bit
    answers[code] = answer
  }
  return answers
}

function splitFurther({ partOf, count }: Parts, answers: Uint16Array): Parts {
  // There are few different answers, however large their numbers are.
  const different = new Int32Array(2 ** TOGETHER).fill(-1)
  let width = 0
  for (let code = 0; code < answers.length; code++) if (different[answers[code]!] === -1) different[answers[code]!] = width++
  const parts = new Int32Array(count * width).fill(-1)
  let next = 0
  for (let code = 0; code < answers.length; code++) {
    const key = partOf[code]! * width + different[answers[code]!]!
    if (parts[key] === -1) parts[key] = next++
    partOf[code] = parts[key]!
  }
  return { partOf, count: next }
}

/** Tests of which so many values may be asked that it pays to know a shorter way. */
function quickTest(tree: Node, today: DateValue): QuickTest | null {
  if (tree.kind === 'call' && tree.args.length === 2 && !tree.names) return textTest(tree.name, tree.args[0]!, tree.args[1]!)
  const simple = simpleTest(tree, today)
  if (simple?.subject.kind !== 'name') return null
  const { pieces, isNegated } = simple
  if (pieces.every((piece) => piece.isPoint && typeof piece.low === 'string')) {
    const texts = new Set(pieces.map(({ low }) => low))
    return (value) => texts.has(value) !== isNegated
  }
  const days = pieces.map(dayPiece)
  if (days.includes(null)) return null
  if (pieces.every(({ isPoint }) => isPoint)) {
    const single = new Set(days.map((piece) => piece![0]))
    return (value) => single.has((value as DateValue).day) !== isNegated
  }
  return (value) => days.some((piece) => (value as DateValue).day >= piece![0] && (value as DateValue).day <= piece![1]) !== isNegated
}

function textTest(name: string, of: Node, match: Node): QuickTest | null {
  if (of.kind !== 'name' || match.kind !== 'text') return null
  const { text } = match
  switch (name) {
    case 'starts with':
      // Most do not even begin with the first letter.
      return (value) => text === '' || ((value as string).charCodeAt(0) === text.charCodeAt(0) && (value as string).startsWith(text))
    case 'ends with':
      return (value) => (value as string).endsWith(text)
    case 'contains':
      return (value) => (value as string).includes(text)
    default:
      return null
  }
}

/** The first and the last day of a piece of dates; null where it is of something else. */
function dayPiece({ low, high, lowIncluded, highIncluded }: RangeValue): readonly [number, number] | null {
  const isDay = (end: Value) => end === null || kindOf(end) === 'date'
  if (!isDay(low) || !isDay(high)) return null
  return [low === null ? -Infinity : (low as DateValue).day + (lowIncluded ? 0 : 1), high === null ? Infinity : (high as DateValue).day - (highIncluded ? 0 : 1)]
}
