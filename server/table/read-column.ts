/** A number column of a table, read out of its relation in batches, laid out as core works on it. */
import { BATCH_RECORDS, type ColumnBatch } from '@dime-gate/contract/column-wire'
import type { Cell } from '@dime-gate/core/table/cells'
import { numberColumn } from '@dime-gate/core/table/number-column'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { isUnreadable, relationOf, valueOf, writtenOf } from './relation'

/** Batches of BATCH_RECORDS records, the last one shorter, in record order. */
export async function* columnBatches(connection: Connection, tableId: number, columnId: number): AsyncGenerator<ColumnBatch> {
  const sql = `select record, ${valueOf(columnId)}, case when ${isUnreadable(columnId)} then ${writtenOf(columnId)} end from ${relationOf(tableId)} order by record`
  for await (const [records, values, unreadable] of copyRows(connection, sql, 3, BATCH_RECORDS)) yield columnBatch(records!, values!, unreadable!)
}

/** @param unreadable the texts that could not be read as values */
export function columnBatch(records: readonly (string | null)[], values: readonly (string | null)[], unreadable: readonly (string | null)[]): ColumnBatch {
  return {
    records: Int32Array.from(records, Number),
    column: numberColumn(values.map((value, at): Cell => (unreadable[at] === null ? value : { unreadable: unreadable[at]! }))),
  }
}
