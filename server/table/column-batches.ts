/** A column of a table as it is now, as it is sent. */
import type { ColumnBatch } from '@dime-gate/contract/column-wire'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Connection } from '../database/database'
import { figureReader } from '../figure/figure-batches'
import { columnBatches, recordsBatches, recordsOf, sourceOf } from './read-column'
import { recordsNow, recordsWithDrawn } from './relation'

/** @param asOf what counts as today: a figure is computed as it is read */
export function columnBatchesOf(connection: Connection, table: Table, column: Column, asOf: string): AsyncGenerator<ColumnBatch> {
  return !isComputed(column)
    ? columnBatches(connection, recordsNow(table.id), sourceOf(column))
    : figureBatches(connection, table, column, asOf)
}

async function* figureBatches(connection: Connection, table: Table, column: Column, asOf: string): AsyncGenerator<ColumnBatch> {
  const reader = figureReader(table, [column], parseDate(asOf)!)
  for await (const batch of recordsBatches(connection, `${recordsWithDrawn(table)} order by record`, reader.sources))
    yield { records: recordsOf(batch), column: reader.read(batch, 0)(column.id) }
}
