/** The inputs of a gate as columns, made when they are first asked for. */
import { type Bitmap, complement, isFull } from '../table/bitmap'
import type { NumberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import type { Decimal } from '../value/number'
import type { DateValue } from '../value/value'
import { factsOf } from '../decide/facts'
import { numberVector, type NumberVector, type VectorSources } from './number-vector'
import { roundedColumn } from './rounded-column'
import type { Lowered } from '../rule/rules'
import { scanCodes } from './scan'

export type Inputs = Pick<Lowered, 'inputs'>

export interface InputColumns extends VectorSources {
  /** A number input whose values are known exactly; null for any other. */
  number(name: string): NumberColumn | null
  /** The records that have a value of a given input; null where it is no single column. */
  valid(name: string): Bitmap | null
  /** The records without a value; null where there is none, or that cannot be told. */
  blanks(name: string): Bitmap | null
}

/** The inputs of a gate as columns of numbers, rounded as the gate says. */
export function inputColumns(table: Table, gate: Inputs, today: DateValue): InputColumns {
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
  const blanks = new Map<string, Bitmap | null>()
  const sources: InputColumns = {
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
    blanks(name) {
      if (!blanks.has(name)) {
        const valid = number(name)?.valid ?? sources.valid(name)
        blanks.set(name, !valid || isFull(valid) ? null : complement(valid))
      }
      return blanks.get(name)!
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
