/** Decides a table by a gate's version, batch by batch, and stores what came of it: all of it, or nothing. */
import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import { from as copyFrom } from 'pg-copy-streams'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { ScaleCounts } from '@dime-gate/core/run/scale-result'
import { addCounts, noCounts } from '@dime-gate/core/run/add-counts'
import { tableDecider } from '@dime-gate/core/bulk/decide-table'
import { lowered } from '@dime-gate/core/rule/lower'
import { countBits } from '@dime-gate/core/table/bitmap'
import { decimalAt } from '@dime-gate/core/table/number-column'
import { plain } from '@dime-gate/core/value/number'
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
    const decide = batchDecider(gate)
    let total = noCounts(gate)
    try {
      await whileReading(database, async (reading) => {
        for await (const batch of columnBatches(reading, tableId, columnId)) {
          const decided = decide(batch)
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

/** A scale on a measured number asks for no day. */
const ANY_DAY = { kind: 'date', day: 0 } as const

/** Gives the rows of a batch as PostgreSQL's COPY takes them, and what they come to. */
function batchDecider(gate: ScaleGate) {
  const ready = lowered(gate)
  const labels = bandsOf(gate).map(({ label }) => toCopyText(label))
  const cuts = new Map(gate.cuts.map(({ at }, index) => [plain(at), index]))
  return ({ records, column }: ColumnBatch): { text: string; counts: ScaleCounts } => {
    const decisions = tableDecider({ length: column.length, columns: new Map([[gate.on, column]]) }, ANY_DAY).decide(ready)
    const onCut = gate.cuts.map(() => 0)
    let text = ''
    for (let at = 0; at < column.length; at++) {
      const { status, rule } = decisions.at(at)
      const value = decimalAt(column, at)
      // What no double stands for may be written with noughts at its end.
      const cut = value === null ? undefined : cuts.get(column.exact.has(at) ? plain(value) : value)
      if (cut !== undefined) onCut[cut]!++
      const unreadable = column.unreadable.get(at)
      text += `${records[at]}\t${STATUSES.indexOf(status)}\t${rule === NONE ? COPY_NULL : rule}\t${labels[rule] ?? COPY_NULL}\t`
      text += `${value ?? COPY_NULL}\t${unreadable === undefined ? COPY_NULL : toCopyText(unreadable)}\n`
    }
    const { caught, held, unplaced } = decisions.counts
    const unreadable = column.unreadable.size
    return { text, counts: { records: column.length, bands: caught, held, unplaced, onCut, blank: column.length - countBits(column.valid) - unreadable, unreadable } }
  }
}
