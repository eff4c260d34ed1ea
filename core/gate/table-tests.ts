/**
 * Tests of whole columns. Each is done in the cheapest way that is exact: a scan of doubles, a look at each
 * different value, arithmetic in doubles with the doubtful records asked in decimals, or record by record.
 */
import { freeNames } from '../expression/tree'
import { type Bitmap, complement, emptyBitmap, fullBitmap, isFull, placesOf, setBit, unionOf, without } from '../table/bitmap'
import type { DictionaryColumn } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import { type Decimal } from '../value/number'
import { type DateValue, isNumber, type RangeValue, type Value } from '../value/value'
import type { Test } from './condition'
import { testVerdict } from './decide-record'
import { factsOf } from './facts'
import { errorAt, numberVector, type NumberVector, type VectorSources } from './number-vector'
import { roundedColumn } from './rounded-column'
import type { Lowered } from './rules'
import { isInPiece, scanCodes, scanNumbers } from './scan'
import { blankTest, simpleTest, type SimpleTest } from './simple-test'
import { type VerdictBits, verdictBits } from './verdict-bits'
import { FALSE, NULL, TRUE, type Verdict } from './verdict'

type Inputs = Pick<Lowered, 'inputs'>

/** Answers tests over one table for one set of inputs. */
export function tableTests(table: Table, gate: Lowered, today: DateValue): (test: Test) => VerdictBits {
  const columns = inputColumns(table, gate, today)
  return (test) => columnTest(test) ?? valueTest(test) ?? vectorTest(test) ?? recordTest(test)

  /** One number column against constants, or any column against null. */
  function columnTest(test: Test): VerdictBits | null {
    const simple = simpleTest(test.tree, today)
    const column = simple?.subject.kind === 'name' ? columns.number(simple.subject.name) : null
    if (simple && column && simple.pieces.every(isNumeric)) {
      const inside = scanNumbers(column, simple.pieces)
      const yes = simple.isNegated ? without(column.valid, inside) : inside
      return verdictBits(yes, isFull(column.valid) ? null : complement(column.valid), blankVerdict(gate, test, simple)!)
    }
    const blank = blankTest(test.tree)
    const valid = blank?.subject.kind === 'name' ? columns.valid(blank.subject.name) : null
    return blank && valid ? verdictBits(blank.isNegated ? valid : complement(valid), null, FALSE) : null
  }

  /** A test that comes down to one column of repeating values: each value is asked once. */
  function valueTest(test: Test): VerdictBits | null {
    const [name, ...others] = givenInputs(gate, test.inputs)
    const column = name === undefined ? undefined : table.columns.get(name)
    if (!column || !('kind' in column) || column.kind !== 'dictionary' || others.length > 0) return null
    const simple = simpleTest(test.tree, today)
    const isDirect = simple?.subject.kind === 'name' && simple.subject.name === name
    return codeBits(column, isDirect ? directVerdict(gate, test, simple) : (value) => testVerdict(gate, test, factsOf(gate, () => value, today)))
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
    const bits = verdictBits(without(yes, missing), blank === null || isFull(vector.valid) ? null : missing, blank ?? NULL)
    return withVerdicts(bits, placesOf(blank === null ? unionOf([doubtful, missing], table.length) : without(doubtful, missing)), (at) => verdictOfRecord(test, at))
  }

  function recordTest(test: Test): VerdictBits {
    const bits = { t: emptyBitmap(table.length), f: emptyBitmap(table.length), n: null }
    return withVerdicts(bits, placesOf(fullBitmap(table.length)), (at) => verdictOfRecord(test, at))
  }

  function verdictOfRecord(test: Test, at: number): Verdict {
    return testVerdict(gate, test, factsOf(gate, recordAt(table, at), today))
  }
}

/** The inputs of a gate as columns of numbers, rounded as the gate says. */
function inputColumns(table: Table, gate: Inputs, today: DateValue) {
  const vectors = new Map<string, NumberVector | null>()
  const columnOf = (name: string): NumberColumn | null => {
    const input = gate.inputs.get(name)
    const column = input && !input.figure && !input.isSet ? table.columns.get(name) : undefined
    return column && 'kind' in column && column.kind === 'number' ? column : null
  }
  const exactColumns = new Map<string, NumberColumn | null>()
  const number = (name: string): NumberColumn | null => {
    if (!exactColumns.has(name)) {
      const input = gate.inputs.get(name)
      const precision = input?.precision
      const source = !input || input.isSet ? null : input.figure ? (precision!.kind === 'as measured' ? null : numberVector(input.figure, sources)) : columnOf(name)
      const column = !source || !precision ? null
        : precision.kind === 'as measured' ? (source as NumberColumn)
          : roundedColumn(asVector(source), precision, (at) => factsOf(gate, recordAt(table, at), today).value(name) as Decimal | null)
      exactColumns.set(name, column)
    }
    return exactColumns.get(name)!
  }
  const sources: VectorSources & { number: typeof number; valid(name: string): Bitmap | null } = {
    length: table.length,
    number,
    input(name) {
      if (!vectors.has(name)) {
        const exact = number(name)
        const figure = gate.inputs.get(name)?.figure
        vectors.set(name, exact ? asVector(exact) : figure ? numberVector(figure, sources) : null)
      }
      return vectors.get(name)!
    },
    members(name) {
      const input = gate.inputs.get(name)
      const members = input?.isSet && !input.figure ? table.columns.get(name) : undefined
      if (!members || 'kind' in members || input!.precision.kind !== 'as measured') return null
      return members.map(asVector)
    },
    valid(name) {
      const input = gate.inputs.get(name)
      const column = input && !input.figure && !input.isSet ? table.columns.get(name) : undefined
      if (!column || !('kind' in column)) return null
      return column.kind === 'number' ? column.valid : scanCodes(column, new Uint8Array(column.texts.length).fill(1), 0)
    },
  }
  return sources
}

/** A column's doubles are the nearest to its decimals, so they carry no error of their own. */
function asVector({ length, doubles, valid }: NumberColumn | NumberVector): NumberVector {
  return { length, doubles, errors: null, valid }
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
  return (value) => {
    if (value === null) return blank
    const inside = simple.pieces.map((piece) => isInPiece(value, piece))
    if (inside.includes(true)) return simple.isNegated ? FALSE : TRUE
    return inside.includes(null) ? blank : simple.isNegated ? TRUE : FALSE
  }
}

function codeBits(column: DictionaryColumn, verdictFor: (value: Value) => Verdict): VerdictBits {
  const verdicts = column.values.map(verdictFor)
  const blank = verdictFor(null)
  const places = (bit: Verdict) => scanCodes(column, Uint8Array.from(verdicts, (verdict) => (verdict & bit ? 1 : 0)), blank & bit ? 1 : 0)
  const hasNull = blank & NULL || verdicts.some((verdict) => verdict & NULL)
  return { t: places(TRUE), f: places(FALSE), n: hasNull ? places(NULL) : null }
}

/** `bits` with the verdicts of some records put in. */
function withVerdicts(bits: VerdictBits, records: Uint32Array, verdict: (at: number) => Verdict): VerdictBits {
  const n = bits.n ? { length: bits.n.length, words: bits.n.words.slice() } : emptyBitmap(bits.t.length)
  let hasNull = bits.n !== null
  for (const at of records) {
    const [word, bit] = [at >>> 5, 1 << (at & 31)]
    const found = verdict(at)
    for (const [places, kind] of [[bits.t, TRUE], [bits.f, FALSE], [n, NULL]] as const) {
      if (found & kind) places.words[word]! |= bit
      else places.words[word]! &= ~bit
    }
    hasNull ||= (found & NULL) !== 0
  }
  return hasNull ? { ...bits, n } : bits
}
