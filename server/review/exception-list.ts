/** The exceptions of the last runs, with what became of each: counted, listed, and looked at one by one. */
import { type Exception, type ExceptionCount, type ExceptionDetail, type ExceptionRequest, type ExceptionState, type Mark, type Override, type Reviewer, type ReviewRun, WAITING } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS } from '@dime-gate/core/result/exception'
import { landingOf } from '../comparison/landed'
import { type Queryable, rowOf, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'
import { whoTexts } from './who'

/** The last run of each gate on each table: earlier ones are history. */
export async function lastRuns(on: Queryable): Promise<ReviewRun[]> {
  return rowsOf<ReviewRun>(on, `
    select distinct on (r.gate_id, r.table_id) r.id, r.number, r.name, r.gate_id as "gateId", v.document ->> 'name' as "gateName", r.table_id as "tableId", t.name as "tableName"
    from run r join gate g on g.id = r.gate_id join gate_version v on v.gate_id = r.gate_id and v.number = r.gate_version join data_table t on t.id = r.table_id
    where r.state = 'done' and r.removed_at is null and g.removed_at is null and t.removed_at is null order by r.gate_id, r.table_id, r.id desc`)
}

/** An exception beside the mark that it has, if it has one. */
export const MARKED = 'exception x join run r on r.id = x.run_id left join review_mark m on m.gate_id = r.gate_id and m.table_id = r.table_id and m.who = x.who and m.ended_at is null'

const WITH_ACT = `${MARKED} left join review_act a on a.id = m.act_id`

/** Whom an exception waits for, beside it. */
export const HANDED = 'left join review_handed h on h.gate_id = r.gate_id and h.table_id = r.table_id and h.who = x.who and h.ended_at is null left join reviewer p on p.id = h.reviewer_id'

/** Those whom any exceptions were handed to, by name. */
export async function listReviewers(on: Queryable): Promise<Reviewer[]> {
  return rowsOf<Reviewer>(on, 'select id, name from reviewer p where exists (select from review_handed h where h.reviewer_id = p.id and h.ended_at is null) order by name')
}

/** What highlights look at beside counts only where both have it: one that is gone takes nothing with it. */
const STANDS = "x.basis @> (m.basis - 'beside') and coalesce(((m.basis -> 'beside') || (x.basis -> 'beside')) @> (m.basis -> 'beside'), true)"

/** A mark holds as long as all that it was made for is as it was. A reason that is gone is none the less settled; one that came is not. */
export const STATE = `case when m.id is null then 'open' when ${STANDS} and (m.kind <> 'settled' or m.keys @> x.keys) then m.kind else 'lapsed' end`

/** One that was only overridden is none any more once that is taken back. */
const IS_ONE = `(x.kind <> ${EXCEPTION_KINDS.indexOf('overridden')} or m.kind = 'overridden')`

/** Those that have a mark alone; of many exceptions few have one. */
export const MARKED_ONES = 'review_mark m join run r on r.gate_id = m.gate_id and r.table_id = m.table_id join exception x on x.run_id = r.id and x.who = m.who where m.ended_at is null'
export const NAMED_RUNS = 'r.id = any($1)'

/** Those without a mark are what is left of all, so that only those with one are looked at closely. */
export async function countExceptions(on: Queryable, runs: readonly number[]): Promise<ExceptionCount[]> {
  const rows = await rowsOf<{ runId: number; kind: number; state: ExceptionState | null; isGone: boolean; records: number }>(on, `
    select run_id as "runId", kind, null as state, false as "isGone", count(*)::int as records from exception where run_id = any($1) group by 1, 2 union all
    select x.run_id, x.kind, ${STATE}, not ${IS_ONE}, count(*)::int from ${MARKED_ONES} and ${NAMED_RUNS} group by 1, 2, 3, 4 order by 1, 2, 3`, [runs])
  const marked = rows.filter(({ state }) => state !== null)
  const counts = rows.flatMap(({ runId, kind, state, isGone, records }) => {
    if (state !== null) return isGone ? [] : [{ runId, kind, state, records }]
    // One that was only overridden is none any more without a mark.
    if (EXCEPTION_KINDS[kind] === 'overridden') return []
    return [{ runId, kind, state: 'open' as const, records: marked.reduce((left, one) => (one.runId === runId && one.kind === kind ? left - one.records : left), records) }]
  })
  return counts.filter(({ records }) => records > 0).map((row) => ({ ...row, kind: EXCEPTION_KINDS[row.kind]! }))
}

/** In the order in which they are asked for. */
export async function someExceptions(on: Queryable, { of }: ExceptionRequest): Promise<Exception[]> {
  const rows = await rowsOf<ExceptionRow>(on, `
    select ${FIELDS} from ${WITH_ACT} ${HANDED} join unnest($1::bigint[], $2::integer[]) with ordinality as asked (run_id, record, place) on asked.run_id = x.run_id and asked.record = x.record
    where ${IS_ONE} order by place`, [of.map(({ runId }) => runId), of.map(({ record }) => record)])
  return rows.map(exceptionOf)
}

/** @throws Refusal `not-found` where the record is no exception of the run */
export async function findException(on: Queryable, runId: number, record: number): Promise<Exception> {
  const row = await rowOf<ExceptionRow>(on, `select ${FIELDS} from ${WITH_ACT} ${HANDED} where x.run_id = $1 and x.record = $2`, [runId, record])
  if (!row) throw refusals.notFound('exception of this run')
  return exceptionOf(row)
}

/** One with how many are alike, which takes longer. */
export async function exceptionDetail(on: Queryable, runId: number, record: number): Promise<ExceptionDetail> {
  const found = await findException(on, runId, record)
  const { alike } = (await rowOf<{ alike: number }>(on, `select count(*)::int as alike from ${MARKED} where ${ALIKE} and x.record <> $2`, [runId, record]))!
  return { ...found, alike }
}

/** What was given by hand in a run and still holds, as SQL, with the columns `record`, `outcomes`, `note`. */
export function overriddenIn(runId: number): string {
  return `(select x.record, m.outcomes, a.note, a.made_by, a.made_at, x.basis ->> 'landed' as landed from ${WITH_ACT} where x.run_id = ${runId} and m.kind = 'overridden' and ${STATE} = 'overridden')`
}

export async function overridesOf(on: Queryable, runId: number): Promise<Override[]> {
  const rows = await rowsOf<Omit<Override, 'was'> & { landed: string }>(on, `select record, outcomes, note, made_by as by, to_json(made_at) #>> '{}' as at, landed from ${overriddenIn(runId)} as hand order by record`)
  return rows.map(({ landed, ...row }) => ({ ...row, was: landingOf(landed) }))
}

/** What records of a table were given by hand in place of what a gate gives, as far as that held in its last run; nothing where it was never run. */
export async function standingOverrides(on: Queryable, gateId: number, tableId: number): Promise<Override[]> {
  const last = (await lastRuns(on)).find((run) => run.gateId === gateId && run.tableId === tableId)
  return last ? overridesOf(on, last.id) : []
}

/** Those of the run `$1` that wait, and are like the one of the record `$2`: for the same reasons, landing at the same place by the same rule. */
export const ALIKE = `x.run_id = $1 and ${STATE} in (${WAITING.map((state) => `'${state}'`).join(', ')}) and ${IS_ONE}
  and (x.kind, x.keys, x.basis -> 'landed', x.basis -> 'rule') in (select kind, keys, basis -> 'landed', basis -> 'rule' from exception where run_id = $1 and record = $2)`

const FIELDS = `x.run_id as "runId", x.record, x.who, x.kind, ${STATE} as state, x.reasons, x.keys, x.basis, p.name as "waitsFor",
  case when m.id is not null then jsonb_build_object('id', m.id, 'act', a.id, 'kind', m.kind, 'note', a.note, 'by', a.made_by, 'at', a.made_at, 'outcomes', m.outcomes, 'keys', m.keys, 'basis', m.basis) end as mark`

interface ExceptionRow extends Omit<Exception, 'who' | 'kind' | 'landing'> {
  who: string
  kind: number
  mark: Mark | null
}

function exceptionOf({ who, kind, ...row }: ExceptionRow): Exception {
  return { ...row, who: whoTexts(who), kind: EXCEPTION_KINDS[kind]!, landing: landingOf(row.basis.landed) }
}
