/** A run by group, counted where it lies: only the counts come back, however many records there are. */
import type { KeyPart } from '@dime-gate/contract/drawn'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { MOST_GROUPS, type RunGroup, type RunGroups } from '@dime-gate/contract/run-groups'
import type { Column } from '@dime-gate/contract/table'
import { labelTrays } from '@dime-gate/core/result/tray'
import { STATUSES, type Status } from '@dime-gate/core/rule/rules'
import { words } from '@dime-gate/core/table/in-order'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Database, joinedRows } from '../database/database'
import { refusals } from '../http/refusal'
import { isUnreadable, valueOf } from '../table/relation'
import { landingCode, landingsAlone } from './run-landings'
import { recordsOfRun, runRelation, seenSource } from './run-relation'

interface GroupRow {
  value: string | null
  isUnreadable: boolean
  records: number
}
/** As the database counts them: by what the run's relation says, or by the place of a landing. */
type CountedRow = GroupRow & ({ code: number } | { status: number; rule: number | null })
/** @property rule null where no rule took the records */
type DecidedRow = GroupRow & { status: Status; rule: number | null }

/** @throws Refusal `not-found` where the run has no such column, `malformed` where it has no years or months, `too-large` where nobody could read them all */
export async function groupsOfRun(database: Database, run: Run, columnId: number, part: KeyPart): Promise<RunGroups> {
  const column = run.columns.find(({ id }) => id === columnId)
  if (!column) throw refusals.notFound('column of this run')
  if (part !== 'whole' && column.type !== 'date') throw refusals.malformed(`“${column.name}” holds no dates, so it has no year or month.`)
  const kept = await landingsAlone(database, run.id)
  const { from, value, unreadable } = sourceIn(run, column, kept !== null)
  const [decided, joined] = kept ? [`${landingCode(run.id, 'record')} as code`, 'code'] : ['kept.status, kept.rule', 'status, rule']
  const typed = part === 'whole' ? value : `date_trunc('${part}', ${value})::date`
  const text = part !== 'whole' ? `to_char(typed, '${FORMATS[part]}')` : isNumeric(column.type) ? 'trim_scale(typed)::text' : 'typed::text'
  const rows = await joinedRows<CountedRow>(database, `
    with counted as materialized (select ${typed} as typed, ${unreadable} as is_unreadable, ${decided}, count(*) as records from ${from} group by 1, 2, ${kept ? '3' : '3, 4'})
    select ${text} as value, is_unreadable as "isUnreadable", ${joined}, records::int from counted
    where (select count(*) from (select distinct typed, is_unreadable from counted limit ${MOST_GROUPS + 1}) as first) <= ${MOST_GROUPS}
    order by is_unreadable, typed nulls last`)
  if (rows.length === 0 && run.counts!.records > 0) throw refusals.tooManyGroups(column.name, MOST_GROUPS)
  const groups = gathered(run, rows.map(({ value: group, isUnreadable: isOf, records, ...decision }): DecidedRow => ({ value: group, isUnreadable: isOf, records, ...('code' in decision ? kept![decision.code]! : { status: STATUSES[decision.status]!, rule: decision.rule }) })))
  return { column: columnId, part, groups: column.type === 'text' ? inWordOrder(groups) : groups }
}

const FORMATS = { year: 'YYYY', month: 'YYYY-MM' }

/** What the run saw lies beside what it gave; anything else lies in the table as it stood. @param isAlone whether what it gave is told by the record's number */
function sourceIn(run: Run, column: Column, isAlone: boolean): { from: string; value: string; unreadable: string } {
  const at = run.seen.indexOf(column.id)
  if (at >= 0) {
    const seen = seenSource(at, column.type)
    return { from: `${runRelation(run.id)} as kept`, value: `kept.${seen.value}`, unreadable: `(kept.${seen.unreadable} is not null)` }
  }
  return {
    from: isAlone ? recordsOfRun(run) : `${recordsOfRun(run)} join ${runRelation(run.id)} as kept using (record)`,
    value: `records.${valueOf(column.id)}`,
    unreadable: column.unreadable === 0 ? 'false' : `coalesce(${isUnreadable(column.id)}, false)`,
  }
}

/** In the order in which they come. */
function gathered(run: Run, rows: readonly DecidedRow[]): RunGroup[] {
  const asked = gatesAsked(run)
  const trays = 'gates' in asked ? labelTrays(asked.gates.at(-1)!) : []
  const labelOf = new Map(trays.flatMap(({ rules }, label) => rules.map((rule) => [rule, label] as const)))
  const groups = new Map<string, RunGroup>()
  for (const { value, isUnreadable, status, rule, records } of rows) {
    const key = JSON.stringify([value, isUnreadable])
    const group = groups.get(key) ?? { value, isUnreadable, records: 0, labels: trays.map(() => 0), otherwise: 0, unplaced: 0, held: 0, contested: 0 }
    groups.set(key, group)
    group.records += records
    if (status === 'labelled') group.labels[labelOf.get(rule!)!]! += records
    else group[status] += records
  }
  return [...groups.values()]
}

/** Texts are put in order as they are everywhere, whatever the database's own order is. */
function inWordOrder(groups: readonly RunGroup[]): RunGroup[] {
  const named = groups.filter(({ value }) => value !== null).sort((one, other) => words.compare(one.value!, other.value!))
  return [...named, ...groups.filter(({ value }) => value === null)]
}
