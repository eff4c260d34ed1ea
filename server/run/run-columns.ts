/** What a run keeps, as it is sent. */
import { BATCH_RECORDS, type ColumnBatch, type DecisionBatch } from '@dime-gate/contract/column-wire'
import type { Column } from '@dime-gate/contract/table'
import { NONE } from '@dime-gate/core/rule/rules'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { columnBatches } from '../table/read-column'
import { runRelation, seenSource } from './run-relation'

/** What it decided, in record order. */
export async function* decisionBatches(connection: Connection, runId: number): AsyncGenerator<DecisionBatch> {
  const sql = `select record, status, coalesce(rule, ${NONE}) from ${runRelation(runId)} order by record`
  for await (const rows of copyRows(connection, sql, 3, BATCH_RECORDS)) {
    const { length } = rows
    yield {
      records: Int32Array.from({ length }, (_, row) => rows.whole(row, 0)),
      status: Uint8Array.from({ length }, (_, row) => rows.whole(row, 1)),
      rule: Int32Array.from({ length }, (_, row) => rows.whole(row, 2)),
    }
  }
}

/** A column as it saw it. @param at the place among the columns that it looked at */
export function seenBatches(
  connection: Connection,
  { runId, at, type }: { runId: number; at: number; type: Column['type'] },
): AsyncGenerator<ColumnBatch> {
  return columnBatches(connection, runRelation(runId), seenSource(at, type))
}
