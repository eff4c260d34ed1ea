/** Where records of a run landed, as the database tells it. */
import type { KeptLanding } from '@dime-gate/contract/comparison'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { outcomeField } from '../run/run-relation'

const LABELLED = ['labelled', 'otherwise'] as const
const codes = LABELLED.map((status) => STATUSES.indexOf(status)).join(', ')

/** As SQL: `=` and the label, or the name of the status; null where there is no such record. @param run the relation's name in the question */
export function landedIn(run: string): string {
  const words = STATUSES.map((status, code) => `when ${code} then '${status}'`).join(' ')
  return `case when ${run}.status in (${codes}) then '=' || coalesce(${run}.${outcomeField(0)}::text, '') else case ${run}.status ${words} end end`
}

export function landedText(landing: KeptLanding): string {
  return landing.kind === 'label' ? `=${landing.label}` : landing.kind
}

/** @param text as the database tells it */
export function landingOf(text: string): KeptLanding {
  return text.startsWith('=') ? { kind: 'label', label: text.slice(1) } : { kind: text as 'held' }
}
