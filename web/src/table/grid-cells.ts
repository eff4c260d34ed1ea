/** The cells of a list as it stands: which record and column a place is, and what typing or pasting over places comes to. */
import type { Cell, Column } from '@dime-gate/contract/table'
import { type Block, type Place, pastedInto } from './block'
import { cellInput } from './cell-words'

export interface ListedCells {
  /** The numbers of the listed records, in their order. */
  order: Int32Array
  /** Those that are shown, in their order. */
  columns: readonly Column[]
  /** By record and shown column; undefined where it is not here yet. */
  cellOf(record: number, column: number): Cell | undefined
}

/** A value that is to be set. `seen` is what stood there when it was decided to set it. */
export interface SetCell {
  record: number
  column: number
  text: string
  seen: Cell
}

export function recordsIn({ order }: ListedCells, { top, bottom }: Block): number[] {
  return [...order.subarray(top, bottom + 1)]
}

/** Texts over a block; what stands there already is left alone. Cells that are not here cannot be set, and are left out. */
export function setOver(listed: ListedCells, texts: readonly (readonly string[])[], block: Block): SetCell[] {
  const { order, columns, cellOf } = listed
  return pastedInto(texts, block, { rows: order.length, columns: columns.length }).flatMap(({ row, column, text }): SetCell[] => {
    const [record, shown] = [order[row]!, columns[column]!]
    const seen = cellOf(record, column)
    return seen && text !== cellInput(seen, shown) ? [{ record, column: shown.id, text, seen }] : []
  })
}

/** The texts of a block, as they would be typed. */
export function textsOf(listed: ListedCells, block: Block): string[][] {
  const { columns, cellOf } = listed
  return recordsIn(listed, block).map((record) =>
    columns.slice(block.left, block.right + 1).map((column, at) => {
      const cell = cellOf(record, block.left + at)
      return cell ? cellInput(cell, column) : ''
    }),
  )
}

/** Where the record of a place stands once the list is made anew; null where it is no longer listed. */
export function followed({ row, column }: Place, before: Int32Array, now: Int32Array): Place | null {
  const record = before[row]
  // A place beyond the old list was meant in the new one.
  if (record === undefined) return { row, column }
  const found = now[row] === record ? row : now.indexOf(record)
  return found < 0 ? null : { row: found, column }
}
