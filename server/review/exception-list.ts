/** The exceptions of the last runs, with what became of each: counted, listed, and looked at one by one. */
import { type Exception, type ExceptionCount, type ExceptionDetail, type ExceptionFilter, type ExceptionList, type ExceptionRequest, type Mark, type ReviewRun, WAITING } from '@dime-gate/contract/review'
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

/** A mark holds as long as all that it was made for is as it was. A reason that is gone is none the less settled; one that came is not. */
export const STATE = "case when m.id is null then 'open' when x.basis @> m.basis and (m.kind <> 'settled' or m.keys @> x.keys) then m.kind else 'lapsed' end"

/** One that was only overridden is none any more once that is taken back. */
const IS_ONE = `(x.kind <> ${EXCEPTION_KINDS.indexOf('overridden')} or m.kind = 'overridden')`

export async function countExceptions(on: Queryable, runs: readonly number[]): Promise<ExceptionCount[]> {
  const rows = await rowsOf<Omit<ExceptionCount, 'kind'> & { kind: number }>(on, `
    select x.run_id as "runId", x.kind, ${STATE} as state, count(*)::int as records from ${MARKED} where x.run_id = any($1) and ${IS_ONE} group by 1, 2, 3 order by 1, 2, 3`, [runs])
  return rows.map((row) => ({ ...row, kind: EXCEPTION_KINDS[row.kind]! }))
}

/** What lapsed comes first, then kind by kind; within one, by the order in which runs are named, then by record. */
export async function listExceptions(on: Queryable, runs: readonly number[], { filter, from, to }: ExceptionRequest): Promise<ExceptionList> {
  const { where, values } = whereOf(runs, filter)
  const order = `${STATE} = 'lapsed' desc, x.kind, array_position($1::bigint[], x.run_id), x.record`
  const rows = await rowsOf<ExceptionRow>(on, `select ${FIELDS} from ${WITH_ACT} where ${where} order by ${order} offset ${from} limit ${to - from}`, values)
  const { total } = (await rowOf<{ total: number }>(on, `select count(*)::int as total from ${MARKED} where ${where}`, values))!
  return { exceptions: rows.map(exceptionOf), total }
}

/** @throws Refusal `not-found` where the record is no exception of the run */
export async function findException(on: Queryable, runId: number, record: number): Promise<ExceptionDetail> {
  const row = await rowOf<ExceptionRow>(on, `select ${FIELDS} from ${WITH_ACT} where x.run_id = $1 and x.record = $2`, [runId, record])
  if (!row) throw refusals.notFound('exception of this run')
  const { alike } = (await rowOf<{ alike: number }>(on, `select count(*)::int as alike from ${MARKED} where ${ALIKE} and x.record <> $2`, [runId, record]))!
  return { ...exceptionOf(row), alike }
}

/** Those of the run `$1` that wait, and are like the one of the record `$2`: for the same reasons, landing at the same place by the same rule. */
export const ALIKE = `x.run_id = $1 and ${STATE} in (${WAITING.map((state) => `'${state}'`).join(', ')}) and ${IS_ONE}
  and (x.kind, x.keys, x.basis -> 'landed', x.basis -> 'rule') in (select kind, keys, basis -> 'landed', basis -> 'rule' from exception where run_id = $1 and record = $2)`

const WITH_ACT = `${MARKED} left join review_act a on a.id = m.act_id`
const FIELDS = `x.run_id as "runId", x.record, x.who, x.kind, ${STATE} as state, x.reasons, x.keys, x.basis,
  case when m.id is not null then jsonb_build_object('id', m.id, 'act', a.id, 'kind', m.kind, 'note', a.note, 'by', a.made_by, 'at', a.made_at, 'outcomes', m.outcomes, 'keys', m.keys, 'basis', m.basis) end as mark`

interface ExceptionRow extends Omit<Exception, 'who' | 'kind' | 'landing'> {
  who: string
  kind: number
  mark: Mark | null
}

function exceptionOf({ who, kind, ...row }: ExceptionRow): Exception {
  return { ...row, who: whoTexts(who), kind: EXCEPTION_KINDS[kind]!, landing: landingOf(row.basis.landed) }
}

function whereOf(runs: readonly number[], { runs: asked, kinds, states, text }: ExceptionFilter): { where: string; values: unknown[] } {
  const values: unknown[] = [asked ? asked.filter((id) => runs.includes(id)) : runs]
  const parts = ['x.run_id = any($1::bigint[])', IS_ONE]
  if (kinds) parts.push(`x.kind = any($${values.push(kinds.map((kind) => EXCEPTION_KINDS.indexOf(kind)))})`)
  if (states) parts.push(`${STATE} = any($${values.push(states)})`)
  if (text?.trim()) parts.push(`(x.who || ' ' || (x.basis ->> 'landed') || ' ' || x.reasons::text) ilike $${values.push(`%${text.trim().replace(/[\\%_]/g, '\\$&')}%`)}`)
  return { where: parts.join(' and '), values }
}
