/** What a run must come to: a count or a share, stated before anybody looks. */
import type { AfterRules } from '../bulk/decisions'
import { Decimal, type DecimalText } from '../value/number'

/** Kinds of records that someone should look at. */
export const LOOKED_AT = ['exceptions', 'unreadable', 'outside', 'on an edge', 'near an edge'] as const
export type LookedAt = (typeof LOOKED_AT)[number]

/** Which records are counted. A label's are all that have it, whichever rule gave it, or otherwise. */
export type Expected = { kind: 'label'; label: string } | { kind: 'status'; status: AfterRules } | { kind: 'to look at'; of: LookedAt }

/** From `low` to `high`, both included, of records or in percent of all; null where that end is open. */
export interface Bounds {
  as: 'count' | 'share'
  low: DecimalText | null
  high: DecimalText | null
}

/**
 * How many records have to go, so that so many of all are as expected; how many are missing, where that is below nought; 0 where it is met.
 * A share that no whole number of records comes to is never met: then it says how far the nearest is away.
 */
export function offBy({ as, low, high }: Bounds, got: number, all: number): number {
  const records = (end: DecimalText) => (as === 'count' ? new Decimal(end) : new Decimal(end).times(all).dividedBy(100))
  const [least, most] = [low === null ? null : records(low).ceil().toNumber(), high === null ? null : records(high).floor().toNumber()]
  if (least !== null && got < least) return got - least
  return most !== null && got > most ? got - most : 0
}

/** By which ends bounds are told. */
export type BoundKind = 'exactly' | 'at least' | 'at most' | 'between'

export function boundKind({ low, high }: Bounds): BoundKind {
  if (low === null) return 'at most'
  if (high === null) return 'at least'
  return new Decimal(low).equals(new Decimal(high)) ? 'exactly' : 'between'
}
