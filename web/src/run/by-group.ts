/** A run by group: what each group is called, how it is told to the records, and in which order groups stand. */
import type { Filter } from '@dime-gate/contract/change'
import type { KeyPart } from '@dime-gate/contract/drawn'
import type { RunGroup } from '@dime-gate/contract/run-groups'
import type { Column } from '@dime-gate/contract/table'
import { AFTER_RULES, type AfterRules } from '@dime-gate/core/bulk/decisions'
import { COMPUTED, type LabelLook, type Tray } from '@dime-gate/core/result/tray'
import { isOnLine } from '@dime-gate/core/value/read-cell'
import { cellWords } from '../table/cell-words'

/** A part of every group: those of a label, or what else became of records. */
export interface GroupPart {
  key: string
  name: string
  colour: string
  /** Null for what is no label. */
  mark: LabelLook['mark'] | null
  recordsOf: (group: RunGroup) => number
}

/** By a part: by its share in the groups. */
export interface GroupSort {
  by: 'value' | 'records' | 'share'
  direction: 'rising' | 'falling'
}

/** In label order, and what else became of records behind them, as far as there are any. */
export function groupParts(groups: readonly RunGroup[], labels: readonly LabelLook[], otherwise: LabelLook | null): GroupPart[] {
  const ofLabels = labels.map(({ label, colour, mark }, at): GroupPart => ({ key: `label ${label}`, name: label === '' ? 'no value' : label, colour, mark, recordsOf: (group) => group.labels[at]! }))
  // A label that only otherwise gives has its records there.
  const isGiven = ({ label }: LabelLook, at: number) => label !== otherwise?.label || groups.some((group) => group.labels[at]! > 0)
  const look = (kind: AfterRules) => (kind === 'otherwise' && otherwise ? { name: `otherwise: ${otherwise.label}`, colour: otherwise.colour, mark: otherwise.mark } : { name: kind, colour: 'var(--none)', mark: null })
  const others = AFTER_RULES.map((kind): GroupPart => ({ key: kind, ...look(kind), recordsOf: (group) => group[kind] }))
  return [...ofLabels.filter((_, at) => isGiven(labels[at]!, at)), ...others.filter(({ recordsOf }) => groups.some((group) => recordsOf(group) > 0))]
}

/** The records of a part by its key, in all groups. */
export function trayOfPart(key: string): Tray {
  const after = AFTER_RULES.find((kind) => kind === key)
  if (after) return { kind: after }
  const label = key.slice('label '.length)
  return { kind: 'label', label: label === COMPUTED ? null : label }
}

const months = new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' })

export function groupName({ value, isUnreadable }: Pick<RunGroup, 'value' | 'isUnreadable'>, column: Column, part: KeyPart): string {
  if (value === null) return isUnreadable ? 'unreadable' : 'blank'
  if (part === 'year') return value
  return part === 'month' ? months.format(new Date(`${value}-01T00:00:00Z`)) : cellWords([value, null], column)
}

/** What the records of a group are listed by. */
export function groupFilter({ value, isUnreadable }: Pick<RunGroup, 'value' | 'isUnreadable'>, { id: column, type }: Column, part: KeyPart): Filter {
  if (value === null) return { kind: isUnreadable ? 'unreadable' : 'blank', column }
  if (part === 'year') return { kind: 'range', column, low: `${value}-01-01`, high: `${value}-12-31` }
  if (part === 'month') return { kind: 'range', column, low: `${value}-01`, high: lastDayOf(value) }
  // A number may be written in several ways.
  return isOnLine(type) ? { kind: 'range', column, low: value, high: value } : { kind: 'values', column, values: [value] }
}

/** @param month `2026-02` */
function lastDayOf(month: string): string {
  const [year, of] = month.split('-').map(Number) as [number, number]
  return new Date(Date.UTC(year, of, 0)).toISOString().slice(0, 10)
}

/** @param groups in the order of their values. Equals keep that order. */
export function sortedGroups(groups: readonly RunGroup[], { by, direction }: GroupSort, of: GroupPart | undefined): RunGroup[] {
  const sign = direction === 'rising' ? 1 : -1
  if (by === 'value') return direction === 'rising' ? [...groups] : groups.toReversed()
  const weight = (group: RunGroup) => (by === 'records' || !of ? group.records : of.recordsOf(group) / group.records)
  return groups.toSorted((one, other) => sign * (weight(one) - weight(other)))
}

/** The next state of a heading that is clicked: figures are looked at from the highest on. */
export function nextSort(now: GroupSort, by: GroupSort['by']): GroupSort {
  if (now.by === by) return { by, direction: now.direction === 'rising' ? 'falling' : 'rising' }
  return { by, direction: by === 'value' ? 'rising' : 'falling' }
}

/** A column to begin with: the first of few values that tells more than one apart, and is not who the record is. */
export function firstGrouping(columns: readonly Column[], distinctOf: (id: number) => number | null): number | null {
  const few = columns.find(({ id, type, isIdentity }) => {
    const distinct = distinctOf(id)
    return !isIdentity && (type === 'text' || type === 'boolean') && distinct !== null && distinct > 1 && distinct <= 40
  })
  return few?.id ?? null
}
