/** Runs: made once, read ever after. */
import { BATCH_RECORDS, type RunBatch } from '@dime-gate/contract/column-wire'
import type { Run, RunRequest, RunSummary } from '@dime-gate/contract/run'
import { NONE } from '@dime-gate/core/rule/rules'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { Decimal } from '@dime-gate/core/value/number'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { copyRows } from '../database/copy-rows'
import { type Connection, type Database, inTransaction, type Queryable, rowOf, rowsOf } from '../database/database'
import { boundFor, findBinding } from '../gate/bindings'
import { findGate, findVersion } from '../gate/gates'
import { conflict, notFound } from '../http/refusal'
import { columnBatch } from '../table/read-column'
import { columnsOf, findTable } from '../table/tables'
import { type RunJobs, STOPPED } from './run-jobs'
import { runRelation } from './run-relation'

const SUMMARY = `
  select r.id, r.number, r.gate_id as "gateId", v.document ->> 'name' as "gateName", r.gate_version as "gateVersion",
    r.table_id as "tableId", t.name as "tableName", r.table_version as "tableVersion", r.as_of as "asOf",
    to_json(r.kept_at) #>> '{}' as "keptAt", r.state, r.problem, t.records, r.counts, v.document as gate
  from run r join data_table t on t.id = r.table_id
  join gate_version v on v.gate_id = r.gate_id and v.number = r.gate_version`

type Summarised = Omit<RunSummary, 'bands' | 'progress'> & { gate: ScaleGate }

/** @param jobs tells of those that are under way how far they are */
export async function listRuns(on: Queryable, jobs: RunJobs): Promise<RunSummary[]> {
  const before = jobs.progress()
  const rows = await rowsOf<Summarised>(on, `${SUMMARY} where r.removed_at is null order by r.id desc`)
  return rows.map(({ gate, ...run }) => ({ ...withProgress(run, before, jobs), bands: bandsOf(gate) }))
}

/** @throws Refusal `not-found` */
export async function findRun(on: Queryable, jobs: RunJobs, id: number): Promise<Run> {
  const before = jobs.progress()
  const run = await rowOf<Summarised & Pick<Run, 'binding'>>(on, SUMMARY.replace('r.counts', 'r.counts, r.binding') + ' where r.id = $1 and r.removed_at is null', [id])
  if (!run) throw notFound('run')
  return { ...withProgress(run, before, jobs), bands: bandsOf(run.gate), columns: await columnsOf(on, run.tableId) }
}

/** @param before what was under way before the row was read: a run may have ended since, or begun */
function withProgress<Row extends { id: number; state: RunSummary['state']; problem: string | null }>(
  run: Row, before: ReadonlyMap<number, number>, jobs: RunJobs,
): Row & { progress: number | null } {
  const progress = run.state === 'under way' ? (jobs.progress().get(run.id) ?? before.get(run.id) ?? null) : null
  // Nobody is at it any more: the database went away before the end could be written down.
  if (run.state === 'under way' && progress === null) return { ...run, state: 'failed', problem: STOPPED, progress }
  return { ...run, progress }
}

/**
 * Begins to apply a set version to a table as it stands now, by the binding that was seen.
 * @throws Refusal `stale` where the binding has moved since, `not-bound` where an input of the version has no column
 */
export async function keepRun(database: Database, jobs: RunJobs, { gateId, version, tableId, binding: seen, asOf }: RunRequest): Promise<Run> {
  const { id, job } = await inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    await findGate(connection, gateId)
    const gate = await findVersion(connection, gateId, version)
    const table = await findTable(connection, tableId)
    const bound = await findBinding(connection, gateId, tableId)
    if (bound.version !== seen) throw conflict('stale', `What “${gate.name}” looks at in “${table.name}” was changed since this page last saw it. Look at it again, then keep the run.`)
    const binding = boundFor(gate, bound.inputs, table.name)
    const { id } = (await rowOf<{ id: number }>(connection, `
      insert into run (gate_id, number, gate_version, table_id, table_version, binding, as_of, state)
      select $1, coalesce((select max(number) from run where gate_id = $1), 0) + 1, $2, $3, $4, $5, coalesce($6, as_of), 'under way' from workspace
      returning id`, [gateId, version, tableId, table.version, binding, asOf ?? null]))!
    jobs.expect(id)
    return { id, job: { runId: id, gate, tableId, columnId: binding[gate.on]!.column } }
  })
  jobs.start(job)
  return findRun(database, jobs, id)
}

/** Ends a run that is under way, of which nothing stays. @returns whether it was under way */
export async function cancelRun(database: Database, jobs: RunJobs, id: number): Promise<boolean> {
  if (!(await jobs.cancel(id))) return false
  await database.query('delete from run where id = $1', [id])
  // It may have been done in the very moment in which it was cancelled.
  await database.query(`drop table if exists ${runRelation(id)}`)
  return true
}

/** Runs that were under way when the server, or the database, went down are told as what they are. */
export async function tellStopped(database: Database): Promise<void> {
  await database.query("update run set state = 'failed', problem = $1 where state = 'under way'", [STOPPED])
}

/** What a run decided, in record order; cuts are those of its gate's version. */
export async function* runBatches(connection: Connection, { id, gate }: Pick<Run, 'id' | 'gate'>): AsyncGenerator<RunBatch> {
  const cuts = gate.cuts.map(({ at }, index) => `when ${new Decimal(at).toFixed()} then ${index}`).join(' ')
  const cut = cuts === '' ? String(NONE) : `case i1 ${cuts} else ${NONE} end`
  const sql = `select record, i1, u1, status, coalesce(rule, ${NONE}), ${cut} from ${runRelation(id)} order by record`
  for await (const [records, values, unreadable, status, rule, onCut] of copyRows(connection, sql, 6, BATCH_RECORDS)) {
    yield { ...columnBatch(records!, values!, unreadable!), status: Uint8Array.from(status!, Number), band: Int16Array.from(rule!, Number), cut: Int16Array.from(onCut!, Number) }
  }
}
