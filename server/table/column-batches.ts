/** Columns of a table as they are now, as they are sent. */
import type { ColumnBatch } from '@dime-gate/contract/column-wire'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Connection } from '../database/database'
import { figureReader } from '../figure/figure-batches'
import { recordsBatches, recordsOf } from './read-column'
import { recordsNow, recordsWithDrawn } from './relation'

/** The records are read once for all of the columns. @param asOf what counts as today: a figure is computed as it is read. @returns of some records after the other a batch of each column, in their order */
export async function* columnBatchesOf(connection: Connection, table: Table, columns: readonly Column[], asOf: string): AsyncGenerator<ColumnBatch[]> {
  const reader = figureReader(table, columns, parseDate(asOf)!)
  const from = columns.some(isComputed) ? recordsWithDrawn(table) : recordsNow(table.id)
  for await (const batch of recordsBatches(connection, `${from} order by record`, reader.sources)) {
    const [records, columnOf] = [recordsOf(batch), reader.read(batch, 0)]
    yield columns.map(({ id }) => ({ records, column: columnOf(id) }))
  }
}
