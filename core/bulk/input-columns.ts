/** The inputs of a gate as vectors, rounded as the gate says, made when they are first asked for. */
import { emptyBitmap, setBit } from '../table/bitmap'
import { BLANK_CODE, type DictionaryColumn } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import { sizeOf } from '../rule/axes'
import type { Lowered } from '../rule/rules'
import type { Decimal } from '../value/number'
import type { DateValue, Value } from '../value/value'
import type { Precision } from '../gate/document'
import { factsOf, rounded } from '../decide/facts'
import { numberVector } from './number-vector'
import { roundedColumn } from './rounded-column'
import type { NumberVector, VectorSources } from './vector'

export function inputColumns(table: Table, gate: Pick<Lowered, 'inputs'>, today: DateValue): VectorSources {
  const vectors = new Map<string, NumberVector | null>()
  const sets = new Map<string, readonly NumberVector[] | null>()
  const roundedVector = (vector: NumberVector, precision: Precision, exactly: (at: number) => Value): NumberVector =>
    precision.kind === 'as measured' ? vector : vectorOf(roundedColumn(vector, precision, (at) => exactly(at) as Decimal | null))
  const make = (name: string): NumberVector | null => {
    const input = gate.inputs.get(name)
    const column = input && !input.figure && !input.isSet ? table.columns.get(name) : undefined
    if (column && 'kind' in column && column.kind === 'dictionary') return daysOf(column)
    const source = input?.figure ? numberVector(input.figure, sources) : column && 'kind' in column && column.kind === 'number' ? vectorOf(column) : null
    return source && roundedVector(source, input!.precision, (at) => factsOf(gate, recordAt(table, at), today).value(name))
  }
  const makeSet = (name: string): readonly NumberVector[] | null => {
    const input = gate.inputs.get(name)
    const members = input?.isSet && !input.figure ? table.columns.get(name) : undefined
    if (!members || 'kind' in members) return null
    return members.map((member) => roundedVector(vectorOf(member), input!.precision, (at) => rounded(recordAt({ length: table.length, columns: new Map([['', member]]) }, at)(''), input!.precision) as Value))
  }
  const sources: VectorSources = {
    length: table.length,
    today,
    of: (node) => numberVector(node, sources),
    input(name) {
      if (!vectors.has(name)) vectors.set(name, make(name))
      return vectors.get(name)!
    },
    members(name) {
      if (!sets.has(name)) sets.set(name, makeSet(name))
      return sets.get(name)!
    },
  }
  return sources
}

/** A column's doubles are the nearest to its decimals, so they carry no error of their own. */
export function vectorOf({ length, doubles, valid, exact }: NumberColumn): NumberVector {
  return { length, kind: 'number', doubles, errors: null, valid, inexact: exact }
}

/** Days, or durations, of a column of values that repeat. */
function daysOf({ type, length, codes, values }: DictionaryColumn): NumberVector | null {
  if (type !== 'date' && type !== 'days and time duration' && type !== 'years and months duration') return null
  const sizes = Float64Array.from(values, (value) => sizeOf(value).toNumber())
  const [doubles, valid] = [new Float64Array(length), emptyBitmap(length)]
  for (let at = 0; at < length; at++) {
    const code = codes[at]!
    if (code === BLANK_CODE) continue
    setBit(valid, at)
    doubles[at] = sizes[code]!
  }
  return { length, kind: type, doubles, errors: null, valid, inexact: new Map() }
}

/** The records without a value of a given input. */
export function isMissing(table: Table, name: string, at: number): boolean {
  const column = table.columns.get(name)
  if (!column) return true
  if (!('kind' in column)) return false
  return column.kind === 'dictionary' ? column.codes[at] === BLANK_CODE : ((column.valid.words[at >>> 5]! >>> (at & 31)) & 1) === 0
}
