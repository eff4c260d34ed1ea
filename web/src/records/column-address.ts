/** Where a table's columns are fetched from. */
import { API } from '@dime-gate/contract/api'
import { isComputed, type Table } from '@dime-gate/contract/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { ValueKind } from '@dime-gate/core/value/value'

/** Where a column is to be had. */
export interface ColumnAddress {
  id: number
  kind: ValueKind
  path: string
}

/** @param asOf the day that counts: a figure is what it comes to on it */
export function columnAddress({ id: tableId, columns }: Table, id: number, asOf: string): ColumnAddress {
  const column = columns.find((one) => one.id === id)!
  const day = isComputed(column) ? `?as-of=${asOf}` : ''
  return { id, kind: kindOfColumn(column.type), path: `${API}/tables/${tableId}/columns/${id}${day}` }
}
