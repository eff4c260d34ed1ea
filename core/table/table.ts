/** Columns side by side, by the names of the inputs that they are bound to. */
import { Decimal } from '../value/number'
import type { Value, ValueKind } from '../value/value'
import type { Cell } from './cells'
import { BLANK_CODE, type DictionaryColumn, dictionaryColumn } from './dictionary-column'
import { decimalAt, type NumberColumn, numberColumn } from './number-column'

export type Column = NumberColumn | DictionaryColumn

export interface Table {
  readonly length: number
  /** A column set is told as its members. An input that nothing is bound to is blank in every record. */
  readonly columns: ReadonlyMap<string, Column | readonly NumberColumn[]>
}

export function columnOf(kind: ValueKind, cells: readonly Cell[]): Column {
  return kind === 'number' ? numberColumn(cells) : dictionaryColumn(kind, cells)
}

/** The values of the record at place `at`, by input. */
export function recordAt({ columns }: Table, at: number): (input: string) => Value {
  return (input) => {
    const column = columns.get(input)
    if (!column) return null
    return 'kind' in column ? valueAt(column, at) : column.map((member) => valueAt(member, at)).filter((value) => value !== null)
  }
}

export function valueAt(column: Column, at: number): Value {
  if (column.kind === 'dictionary') return column.codes[at] === BLANK_CODE ? null : column.values[column.codes[at]!]!
  const text = decimalAt(column, at)
  return text === null ? null : new Decimal(text)
}

/** In canonical text; null for a blank. */
export function valueTextAt(column: Column, at: number): string | null {
  if (column.kind === 'number') return decimalAt(column, at)
  const code = column.codes[at]!
  return code === BLANK_CODE ? null : column.texts[code]!
}
