/** Expectations in words: what is expected, and what came. */
import type { Check, Expectation } from '@dime-gate/contract/expectation'
import type { Column } from '@dime-gate/contract/table'
import { boundKind, type Bounds, type Expected } from '@dime-gate/core/expectation/expectation'
import { cellWords } from '../table/cell-words'
import { count, counted, number, share } from '../shared/format'

const LOOKED_AT_WORDS = { exceptions: 'exceptions', unreadable: 'unreadable', outside: 'not expected', 'on an edge': 'on a cut', 'near an edge': 'beside a cut' } as const

export function expectedWords(of: Expected): string {
  if (of.kind === 'label') return of.label === '' ? 'no value' : of.label
  return of.kind === 'status' ? of.status : LOOKED_AT_WORDS[of.of]
}

export function boundWords(bounds: Bounds): string {
  const { as, low, high } = bounds
  const unit = as === 'share' ? '\u00a0%' : ''
  const kind = boundKind(bounds)
  if (kind === 'between') return `from ${number(low!)} to ${number(high!)}${unit}`
  if (as === 'count' && high === '0') return 'none'
  return `${kind} ${number((low ?? high)!)}${unit}`
}

/** @param columns of the table; those that are gone have no name any more */
export function expectationWords(expectation: Expectation, columns: readonly Column[]): string {
  const columnOf = (id: number) => columns.find((column) => column.id === id)
  const valueIn = (id: number, value: string | null) => {
    const column = columnOf(id)
    return column ? cellWords([value, null], column) : (value ?? 'blank')
  }
  if (expectation.kind === 'record') {
    const who = expectation.who.map(({ column, value }) => `${columnOf(column)?.name ?? 'a column that is gone'} ${valueIn(column, value)}`).join(', ')
    return `${who} is ${expectation.label ?? 'without a label'}`
  }
  const { of, bounds, within } = expectation
  const where = within ? `, in ${columnOf(within.column)?.name ?? 'a column that is gone'} ${valueIn(within.column, within.value)}` : ''
  return `${expectedWords(of)} ${boundWords(bounds)}${where}`
}

/** What it came to, and by how much it is missed. */
export function cameTo({ expectation, got, of, off, label, problem }: Omit<Check, 'id' | 'tableId'>): string {
  if (problem !== null) return problem
  if (expectation.kind === 'record') {
    if (off === 0) return 'it is'
    return of === 0 ? 'not in the table' : (label ?? 'no label')
  }
  const came = expectation.bounds.as === 'share' ? share(got, of) : count(got)
  if (off === 0) return came
  const records = expectation.bounds.as === 'share' ? counted(Math.abs(off), 'record') : count(Math.abs(off))
  return `${came}, ${records} too ${off > 0 ? 'many' : 'few'}`
}

/** Whether it is neither met nor missed, but cannot be looked at. */
export function isMissed({ off, problem }: Pick<Check, 'off' | 'problem'>): boolean {
  return off !== 0 && problem === null
}
