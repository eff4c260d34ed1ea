/** Decides a table by a gate's version, batch by batch, and stores what came of it: all of it, or nothing. */
import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import { from as copyFrom } from 'pg-copy-streams'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { scaleCounts, scaleDecider } from '@dime-gate/core/run/scale-result'
import { addCounts, noCounts } from '@dime-gate/core/run/add-counts'
import { hasBit } from '@dime-gate/core/table/bitmap'
import { decimalAt } from '@dime-gate/core/table/number-column'
import type { ColumnBatch } from '@dime-gate/contract/column-wire'
import { type Database, inTransaction, whileReading } from '../database/database'
import { COPY_NULL, toCopyText } from '../table/copy-text'
import { columnBatches } from '../table/read-column'

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
    const copy = writing.query(copyFrom('copy run_record (run_id, record, status, band, cut, value, unreadable) from stdin'))
    const copied = finished(copy)
    copied.catch(() => undefined)
    let total = noCounts(gate)
    try {
      await whileReading(database, async (reading) => {
        for await (const batch of columnBatches(reading, tableId, columnId)) {
          const decided = decideBatch(runId, gate, batch)
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
    await writing.query("update run set state = 'done', counts = $2 where id = $1", [runId, total])
  })
}

/** The rows of a batch as PostgreSQL's COPY takes them. */
function decideBatch(runId: number, gate: ScaleGate, { records, column }: ColumnBatch) {
  const result = scaleDecider(column)(gate)
  const place = (index: number) => (index === NONE ? COPY_NULL : String(index))
  let text = ''
  for (let at = 0; at < column.length; at++) {
    const { status, rule } = result.decisions.at(at)
    const cut = result.onCut.findIndex((places) => hasBit(places, at))
    const unreadable = column.unreadable.get(at)
    text += `${runId}\t${records[at]}\t${STATUSES.indexOf(status)}\t${place(rule)}\t${place(cut)}\t`
    text += `${decimalAt(column, at) ?? COPY_NULL}\t${unreadable === undefined ? COPY_NULL : toCopyText(unreadable)}\n`
  }
  return { text, counts: scaleCounts(column, result) }
}
