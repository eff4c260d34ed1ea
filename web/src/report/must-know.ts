/** What the reader of a report must know before all else: records that have no label, and whatever else keeps the counts from being the whole. */
import type { Check } from '@dime-gate/contract/expectation'
import type { Override } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import { isMissed } from '../expectation/expectation-words'
import { count, counted, share } from '../shared/format'

export function mustKnow({ counts }: { counts: NonNullable<Run['counts']> }, checks: readonly Check[], overrides: readonly Override[], waiting: number | null): string[] {
  const of = (records: number) => `${counted(records, 'record')} of ${count(counts.records)} (${share(records, counts.records)})`
  const missed = checks.filter(isMissed).length
  return [
    ...(counts.held > 0 ? [`${of(counts.held)} held: a missing or unreadable value could change the label, so none was given.`] : []),
    ...(counts.unplaced > 0 ? [`${of(counts.unplaced)} unplaced: nothing that the gate says takes them.`] : []),
    ...(counts.contested > 0 ? [`${of(counts.contested)} contested: rules that give different labels hold.`] : []),
    ...(missed > 0 ? [`${counted(missed, 'expectation')} missed.`] : []),
    ...(overrides.length > 0 ? [`${counted(overrides.length, 'label')} given by hand; the counts are what the gate gave.`] : []),
    ...(waiting ? [`${counted(waiting, 'exception')} not looked at yet.`] : []),
  ]
}
