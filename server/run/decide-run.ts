/** Decides a table by a gate's version, batch by batch, and stores what came of it: all of it, or nothing. */
import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import { from as copyFrom } from 'pg-copy-streams'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { scaleCounts, scaleDecider } from '@dime-gate/core/run/scale-result'
import { addCounts, noCounts } from '@dime-gate/core/run/add-counts'
import { decimalAt } from '@dime-gate/core/table/number-column'
import type { ColumnBatch } from '@dime-gate/contract/column-wire'
import { type Database, inTransaction, whileReading } from '../database/database'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import { columnBatches } from '../table/read-column'
import { createRunRelation, keyRunRelation, RUN_COLUMNS, runRelation } from './run-relation'

export interface RunJob {
  runId: number
  gate: ScaleGate
  tableId: number
  columnId: number
}

/**
 * One connection reads while another writes; only the last word of the writing one makes any of it count.
 * @param progress is told how many records are decided
 */
export async function decideRun(database: Database, { runId, gate, tableId, columnId }: RunJob, progress: (records: number) => void): Promise<void> {
  await inTransaction(database, async (writing) => {
    await writing.query(createRunRelation(runId))
    // Rows of a relation that nobody else can see yet are settled at once.
    const copy = writing.query(copyFrom(`copy ${runRelation(runId)} (${RUN_COLUMNS.join(', ')}) from stdin with (freeze)`))
    const copied = finished(copy)
    copied.catch(() => undefined)
    let total = noCounts(gate)
    try {
      await whileReading(database, async (reading) => {
        for await (const batch of columnBatches(reading, tableId, columnId)) {
          const decided = decideBatch(gate, batch)
          total = addCounts(total, decided.counts)
          if (!copy.write(decided.text)) await Promise.race([once(copy, 'drain'), copied])
          progress(total.records)
        }
      })
      copy.end()
      await copied
    } catch (error) {
      // A COPY that is left half-way would keep the connection from rolling back.
      copy.destroy(error as Error)
      await copied.catch(() => undefined)
      throw error
    }
    await writing.query(keyRunRelation(runId))
    await writing.query("update run set state = 'done', counts = $2 where id = $1", [runId, total])
  })
}

/** The rows of a batch as PostgreSQL's COPY takes them. */
function decideBatch(gate: ScaleGate, { records, column }: ColumnBatch) {
  const result = scaleDecider(column)(gate)
  const labels = bandsOf(gate).map(({ label }) => toCopyText(label))
  let text = ''
  for (let at = 0; at < column.length; at++) {
    const { status, rule } = result.decisions.at(at)
    const unreadable = column.unreadable.get(at)
    text += `${records[at]}\t${STATUSES.indexOf(status)}\t${rule === NONE ? COPY_NULL : rule}\t${labels[rule] ?? COPY_NULL}\t`
    text += `${decimalAt(column, at) ?? COPY_NULL}\t${unreadable === undefined ? COPY_NULL : toCopyText(unreadable)}\n`
  }
  return { text, counts: scaleCounts(column, result) }
}
