/** What a run keeps, as it is sent. */
import { BATCH_RECORDS, type ColumnBatch, type DecisionBatch } from '@dime-gate/contract/column-wire'
import type { Run } from '@dime-gate/contract/run'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { columnBatches } from '../table/read-column'
import { keptLandings, NO_RECORD, type RunLandings } from './run-landings'
import { columnOfRun, runRelation, runWithRecords } from './run-relation'

/** What it decided, in record order. */
export async function* decisionBatches(connection: Connection, runId: number): AsyncGenerator<DecisionBatch> {
  const kept = await keptLandings(connection, runId)
  if (kept) return yield* keptDecisions(kept)
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

function* keptDecisions({ codes, landings }: RunLandings): Generator<DecisionBatch> {
  const status = landings.map((one) => STATUSES.indexOf(one.status))
  const rules = landings.map(({ rule }) => rule ?? NONE)
  for (let from = 0, isFirst = true; from < codes.length || isFirst; from += BATCH_RECORDS, isFirst = false) {
    const records = Int32Array.from({ length: Math.min(BATCH_RECORDS, codes.length - from) }, (_, at) => from + at).filter((record) => codes[record] !== NO_RECORD)
    yield { records, status: Uint8Array.from(records, (record) => status[codes[record]!]!), rule: Int32Array.from(records, (record) => rules[codes[record]!]!) }
  }
}

/** A column as it was when the run was made. @throws TypeError where the run's table has no such column */
export function runColumnBatches(connection: Connection, run: Run, id: number): AsyncGenerator<ColumnBatch> {
  const found = columnOfRun(run, id)
  if (!found) throw new TypeError(`not a column of the run: ${id}`)
  return columnBatches(connection, found.isSeen ? runRelation(run.id) : runWithRecords(run), found.source)
}
