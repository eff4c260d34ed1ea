/** Expectations that a run in hand suggests: that the next ones come out as it did, more or less. */
import type { Expectation } from '@dime-gate/contract/expectation'
import type { Run } from '@dime-gate/contract/run'
import type { AllCounts } from '@dime-gate/core/result/counts'
import type { Bounds, Expected } from '@dime-gate/core/expectation/expectation'

/** By how much of itself a share may be otherwise. */
const MORE_OR_LESS = 0.1

/** Every label's share, and that there is nothing where there was nothing. */
export function proposedExpectations({ labels, counts }: Pick<Run, 'labels'> & { counts: AllCounts }): Expectation[] {
  const expect = (of: Expected, bounds: Bounds): Expectation => ({ kind: 'count', of, bounds, within: null })
  const none: Bounds = { as: 'count', low: null, high: '0' }
  const { records, unplaced, contested, held, unreadable, outside } = counts
  const nothing: [Expected, number][] = [
    [{ kind: 'status', status: 'unplaced' }, unplaced], [{ kind: 'status', status: 'contested' }, contested], [{ kind: 'status', status: 'held' }, held],
    [{ kind: 'to look at', of: 'unreadable' }, unreadable], [{ kind: 'to look at', of: 'outside' }, outside],
  ]
  return [
    ...labels.filter((one) => one.records > 0).map(({ label, records: own }) => expect({ kind: 'label', label }, around((100 * own) / records))),
    ...nothing.filter(([, own]) => own === 0).map(([of]) => expect(of, none)),
    ...(held > 0 ? [expect({ kind: 'status', status: 'held' }, { as: 'count', low: null, high: String(held) })] : []),
  ]
}

/** A share with room on both sides, to as many places as it has weight; it always holds what it was made of. */
function around(percent: number): Bounds {
  const places = percent < 1 ? 2 : percent < 10 ? 1 : 0
  const unit = 10 ** places
  // Binary noise is no reason for another step.
  const scaled = (by: number) => Number((percent * by * unit).toFixed(6))
  const [low, high] = [Math.floor(scaled(1 - MORE_OR_LESS)) / unit, Math.ceil(scaled(1 + MORE_OR_LESS)) / unit]
  return { as: 'share', low: low === 0 ? null : String(low), high: high >= 100 ? null : String(high) }
}
