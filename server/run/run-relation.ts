/** Where what a run gave lies: a relation of its own, named by its id alone, with a column for each outcome and each column that was looked at. */
import { type Column, isComputed } from '@dime-gate/contract/table'
import type { Gate, OutcomeColumn } from '@dime-gate/core/gate/document'
import { outcomeKind } from '@dime-gate/core/gate/outcome-kind'
import { type ColumnType, kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { Run } from '@dime-gate/contract/run'
import { type ColumnSource, sourceOf } from '../table/read-column'
import { recordsAt, valueOf } from '../table/relation'

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

/** Days and times are kept as texts: those of FEEL reach further than those of the database. */
function outcomeType(outcome: OutcomeColumn, gate: Gate): string {
  const kind = outcomeKind(outcome, gate)
  return kind === 'number' ? 'numeric' : kind === 'boolean' ? 'boolean' : 'text'
}

/** @property isFilled whether its rows are written with it; null throughout where not */
export interface RunField {
  name: string
  type: string
  isFilled: boolean
  /** Whether it is a figure, which is written behind all others. */
  isFigure?: boolean
}

/** In the order in which rows are written. */
export function filledFields(fields: readonly RunField[]): string[] {
  const filled = fields.filter(({ isFilled }) => isFilled)
  return [...filled.filter(({ isFigure }) => !isFigure), ...filled.filter(({ isFigure }) => isFigure)].map(({ name }) => name)
}

/** The table that a run was made of as it stood, with the figures that it looked at as it saw them. */
export function recordsOfRun({ id, tableId, tableVersion, seen, columns }: Pick<Run, 'id' | 'tableId' | 'tableVersion' | 'seen' | 'columns'>): string {
  const figures = columns.filter(isComputed)
  if (figures.length === 0) return recordsAt(tableId, tableVersion)
  const values = figures.map((column) => `kept.${seenSource(seen.indexOf(column.id), column.type).value} as ${valueOf(column.id)}`)
  return `(select given.*, ${values.join(', ')} from ${recordsAt(tableId, tableVersion).replace(/ as records$/, ' as given')} left join ${runRelation(id)} as kept using (record)) as records`
}

/** What a run gave, with the table that it was made of: where columns are asked for that it did not look at. Their names are apart. */
export function runWithRecords(run: Parameters<typeof recordsOfRun>[0]): string {
  return `${runRelation(run.id)} as kept join ${recordsOfRun(run)} using (record)`
}

/** A column of the table that a run was made of. @property isSeen whether it lies with what the run gave; else with the records; null where there is none */
export function columnOfRun({ seen, columns }: Pick<Run, 'seen' | 'columns'>, id: number): { source: ColumnSource; isSeen: boolean } | null {
  const column = columns.find((one) => one.id === id)
  if (!column) return null
  const at = seen.indexOf(id)
  return at < 0 ? { source: sourceOf(column), isSeen: false } : { source: seenSource(at, column.type), isSeen: true }
}

/** Rows are written in this order. @param seen the columns that were looked at */
export function runFields(gate: Gate, seen: readonly Pick<Column, 'type' | 'unreadable' | 'feel' | 'drawn'>[]): RunField[] {
  const field = (name: string, type: string, isFilled = true): RunField => ({ name, type, isFilled })
  return [
    field('record', 'integer not null'), field('status', 'smallint not null'), field('rule', 'integer'),
    ...gate.outcomes.map((outcome, at) => field(outcomeField(at), outcomeType(outcome, gate))),
    ...seen.flatMap(({ type, unreadable, feel, drawn }, at) => [{ ...field(`i${at + 1}`, SEEN_TYPES[type]), isFigure: isComputed({ feel, drawn }) }, field(`u${at + 1}`, 'text', unreadable > 0)]),
  ]
}

/** Its key comes once the rows are there: that is quicker than to look after it row by row. */
export function createRunRelation(runId: number, fields: readonly RunField[]): string {
  return `create table ${runRelation(runId)} (${fields.map(({ name, type }) => `${name} ${type}`).join(', ')})`
}

/** With its key it is looked at once, or the database would sort what lies in order. */
export function keyRunRelation(runId: number): string {
  return `alter table ${runRelation(runId)} add primary key (record); analyze ${runRelation(runId)} (record)`
}
