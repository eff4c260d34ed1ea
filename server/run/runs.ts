/** Runs: made once, read ever after. */
import { standingInputs } from '@dime-gate/contract/binding'
import { type FeedingGate, feedingSeen } from '@dime-gate/contract/gate'
import { columnsAsked, gatesAsked, type Question } from '@dime-gate/contract/question'
import type { Run, RunRequest, RunSummary } from '@dime-gate/contract/run'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { labelCounts, labelTrays, otherwiseLook } from '@dime-gate/core/result/tray'
import { type Connection, type Database, inTransaction, type Queryable, rowOf, rowsOf } from '../database/database'
import { boundFor, findBinding } from '../gate/bindings'
import { feedingGates, feedsOtherwise } from '../gate/feeding'
import { findGate, findVersion } from '../gate/gates'
import { refusals } from '../http/refusal'
import { columnsAt } from '../table/table-itself'
import { findTable } from '../table/tables'
import { columnsToRead, type RunJob } from './decide-run'
import { type RunJobs, STOPPED } from './run-jobs'
import { runRelation } from './run-relation'

/** @property gate feeding those of the version that was run */
interface RunRow extends Omit<RunSummary, 'labels' | 'otherwise' | 'progress' | 'isWaiting'> {
  gate: Gate
  binding: Run['binding']
  feeding: FeedingGate[]
  figures: RunFigure[]
}

type RunFigure = Pick<Column, 'id' | 'name' | 'unit' | 'type' | 'feel' | 'drawn'>

const RUNS = `
  select r.id, r.number, r.name, r.gate_id as "gateId", coalesce(r.draft, v.document) ->> 'name' as "gateName", r.gate_version as "gateVersion",
    r.table_id as "tableId", t.name as "tableName", r.table_version as "tableVersion", r.as_of as "asOf", r.is_as_of_asked as "isAsOfAsked",
    to_json(r.kept_at) #>> '{}' as "keptAt", r.state, r.problem, t.records, r.counts, r.draft is not null as "isDraft", coalesce(r.draft, v.document) as gate, r.binding, r.feeding, r.figures
  from run r join data_table t on t.id = r.table_id
  join gate_version v on v.gate_id = r.gate_id and v.number = r.gate_version`

/** @param jobs tells of those that are under way how far they are */
export async function listRuns(on: Queryable, jobs: RunJobs): Promise<RunSummary[]> {
  const rows = await rowsOf<RunRow>(on, `${RUNS} where r.removed_at is null order by r.id desc`)
  return rows.map((row) => summaryOf(row, jobs))
}

/** @throws Refusal `not-found` where it is removed; a run of a draft is not, as long as it lasts */
export async function findRun(on: Queryable, jobs: RunJobs, id: number): Promise<Run> {
  const row = await rowOf<RunRow>(on, `${RUNS} where r.id = $1 and (r.removed_at is null or r.draft is not null)`, [id])
  if (!row) throw refusals.notFound('run')
  const { gate, binding, feeding } = row
  const [seen, columns] = [columnsAsked(questionOf(row)), await columnsAt(on, row.tableId, row.tableVersion)]
  return { ...summaryOf(row, jobs), gate, binding, feeding, seen, columns: columns.flatMap((column) => asTheRunSaw(column, row.figures, seen)) }
}

/** @throws Refusal `not-found`, `not-done` */
export async function findDoneRun(on: Queryable, jobs: RunJobs, id: number): Promise<Run> {
  const run = await findRun(on, jobs, id)
  if (run.state !== 'done') throw refusals.notDone(run.problem)
  return run
}

/** Figures are what they were then; those that it did not look at are not kept. */
function asTheRunSaw(column: Column, figures: readonly RunFigure[], seen: readonly number[]): Column[] {
  if (!isComputed(column)) return [column]
  const then = figures.find(({ id }) => id === column.id)
  return seen.includes(column.id) ? [{ ...column, ...then }] : []
}

function questionOf({ gate, binding, feeding }: Pick<RunRow, 'gate' | 'binding' | 'feeding'>): Question {
  return { gate, inputs: binding, feeding }
}

function summaryOf({ gate, binding, feeding, figures: _, ...run }: RunRow, jobs: RunJobs): RunSummary {
  const { counts } = run
  const progress = run.state === 'under way' ? jobs.progress(run.id) : null
  // Nobody is at it any more: the database went away before the end could be written down.
  const isLost = run.state === 'under way' && progress === null
  const asked = gatesAsked(questionOf({ gate, binding, feeding }))
  const ready = 'gates' in asked ? asked.gates.at(-1)! : null
  const trays = counts && ready ? labelTrays(ready) : []
  const records = counts ? labelCounts(trays, counts) : []
  return {
    ...run, progress, isWaiting: jobs.isWaiting(run.id), ...(isLost ? { state: 'failed', problem: STOPPED } : {}),
    labels: trays.map(({ label, colour, mark }, at) => ({ label, colour, mark, records: records[at]! })), otherwise: ready && otherwiseLook(ready),
  }
}

/**
 * Begins to apply a set version to a table as it stands now, by the binding and with the feeding gates that were seen.
 * @throws Refusal `stale` where one of them has moved since, `not-bound` where an input of the version has no column,
 *   `no-version` where a gate that feeds this one has none, `cannot-decide`
 */
export async function keepRun(database: Database, jobs: RunJobs, { gateId, version, tableId, binding: seen, feeding: fedBy, asOf }: RunRequest): Promise<Run> {
  const job = await inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    await findGate(connection, gateId)
    const { plan, binding } = await planFor(connection, gateId, version, tableId)
    const { name } = plan.question.gate
    if (binding !== seen) throw refusals.staleForRun(name, plan.table.name)
    const changed = feedsOtherwise(plan.feeding, fedBy)
    if (changed !== null) throw refusals.staleFeeding(name, changed)
    // What is drawn from elsewhere is kept as it was worked out last; whoever keeps a run has seen to that.
    if (plan.table.figures === null && plan.table.columns.some(({ drawn }) => drawn !== null)) throw refusals.notComputedYet()
    return beginRun(connection, jobs, { ...plan, asOf: asOf ?? null })
  })
  jobs.start(job)
  return findRun(database, jobs, job.runId)
}

/**
 * What a run of a version on a table would be made of now, and the version of the binding.
 * @throws Refusal `not-found`, `not-bound`, `no-version`, `cannot-decide`
 */
export async function planFor(on: Queryable, gateId: number, version: number, tableId: number): Promise<{ plan: RunPlan; binding: number }> {
  return planOf(on, gateId, version, await findVersion(on, gateId, version), tableId)
}

/** The same of any state of the gate. */
export async function planOf(on: Queryable, gateId: number, version: number, gate: Gate, tableId: number): Promise<{ plan: RunPlan; binding: number }> {
  const table = await findTable(on, tableId)
  const bound = await findBinding(on, gateId, tableId)
  const inputs = boundFor(gate, standingInputs(bound.inputs, table), table.name)
  const feeding = (await feedingGates(on, gate, table)).map((one) => ({ ...one, inputs: boundFor(one.gate, one.inputs, table.name) }))
  const question: Question = { gate, inputs, feeding }
  if ('problems' in gatesAsked(question)) throw refusals.cannotDecideNow(gate.name)
  return { plan: { gateId, version, isDraft: false, table, question, feeding, asOf: null }, binding: bound.version }
}

/**
 * Applies what a run was made of once more. `same`: all of it as it was; what comes from other tables is as it is now, since nobody
 * keeps what it was. `now`: the gate's last version, by the binding, the gates that feed it, the records and the date as they are now.
 * @throws Refusal as `keepRun` does
 */
export async function runAgain(database: Database, jobs: RunJobs, id: number, as: 'same' | 'now'): Promise<Run> {
  const run = await findRun(database, jobs, id)
  if (run.isDraft) throw refusals.notFound('run')
  const { gateId, tableId, gateVersion, tableVersion, gate, binding, feeding, asOf } = run
  if (as === 'now') {
    const [{ latestVersion }, bound] = [await findGate(database, gateId), await findBinding(database, gateId, tableId)]
    const seen = feedingSeen(await feedingGates(database, await findVersion(database, gateId, latestVersion), await findTable(database, tableId)))
    return keepRun(database, jobs, { gateId, version: latestVersion, tableId, binding: bound.version, feeding: seen })
  }
  const job = await inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    const now = await findTable(connection, tableId)
    const columns = (await columnsAt(connection, tableId, tableVersion)).map((column) => run.columns.find((one) => one.id === column.id) ?? column)
    return beginRun(connection, jobs, { gateId, version: gateVersion, isDraft: false, table: { ...now, version: tableVersion, columns }, question: { gate, inputs: binding, feeding }, feeding, asOf })
  })
  jobs.start(job)
  return findRun(database, jobs, job.runId)
}

/** All that a run is made of. @property isDraft whether the question is of the draft; the version is the last one then @property asOf null for the date that counts everywhere */
export interface RunPlan {
  gateId: number
  version: number
  isDraft: boolean
  table: Table
  question: Question
  feeding: FeedingGate[]
  asOf: string | null
}

/** Writes down that it is under way. @returns what there is to do once that is written */
export async function beginRun(connection: Connection, jobs: RunJobs, { gateId, version, isDraft, table, question, feeding, asOf }: RunPlan): Promise<RunJob> {
  const columns = columnsToRead(question, table.columns)
  const figures = columns.flatMap(({ id, name, unit, type, feel, drawn }): RunFigure[] => (isComputed({ feel, drawn }) ? [{ id, name, unit, type, feel, drawn }] : []))
  const { id, day } = (await rowOf<{ id: number; day: string }>(connection, `
    insert into run (gate_id, number, gate_version, table_id, table_version, binding, feeding, as_of, is_as_of_asked, figures, state, draft, removed_at)
    select $1, case when $9::jsonb is null then coalesce((select max(number) from run where gate_id = $1 and number > 0), 0) + 1 else coalesce((select min(number) from run where gate_id = $1 and number < 0), 0) - 1 end,
      $2, $3, $4, $5, $6, coalesce($7, as_of, current_date), $7 is not null, $8, 'under way', $9, case when $9::jsonb is not null then now() end from workspace
    returning id, as_of as day`, [gateId, version, table.id, table.version, question.inputs, JSON.stringify(feeding), asOf, JSON.stringify(figures), isDraft ? question.gate : null]))!
  jobs.expect(id)
  return { runId: id, tableId: table.id, tableVersion: table.version, question, asOf: day, columns, table: { id: table.id, columns: table.columns, sets: table.sets, figures: table.figures } }
}

/** The one thing of a run that can be changed: what people call it. @throws Refusal `not-found` */
export async function nameRun(database: Database, jobs: RunJobs, id: number, name: string | null): Promise<Run> {
  await database.query('update run set name = $2 where id = $1', [id, name])
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
