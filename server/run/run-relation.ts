/** Where what a run gave lies: a relation of its own, named by its id alone, with a column for each outcome and each column that was looked at. */
import type { Gate, HitPolicy, OutcomeColumn } from '@dime-gate/core/gate/document'
import { type ColumnType, kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { ColumnSource } from '../table/read-column'

export function runRelation(runId: number): string {
  if (!Number.isSafeInteger(runId)) throw new TypeError(`not an id: ${runId}`)
  return `runs.r${runId}`
}

/** @param at from 0 */
export function outcomeField(at: number): string {
  return `o${at + 1}`
}

/** A column as the run saw it. @param at its place among those that were looked at, from 0 */
export function seenSource(at: number, type: ColumnType): ColumnSource {
  return { kind: kindOfColumn(type), value: `i${at + 1}`, unreadable: `u${at + 1}` }
}

const SEEN_TYPES: Record<ColumnType, string> = { number: 'numeric', percent: 'numeric', date: 'date', text: 'text', boolean: 'boolean' }

/** Policies that give a record all that its rules give, as a list. */
const GATHERING: readonly HitPolicy[] = ['rule order', 'output order', 'collect']

/** Days and times are kept as texts: those of FEEL reach further than those of the database. */
function outcomeType({ type }: OutcomeColumn, gate: Gate): string {
  const isGathered = gate.form === 'rules' && GATHERING.includes(gate.hitPolicy)
  if (isGathered) return 'text'
  if (type === 'number' || (gate.form === 'rules' && gate.hitPolicy === 'collect count')) return 'numeric'
  return type === 'boolean' ? 'boolean' : 'text'
}

/** Rows are written in this order. */
export function runFields(gate: Gate, seen: readonly ColumnType[]): { name: string; type: string }[] {
  return [
    { name: 'record', type: 'integer not null' }, { name: 'status', type: 'smallint not null' }, { name: 'rule', type: 'integer' },
    ...gate.outcomes.map((outcome, at) => ({ name: outcomeField(at), type: outcomeType(outcome, gate) })),
    ...seen.flatMap((type, at) => [{ name: `i${at + 1}`, type: SEEN_TYPES[type] }, { name: `u${at + 1}`, type: 'text' }]),
  ]
}

/** Its key comes once the rows are there: that is quicker than to look after it row by row. */
export function createRunRelation(runId: number, fields: ReturnType<typeof runFields>): string {
  return `create table ${runRelation(runId)} (${fields.map(({ name, type }) => `${name} ${type}`).join(', ')})`
}

export function keyRunRelation(runId: number): string {
  return `alter table ${runRelation(runId)} add primary key (record)`
}
