/** How many records would get something else than a run gave them: decided as things are now, and held to what was kept, batch by batch. */
import { type Connection, rowsOf, whileReading } from '../database/database'
import { batchDecider, type RunJob } from '../run/decide-run'
import { runRelation } from '../run/run-relation'
import { recordsBatches, recordsOf } from '../table/read-column'
import { recordsAt, recordsWithDrawn } from '../table/relation'
import type { OnTask } from '../threads/serve-tasks'
import { landedIn, landingsOf } from './landed'

export interface FreshTask {
  kind: 'fresh'
  runId: number
  /** What a run would be made of now. */
  job: Omit<RunJob, 'runId'>
}

const AT_ONCE = 65_536

/** New records, and those that are gone, count too. */
export async function countOtherwise({ runId, job }: FreshTask, { database, signal }: OnTask<never>): Promise<number> {
  let otherwise = 0
  await whileReading(database, async (deciding) => {
    await whileReading(database, async (keeping) => {
      const decider = batchDecider(job)
      let met = 0
      for await (const batch of recordsBatches(deciding, `${recordsWithDrawn(job.table, recordsAt(job.tableId, job.tableVersion))} order by record`, decider.sources, AT_ONCE)) {
        if (signal.aborted) throw new Error('nobody waits for it any more')
        const records = recordsOf(batch)
        if (records.length === 0) continue
        const now = landingsOf(decider.decide(batch).result)
        const kept = await keptBetween(keeping, runId, records[0]!, records.at(-1)!)
        records.forEach((record, at) => {
          const was = kept.get(record)
          if (was !== undefined) met++
          if (was !== now[at]) otherwise++
        })
      }
      const [{ kept }] = (await rowsOf<{ kept: number }>(keeping, `select count(*)::int as kept from ${runRelation(runId)}`)) as [{ kept: number }]
      otherwise += kept - met
    })
  })
  return otherwise
}

async function keptBetween(connection: Connection, runId: number, first: number, last: number): Promise<Map<number, string>> {
  const rows = await rowsOf<{ record: number; landed: string }>(connection, `select record, ${landedIn('kept')} as landed from ${runRelation(runId)} as kept where record between $1 and $2`, [first, last])
  return new Map(rows.map(({ record, landed }) => [record, landed]))
}
