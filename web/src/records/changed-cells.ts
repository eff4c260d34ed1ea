/** What a table that is looked at has become, where few of its records were changed: their cells go in the place of those that are here. */
import type { TableRecord, Table } from '@dime-gate/contract/table'
import { definitionsOf } from '@dime-gate/contract/table-figures'
import { isUnreadable } from '@dime-gate/contract/typed-cell'
import { isSame } from '@dime-gate/core/gate/is-same'
import type { Cell } from '@dime-gate/core/table/cells'

export interface ChangedCells {
  records: number[]
  /** By column a cell for each of the records. */
  cells: Map<number, Cell[]>
}

/**
 * @param before the table whose columns are here
 * @param now what it has become
 * @param changed the records of it that are not as they were; null where that is not known
 * @returns null where its columns have to be fetched anew
 */
export function changedCells(before: Table, now: Table, changed: readonly TableRecord[] | null): ChangedCells | null {
  if (!changed || before.id !== now.id || !isSame(definitionsOf(before), definitionsOf(now))) return null
  const cellOf = (cell: TableRecord['cells'][number]): Cell => (isUnreadable(cell) ? { unreadable: cell[1]! } : cell[0])
  return {
    records: changed.map(({ record }) => record),
    cells: new Map(now.columns.map(({ id }, at) => [id, changed.map(({ cells }) => cellOf(cells[at]!))])),
  }
}
