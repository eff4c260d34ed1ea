/** The desk, and the one date that counts as today. */
import type { Desk, Workspace, WorkspaceChange } from '@dime-gate/contract/desk'
import type { RunSummary } from '@dime-gate/contract/run'
import { type Database, rowOf } from './database/database'
import { listGates } from './gate/gates'
import type { Jobs } from './jobs'
import { findRun, listRuns } from './run/runs'
import { listTables } from './table/tables'

export async function readDesk(database: Database, jobs: Pick<Jobs, 'runs' | 'checks' | 'freshness'>): Promise<Desk> {
  const [workspace, tables, gates, runs] = await Promise.all([readWorkspace(database), listTables(database), listGates(database), listRuns(database, jobs.runs)])
  return { ...workspace, tables, gates, runs, ...(await lookedInto(database, jobs, runs)) }
}

/** What is told of the last runs of each gate on each table: older ones are history. */
async function lookedInto(database: Database, { runs: jobs, checks, freshness }: Pick<Jobs, 'runs' | 'checks' | 'freshness'>, runs: readonly RunSummary[]): Promise<Pick<Desk, 'expected' | 'fresh'>> {
  const done = runs.filter(({ state }) => state === 'done')
  const latest = done.filter(({ gateId, tableId }, at) => !done.slice(0, at).some((one) => one.gateId === gateId && one.tableId === tableId))
  const told = await Promise.all(latest.map(async ({ id }) => {
    const run = await findRun(database, jobs, id)
    return { id, tally: await checks.tally(database, run), known: await freshness.known(run) }
  }))
  return { expected: Object.fromEntries(told.flatMap(({ id, tally }) => (tally ? [[id, tally]] : []))), fresh: Object.fromEntries(told.map(({ id, known }) => [id, known])) }
}

export async function readWorkspace(database: Database): Promise<Workspace> {
  return (await rowOf<Workspace>(database, 'select coalesce(as_of, current_date) as "asOf", as_of is null as "isToday" from workspace'))!
}

export async function changeWorkspace(database: Database, { asOf }: WorkspaceChange): Promise<Workspace> {
  await database.query('update workspace set as_of = $1', [asOf === 'today' ? null : asOf])
  return readWorkspace(database)
}
