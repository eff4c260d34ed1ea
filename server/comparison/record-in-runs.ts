/** What one record got in the runs of a gate on its table. */
import type { RecordInRun } from '@dime-gate/contract/comparison'
import type { Run } from '@dime-gate/contract/run'
import { type Queryable, rowsOf } from '../database/database'
import { runRelation } from '../run/run-relation'
import { landedIn, landingOf } from './landed'

/** As many as anybody looks back at. */
const MOST_RUNS = 50

interface RunLine extends Omit<RecordInRun, 'landing'> {
  landed: string | null
}

/** The latest first; those in which it was not there are told too. */
export async function recordInRuns(on: Queryable, { gateId, tableId }: Pick<Run, 'gateId' | 'tableId'>, record: number): Promise<RecordInRun[]> {
  const runs = await rowsOf<{ id: number }>(on, "select id from run where gate_id = $1 and table_id = $2 and state = 'done' and removed_at is null order by id desc limit $3", [gateId, tableId, MOST_RUNS])
  if (runs.length === 0) return []
  const each = runs.map(({ id }) => `select ${id} as id, (select ${landedIn('kept')} from ${runRelation(id)} as kept where record = $1) as landed`)
  const rows = await rowsOf<RunLine>(on, `
    select r.id as "runId", r.number, r.name, r.gate_version as "gateVersion", r.as_of as "asOf", to_json(r.kept_at) #>> '{}' as "keptAt", landed
    from (${each.join(' union all ')}) as told join run r using (id) order by r.id desc`, [record])
  return rows.map(({ landed, ...run }) => ({ ...run, landing: landed === null ? null : landingOf(landed) }))
}
