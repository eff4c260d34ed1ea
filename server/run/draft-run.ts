/** A run of a gate's draft as it is now, for as long as somebody compares it with a run that is kept. */
import type { Run } from '@dime-gate/contract/run'
import { type Database, inTransaction, rowsOf } from '../database/database'
import { findGate } from '../gate/gates'
import { refusals } from '../http/refusal'
import type { RunJobs } from './run-jobs'
import { runRelation } from './run-relation'
import { beginRun, findRun, planOf } from './runs'

/** So long it can be looked at. */
const LASTS = '1 hour'

/**
 * Begins to apply the draft to the table of a run, by the binding and with the feeding gates as they are now; as of the day of the run where that was asked for.
 * @throws Refusal `not-bound`, `no-version` where a gate that feeds this one has none, `cannot-decide`, `not-computed-yet`
 */
export async function runDraft(database: Database, jobs: RunJobs, run: Run): Promise<Run> {
  await clearDrafts(database)
  const job = await inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [run.gateId])
    const { draft, latestVersion } = await findGate(connection, run.gateId)
    const { plan } = await planOf(connection, run.gateId, latestVersion, draft, run.tableId)
    if (plan.table.figures === null && plan.table.columns.some(({ drawn }) => drawn !== null)) throw refusals.notComputedYet()
    return beginRun(connection, jobs, { ...plan, isDraft: true, asOf: run.isAsOfAsked ? run.asOf : null })
  })
  jobs.start(job)
  return findRun(database, jobs, job.runId)
}

async function clearDrafts(database: Database): Promise<void> {
  await inTransaction(database, async (connection) => {
    const gone = await rowsOf<{ id: number }>(connection, "delete from run where draft is not null and state <> 'under way' and removed_at < now() - $1::interval returning id", [LASTS])
    for (const { id } of gone) await connection.query(`drop table if exists ${runRelation(id)}`)
  })
}
