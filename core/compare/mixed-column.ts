/** A column of which some records have their earlier values, and others their later ones. */
import { BLANK_CODE } from '../table/dictionary-column'
import type { Cell } from '../table/cells'
import { type Column, columnOf, valueTextAt } from '../table/table'
import type { ValueKind } from '../value/value'

/** Whose later state is taken: of values that were there before, and of those that came where there was none. */
export interface Taken {
  value: boolean
  filled: boolean
}

/** @param before of the same records as `after`, in the same order */
export function mixedColumn(kind: ValueKind, before: Column, after: Column, { value, filled }: Taken): Column {
  if (value === filled) return value ? after : before
  return columnOf(kind, Array.from({ length: before.length }, (_, at) => cellAt((isFilled(before, after, at) ? filled : value) ? after : before, at)))
}

/** Whether a value came where there was none. */
export function isFilled(before: Column, after: Column, at: number): boolean {
  return !hasValue(before, at) && hasValue(after, at)
}

/** Whether the two hold the same, also the same that could not be read. */
export function isSameCell(before: Column, after: Column, at: number): boolean {
  return valueTextAt(before, at) === valueTextAt(after, at) && before.unreadable.get(at) === after.unreadable.get(at)
}

function hasValue(column: Column, at: number): boolean {
  return column.kind === 'dictionary' ? column.codes[at] !== BLANK_CODE : valueTextAt(column, at) !== null
}

function cellAt(column: Column, at: number): Cell {
  const unreadable = column.unreadable.get(at)
  return unreadable === undefined ? valueTextAt(column, at) : { unreadable }
}
