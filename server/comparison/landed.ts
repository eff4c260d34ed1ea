/** Where records of a run landed, as the database tells it. */
import type { KeptLanding } from '@dime-gate/contract/comparison'
import type { Result } from '@dime-gate/core/result/result'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { valueTextAt } from '@dime-gate/core/table/table'
import { outcomeField } from '../run/run-relation'

const LABELLED = ['labelled', 'otherwise'] as const
const codes = LABELLED.map((status) => STATUSES.indexOf(status)).join(', ')

/** As SQL: `=` and the label, or the name of the status; null where there is no such record. @param run the relation's name in the question */
export function landedIn(run: string): string {
  const words = STATUSES.map((status, code) => `when ${code} then '${status}'`).join(' ')
  return `case when ${run}.status in (${codes}) then '=' || coalesce(${run}.${outcomeField(0)}::text, '') else case ${run}.status ${words} end end`
}

/** The same of a result that is in hand, by place. */
export function landingsOf(result: Result): string[] {
  const [label] = result.outcomes().values()
  return Array.from({ length: result.on.table.length }, (_, at) => {
    const { status } = result.decisions.at(at)
    return (LABELLED as readonly string[]).includes(status) ? `=${valueTextAt(label!, at) ?? ''}` : status
  })
}

export function landedText(landing: KeptLanding): string {
  return landing.kind === 'label' ? `=${landing.label}` : landing.kind
}

/** @param text as the database tells it */
export function landingOf(text: string): KeptLanding {
  return text.startsWith('=') ? { kind: 'label', label: text.slice(1) } : { kind: text as 'held' }
}
