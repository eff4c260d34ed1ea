/** How far the review is. */
import { type ExceptionCount, type ExceptionState, WAITING } from '@dime-gate/contract/review'

export interface Tally {
  all: number
  waiting: number
  /** Runs that have any that wait. */
  runs: number
  byState: Record<ExceptionState, number>
}

export function tallyOf(counts: readonly ExceptionCount[]): Tally {
  const byState: Tally['byState'] = { open: 0, lapsed: 0, settled: 0, overridden: 0, corrected: 0 }
  for (const { state, records } of counts) byState[state] += records
  const isWaiting = ({ state }: ExceptionCount) => (WAITING as readonly ExceptionState[]).includes(state)
  const waiting = counts.filter(isWaiting)
  return {
    byState, all: counts.reduce((sum, { records }) => sum + records, 0), waiting: waiting.reduce((sum, { records }) => sum + records, 0),
    runs: new Set(waiting.map(({ runId }) => runId)).size,
  }
}
