/** A text that somebody typed, as a cell of a column. */
import { readCell } from '@dime-gate/core/value/read-cell'
import type { Reading } from './change'
import type { Cell, Column } from './table'

/** What does not fit the column's type is kept as written. */
export function newCell(text: string, { type }: Pick<Column, 'type'>, reading: Reading): Cell {
  const cell = readCell(text, { ...reading, type, fraction: false })
  if (cell.state === 'readable') return [cell.value, cell.value === text ? null : text]
  return [null, text === '' ? null : text]
}

export function isBlank([value, written]: Cell): boolean {
  return value === null && (written === null || written.trim() === '')
}

export function isUnreadable([value, written]: Cell): boolean {
  return value === null && written !== null && written.trim() !== ''
}

export function isSameCell(one: Cell, other: Cell): boolean {
  return one[0] === other[0] && one[1] === other[1]
}
