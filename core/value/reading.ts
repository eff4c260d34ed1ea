/** What comes of reading a cell's text: a value, or the reason there is none. */

export type UnreadableReason =
  | 'not-a-number'
  | 'too-many-digits'
  | 'out-of-range'
  | 'not-a-date'
  | 'no-such-day'
  | 'short-year'
  | 'not-a-boolean'

export type Reading<Value> =
  | { state: 'readable'; value: Value }
  | { state: 'blank' }
  | { state: 'unreadable'; reason: UnreadableReason }

export const BLANK = Object.freeze({ state: 'blank' } as const)

export function readable<Value>(value: Value): Reading<Value> {
  return { state: 'readable', value }
}

export function unreadable(reason: UnreadableReason): Reading<never> {
  return { state: 'unreadable', reason }
}
