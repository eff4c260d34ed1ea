/** What each record of a run is told of itself: what the run saw of it and gave it, and nothing of any other record. */
import { MOST_SLIPS, type Slip, type SlipHead, type Slips, type SlipsRequest } from '@dime-gate/contract/slip'
import { isComputed, type Column } from '@dime-gate/contract/table'
import type { Run } from '@dime-gate/contract/run'
import type { Gate } from '@dime-gate/core/gate/document'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { type Queryable, rowsOf } from '../database/database'
import { overriddenIn } from '../review/exception-list'
import { outcomeField, recordsOfRun, runRelation } from '../run/run-relation'
import { readFrom } from '../table/records'
import { findSentence } from './sentences'

/** A gate as others may see it: the records that are kept with it are somebody's. */
export function shownGate({ examples: _, meant: __, ...gate }: Gate): Gate {
  return gate as Gate
}

/** Those that say who a record is, and those that the gate looked at. */
function columnsOf({ columns, seen }: Run): Column[] {
  return columns.filter(({ id, isIdentity }) => isIdentity || seen.includes(id))
}

export async function slipHead(on: Queryable, run: Run): Promise<SlipHead> {
  return {
    gate: shownGate(run.gate),
    feeding: run.feeding.map(({ gate, inputs }) => ({ gate: shownGate(gate), inputs })),
    inputs: run.binding,
    asOf: run.asOf,
    tableName: run.tableName,
    sentence: (await findSentence(on, run.gateId)).sentence,
    columns: columnsOf(run).map((column) => ({ id: column.id, name: column.name, unit: column.unit, type: column.type, isIdentity: column.isIdentity, isComputed: isComputed(column) })),
  }
}

/** @returns those that the run has, in the order in which they are asked for */
export async function someSlips(on: Queryable, run: Run, records: number[]): Promise<Slip[]> {
  const outcomes = run.gate.outcomes.map((_, at) => `${outcomeField(at)}::text`)
  const [decided, cells, byHand] = await Promise.all([
    rowsOf<{ record: number; status: number; outcomes: (string | null)[] }>(on, `select record, status, array[${outcomes.join(', ')}]::text[] as outcomes from ${runRelation(run.id)} where record = any($1)`, [records]),
    readFrom(on, recordsOfRun(run), columnsOf(run), records),
    rowsOf<{ record: number; outcomes: Slip['byHand'] }>(on, `select record, outcomes from ${overriddenIn(run.id)} as hand where record = any($1)`, [records]),
  ])
  const decisionOf = new Map(decided.map((one) => [one.record, one]))
  const handOf = new Map(byHand.map((one) => [one.record, one.outcomes]))
  return cells.flatMap(({ record, cells: own }) => {
    const decision = decisionOf.get(record)
    return decision ? [{ record, cells: own, status: STATUSES[decision.status]!, outcomes: decision.outcomes, byHand: handOf.get(record) ?? null }] : []
  })
}

/** Whose slips are meant, in the order of the table. @returns no more than `most`, and how many there are */
export async function slipRecords(on: Queryable, run: Run, { label, records }: SlipsRequest, most = MOST_SLIPS): Promise<{ total: number; records: number[] }> {
  const rows = await rowsOf<{ record: number; total: number }>(on, `
    select record, count(*) over ()::int as total from ${runRelation(run.id)}
    where ($1::text is null or ${outcomeField(0)}::text = $1) and ($2::integer[] is null or record = any($2)) order by record limit ${most}`, [label, records])
  return { total: rows[0]?.total ?? 0, records: rows.map(({ record }) => record) }
}

export async function slipsOf(on: Queryable, run: Run, request: SlipsRequest): Promise<Slips> {
  const { total, records } = await slipRecords(on, run, request)
  return { head: await slipHead(on, run), total, slips: await someSlips(on, run, records) }
}
