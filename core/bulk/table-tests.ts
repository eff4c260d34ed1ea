/**
 * Tests of whole columns. Each is done in the cheapest way that is exact: a scan of doubles, a look at each
 * different value, arithmetic in doubles with the doubtful records asked in decimals, or record by record.
 */
import { freeNames } from '../expression/tree'
import { type Bitmap, complement, emptyBitmap, fullBitmap, isFull, placesOf, setBit, unionOf, without } from '../table/bitmap'
import type { DictionaryColumn } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import type { Decimal } from '../value/number'
import { type DateValue, isNumber, kindOf, type RangeValue, type Value } from '../value/value'
import type { Test } from '../rule/condition'
import { testVerdict } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { type Inputs, inputColumns } from './input-columns'
import { blanksOfCodes, type CodeClasses, codeClasses, type NumberClasses, numberClasses, recordsInPiece, recordsOfCodes } from './column-classes'
import { errorAt, numberVector } from './number-vector'
import type { Lowered } from '../rule/rules'
import { scanCodes, scanNumbers } from './scan'
import { blankTest, isInPiece, simpleTest, type SimpleTest } from '../rule/simple-test'
import { type VerdictBits, verdictBits } from './verdict-bits'
import { FALSE, NULL, TRUE, type Verdict } from '../decide/verdict'

/** From this many tests on, a column's classes cost less than a look at its values for each. */
const WORTH_CLASSES = 4

/**
 * Answers tests over one table for one set of inputs.
 * @param together the tests that will be asked: those on one column share the work
 */
export function tableTests(table: Table, gate: Lowered, today: DateValue, together: readonly Test[]): (test: Test) => VerdictBits {
  const columns = inputColumns(table, gate, today)
  const numbers = new Map<string, NumberClasses | null>()
  const codes = new Map<string, { verdicts: Map<string, Verdict[]>; classes: CodeClasses | null }>()
  prepare()
  return (test) => columnTest(test) ?? valueTest(test) ?? vectorTest(test) ?? recordTest(test)

  function prepare(): void {
    const pieces = new Map<string, RangeValue[][]>()
    for (const test of together) {
      const simple = simpleTest(test.tree, today)
      const number = simple && numberColumnOf(simple)
      if (number) pieces.set(number.name, [...(pieces.get(number.name) ?? []), simple.pieces])
      const value = number ? null : dictionaryOf(test)
      if (!value) continue
      if (!codes.has(value.name)) codes.set(value.name, { verdicts: new Map(), classes: null })
      codes.get(value.name)!.verdicts.set(test.text, value.column.values.map(value.verdictFor))
    }
    for (const [name, all] of pieces) if (all.length >= WORTH_CLASSES) numbers.set(name, numberClasses(columns.number(name)!, all.flat()))
    for (const [name, known] of codes) if (known.verdicts.size >= WORTH_CLASSES) known.classes = codeClasses(table.columns.get(name) as DictionaryColumn, [...known.verdicts.values()])
  }

  function numberColumnOf({ subject, pieces }: SimpleTest): { name: string; column: NumberColumn } | null {
    const column = subject.kind === 'name' && pieces.every(isNumeric) ? columns.number(subject.name) : null
    return column && { name: (subject as { name: string }).name, column }
  }

  /** The one column of repeating values that a test comes down to, and what the test says of a value. */
  function dictionaryOf(test: Test): { name: string; column: DictionaryColumn; verdictFor: (value: Value) => Verdict } | null {
    const [name, ...others] = givenInputs(gate, test.inputs)
    const column = name === undefined ? undefined : table.columns.get(name)
    if (!column || !('kind' in column) || column.kind !== 'dictionary' || others.length > 0) return null
    const simple = simpleTest(test.tree, today)
    const isDirect = simple?.subject.kind === 'name' && simple.subject.name === name
    const verdictFor = isDirect ? directVerdict(gate, test, simple) : (value: Value) => testVerdict(gate, test, factsOf(gate, () => value, today))
    return { name: name!, column, verdictFor }
  }

  /** One number column against constants, or any column against null. */
  function columnTest(test: Test): VerdictBits | null {
    const simple = simpleTest(test.tree, today)
    const number = simple && numberColumnOf(simple)
    if (number) {
      const { name, column } = number
      const classes = numbers.get(name)
      const inside = scanNumbers(column, simple.pieces, (piece) => classes ? recordsInPiece(classes, piece, column.length) : null)
      const yes = simple.isNegated ? complement(inside) : inside
      return verdictBits(yes, columns.blanks(name), blankVerdict(gate, test, simple)!)
    }
    const blank = blankTest(test.tree)
    const valid = blank?.subject.kind === 'name' ? columns.valid(blank.subject.name) : null
    return blank && valid ? verdictBits(blank.isNegated ? valid : complement(valid), null, FALSE) : null
  }

  /** A test that comes down to one column of repeating values: each value is asked once. */
  function valueTest(test: Test): VerdictBits | null {
    const found = dictionaryOf(test)
    if (!found) return null
    const { name, column, verdictFor } = found
    const known = codes.get(name)
    const classes = known?.verdicts.has(test.text) ? known.classes : null
    const verdicts = known?.verdicts.get(test.text) ?? column.values.map(verdictFor)
    const blank = verdictFor(null)
    const places = (bit: Verdict) => {
      if (classes) return recordsOfCodes(classes, (code) => (verdicts[code]! & bit) !== 0, (blank & bit) !== 0, table.length)
      return scanCodes(column, Uint8Array.from(verdicts, (verdict) => Number((verdict & bit) !== 0)), Number((blank & bit) !== 0))
    }
    const isPlain = verdicts.every((verdict) => verdict === TRUE || verdict === FALSE)
    if (isPlain) return verdictBits(places(TRUE), classes ? blanksOfCodes(classes) : columns.blanks(name), blank)
    const hasNull = blank === NULL || verdicts.includes(NULL)
    return { t: places(TRUE), f: places(FALSE), n: hasNull ? places(NULL) : null }
  }

  /** Arithmetic on number columns against constants. */
  function vectorTest(test: Test): VerdictBits | null {
    const simple = simpleTest(test.tree, today)
    const vector = simple?.pieces.every(isNumeric) ? numberVector(simple.subject, columns) : null
    if (!simple || !vector) return null
    const ends = simple.pieces.flatMap(({ low, high }) => [low, high]).filter((end) => end !== null).map((end) => (end as Decimal).toNumber())
    const pieces = simple.pieces.map(({ low, high }) => [low === null ? -Infinity : (low as Decimal).toNumber(), high === null ? Infinity : (high as Decimal).toNumber()] as const)
    const [yes, doubtful] = [emptyBitmap(table.length), emptyBitmap(table.length)]
    for (let at = 0; at < table.length; at++) {
      const value = vector.doubles[at]!
      const error = errorAt(vector, at)
      // Written so that an error that is not a number counts as a doubt.
      if (!ends.every((end) => Math.abs(value - end) > error + Math.abs(end) * 2 ** -52)) setBit(doubtful, at)
      else if (pieces.some(([low, high]) => value > low && value < high) !== simple.isNegated) setBit(yes, at)
    }
    const blank = blankVerdict(gate, test, simple)
    const missing = complement(vector.valid)
    const bits = verdictBits(blank === null ? without(yes, missing) : yes, blank === null || isFull(vector.valid) ? null : missing, blank ?? NULL)
    return withVerdicts(bits, placesOf(blank === null ? unionOf([doubtful, missing], table.length) : without(doubtful, missing)), (at) => verdictOfRecord(test, at))
  }

  function recordTest(test: Test): VerdictBits {
    return withVerdicts(verdictBits(emptyBitmap(table.length), null, FALSE), placesOf(fullBitmap(table.length)), (at) => verdictOfRecord(test, at))
  }

  function verdictOfRecord(test: Test, at: number): Verdict {
    return testVerdict(gate, test, factsOf(gate, recordAt(table, at), today))
  }
}

/** The columns that a test comes down to, through all figures. */
function givenInputs({ inputs }: Inputs, names: readonly string[]): string[] {
  const found = new Set<string>()
  const visit = (name: string) => {
    const figure = inputs.get(name)?.figure
    if (figure) freeNames(figure).forEach(visit)
    else found.add(name)
  }
  names.forEach(visit)
  return [...found]
}

/** What a simple test comes to where its subject is blank; null where its inputs do not agree on that. */
function blankVerdict({ inputs }: Inputs, test: Test, { pieces, isNegated }: SimpleTest): Verdict | null {
  const policies = new Set(test.inputs.map((name) => inputs.get(name)?.blank === 'pass'))
  if (policies.size > 1) return null
  if (!policies.has(true)) return TRUE | FALSE
  // A yes or no by itself is null where it is blank; only compared with something it is not that.
  if (test.tree.kind === 'name' || pieces.some((piece) => isInPiece(null, piece) === null)) return NULL
  return isNegated ? TRUE : FALSE
}

function isNumeric({ low, high }: RangeValue): boolean {
  return (low === null || isNumber(low)) && (high === null || isNumber(high))
}

function directVerdict(gate: Inputs, test: Test, simple: SimpleTest): (value: Value) => Verdict {
  const blank = blankVerdict(gate, test, simple)!
  const [known, other] = simple.isNegated ? [FALSE, TRUE] : [TRUE, FALSE]
  const pieces = simple.pieces.map(dayPiece)
  if (pieces.every((piece) => piece !== null)) {
    // Days are compared as the numbers they are: thousands of them are asked at once.
    return (value) => (value === null ? blank : pieces.some(([from, to]) => (value as DateValue).day >= from && (value as DateValue).day <= to) ? known : other)
  }
  return (value) => {
    if (value === null) return blank
    const inside = simple.pieces.map((piece) => isInPiece(value, piece))
    if (inside.includes(true)) return simple.isNegated ? FALSE : TRUE
    return inside.includes(null) ? blank : simple.isNegated ? TRUE : FALSE
  }
}

/** The first and the last day of a piece of dates; null where it is of something else. */
function dayPiece({ low, high, lowIncluded, highIncluded }: RangeValue): readonly [number, number] | null {
  const isDay = (end: Value) => end === null || kindOf(end) === 'date'
  if (!isDay(low) || !isDay(high)) return null
  return [low === null ? -Infinity : (low as DateValue).day + (lowIncluded ? 0 : 1), high === null ? Infinity : (high as DateValue).day - (highIncluded ? 0 : 1)]
}

/** `bits` with the verdicts of some records put in. */
function withVerdicts(bits: VerdictBits, records: Uint32Array, verdict: (at: number) => Verdict): VerdictBits {
  if (records.length === 0) return bits
  const t = copyOf(bits.t)
  const f = bits.f ? copyOf(bits.f) : complement(bits.t)
  const n = bits.n ? copyOf(bits.n) : emptyBitmap(t.length)
  let hasNull = bits.n !== null
  for (const at of records) {
    const [word, bit] = [at >>> 5, 1 << (at & 31)]
    const found = verdict(at)
    for (const [places, kind] of [[t, TRUE], [f, FALSE], [n, NULL]] as const) {
      if (found & kind) places.words[word]! |= bit
      else places.words[word]! &= ~bit
    }
    hasNull ||= (found & NULL) !== 0
  }
  return { t, f, n: hasNull ? n : null }
}

function copyOf({ length, words }: Bitmap): Bitmap {
  return { length, words: words.slice() }
}
