/** A number column of a table, read out of its relation in batches, laid out as core works on it. */
import { BATCH_RECORDS, type ColumnBatch } from '@dime-gate/contract/column-wire'
import type { Cell } from '@dime-gate/core/table/cells'
import { numberColumn } from '@dime-gate/core/table/number-column'
import { copyRows, type TextRow } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { isUnreadable, relationOf, valueOf, writtenOf } from './relation'

/** Batches of BATCH_RECORDS records, the last one shorter, in record order. */
export async function* columnBatches(connection: Connection, tableId: number, columnId: number): AsyncGenerator<ColumnBatch> {
  const sql = `select record, ${valueOf(columnId)}, case when ${isUnreadable(columnId)} then ${writtenOf(columnId)} end from ${relationOf(tableId)} order by record`
  for await (const rows of copyRows(connection, sql, BATCH_RECORDS)) yield columnBatch(rows)
}

/** Rows that begin with a record, its value, and the text that could not be read as one. */
export function columnBatch(rows: TextRow[]): ColumnBatch {
  return {
    records: Int32Array.from(rows, ([record]) => Number(record)),
    column: numberColumn(rows.map(([, value, unreadable]): Cell => (typeof unreadable === 'string' ? { unreadable } : value!))),
  }
}
