/** Whether a draft comes to what is expected, as far as its counts alone tell. */
import type { Check, KeptExpectation } from '@dime-gate/contract/expectation'
import { offBy, type Expected } from '@dime-gate/core/expectation/expectation'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'

/** @property byLabel by label, how many records get it, from rules or from otherwise @property further null until things come to rest */
export interface Came {
  counts: Counts
  further: FurtherCounts | null
  byLabel: ReadonlyMap<string, number>
}

/** Null where the counts do not tell: of one record, of some records alone, and while further counts are not there. */
export function liveCheck({ expectation, ...kept }: KeptExpectation, came: Came): Check | null {
  if (expectation.kind === 'record' || expectation.within) return null
  const got = cameOf(expectation.of, came)
  if (got === null) return null
  const of = came.counts.records
  return { ...kept, expectation, got, of, off: offBy(expectation.bounds, got, of), label: null, problem: null }
}

function cameOf(of: Expected, { counts, further, byLabel }: Came): number | null {
  if (of.kind === 'label') return byLabel.get(of.label) ?? 0
  if (of.kind === 'status') return counts[of.status]
  if (!further) return null
  const { exceptions, unreadable, outside, onEdge, nearEdge } = further
  return { exceptions, unreadable, outside, 'on an edge': onEdge, 'near an edge': nearEdge }[of.of]
}
