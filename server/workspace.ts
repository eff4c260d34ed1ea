/** The desk, and the one date that counts as today. */
import type { Desk, Workspace, WorkspaceChange } from '@dime-gate/contract/desk'
import { type Database, rowOf } from './database/database'
import { listGates } from './gate/gates'
import type { Jobs } from './jobs'
import { listRuns } from './run/runs'
import { listTables } from './table/tables'

export async function readDesk(database: Database, jobs: Pick<Jobs, 'runs' | 'lastRuns'>): Promise<Desk> {
  const [stamp, workspace, tables, gates, runs] = await Promise.all([jobs.lastRuns.stamp(), readWorkspace(database), listTables(database), listGates(database), listRuns(database, jobs.runs)])
  return { ...workspace, tables, gates, runs, ...(await jobs.lastRuns.told(stamp, runs)) }
}

export async function readWorkspace(database: Database): Promise<Workspace> {
  return (await rowOf<Workspace>(database, 'select coalesce(as_of, current_date) as "asOf", as_of is null as "isToday" from workspace'))!
}

export async function changeWorkspace(database: Database, { asOf }: WorkspaceChange): Promise<Workspace> {
  await database.query('update workspace set as_of = $1', [asOf === 'today' ? null : asOf])
  return readWorkspace(database)
}
