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
import { ClassList, type TestClasses } from './test-classes'
import type { RecordNumbers } from './thresholds'

export function valueClasses(asked: AskedTable, name: string, tests: readonly Test[]): TestClasses {
  const { gate, table, today, completions } = asked
  const column = table.columns.get(name) as DictionaryColumn
  const list = new ClassList()
  const verdicts = tests.map((test) => verdictsOfValues(asked, name, test, column))
  // A figure of a value can come to nothing, and is then as open as a blank.
  const hasFigures = tests.some(({ inputs }) => inputs.some((input) => gate.inputs.get(input)?.figure))
  const split = splitByVerdicts(verdicts, column.values.length)
  const openOf = (value: Value) => (hasFigures ? openAmong(completions, tests, factsOf(gate, () => value, today)) : [])
  const classOf = new Uint32Array(column.values.length + 1)
  const placeBySplit = new Int32Array(split.count).fill(-1)
  column.values.forEach((value, code) => {
    const part = split.partOf[code]!
    if (!hasFigures && placeBySplit[part] !== -1) {
      classOf[code + 1] = placeBySplit[part]!
      return
    }
    placeBySplit[part] = classOf[code + 1] = list.placeOf(verdicts.map((one) => one[code]!), openOf(value))
  })
  // One place further, so that the code of a blank, -1, has one too.
  if (column.codes.includes(BLANK_CODE)) {
    const blank = classFor(asked, tests, factsOf(gate, () => null, today))
    classOf[0] = list.placeOf(blank.verdicts, blank.open)
  }
  // A column of no record has no class at all.
  if (list.verdicts.length === 0) list.placeOf(tests.map(() => FALSE), [])
  return { tests, verdicts: list.verdicts, open: list.open, addTo: (numbers) => addCodes(numbers, column.codes, classOf, list.verdicts.length) }
}

function addCodes(numbers: RecordNumbers, codes: Int32Array, classOf: Uint32Array, width: number): void {
  const { length } = numbers
  for (let at = 0; at < length; at++) numbers[at] = Math.imul(numbers[at]!, width) + classOf[codes[at]! - BLANK_CODE]!
}

/** Values that all tests so far come to the same for are one part; test after test the parts are split. */
function splitByVerdicts(verdicts: readonly Uint8Array[], count: number): { partOf: Uint32Array; count: number } {
  const partOf = new Uint32Array(count)
  let parts = 1
  for (const test of verdicts) {
    const next = new Int32Array(parts * 8).fill(-1)
    parts = 0
    for (let code = 0; code < count; code++) {
      const key = partOf[code]! * 8 + test[code]!
      if (next[key] === -1) next[key] = parts++
      partOf[code] = next[key]!
    }
  }
  return { partOf, count: Math.max(1, parts) }
}

function verdictsOfValues({ gate, today }: AskedTable, name: string, test: Test, { values }: DictionaryColumn): Uint8Array {
  const isPlain = test.inputs.length === 1 && test.inputs[0] === name
  const quick = isPlain ? quickTest(test.tree, today) : null
  const verdictOn = quick ? (value: Value): Verdict => (quick(value) ? TRUE : FALSE) : (value: Value): Verdict => testVerdict(gate, test, factsOf(gate, () => value, today))
  const verdicts = new Uint8Array(values.length)
  for (let code = 0; code < verdicts.length; code++) verdicts[code] = verdictOn(values[code]!)
  return verdicts
}

/** Tests of which so many values may be asked that it pays to know a shorter way. */
function quickTest(tree: Node, today: DateValue): ((value: Value) => boolean) | null {
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
  return (value) => days.some((piece) => (value as DateValue).day >= piece![0] && (value as DateValue).day <= piece![1]) !== isNegated
}

function textTest(name: string, of: Node, match: Node): ((value: Value) => boolean) | null {
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
