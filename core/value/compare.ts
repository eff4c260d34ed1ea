/** Equality and order of values (DMN 1.5 clause 10.3.2.13, tables 53 and 54): null where two values cannot be compared. */
import { NANOS_A_DAY } from './temporal'
import type { Decimal } from './number'
import { type DateTimeValue, isList, kindOf, type RangeValue, type TimeValue, type Value } from './value'

/**
 * @returns whether both are the same value; null where they are of different kinds.
 *   Null equals null alone, and that is known.
 */
export function areEqual(a: Value, b: Value): boolean | null {
  if (a === null || b === null) return a === b
  if (isList(a) && isList(b)) return areListsEqual(a, b)
  const kind = kindOf(a)
  if (kind !== kindOf(b) || kind === 'function') return null
  if (kind === 'range') return areRangesEqual(a as RangeValue, b as RangeValue)
  if (kind === 'boolean') return a === b
  const order = compareValues(a, b)
  return order === null ? null : order === 0
}

/** Below 0, 0 or above 0; null where the two have no order (different kinds, a zone on one side only). */
export function compareValues(a: Value, b: Value): number | null {
  if (a === null || b === null) return null
  const kind = kindOf(a)
  if (kind !== kindOf(b)) return null
  switch (kind) {
    case 'number':
      return (a as Decimal).cmp(b as Decimal)
    case 'text':
      return a === b ? 0 : isBefore(a as string, b as string) ? -1 : 1
    case 'date':
      return (a as DateTimeValue).day - (b as DateTimeValue).day
    case 'time':
      return compareMoments({ day: 0, ...(a as TimeValue) }, { day: 0, ...(b as TimeValue) })
    case 'date and time':
      return compareMoments(a as DateTimeValue, b as DateTimeValue)
    case 'days and time duration':
      return (a as { seconds: Decimal }).seconds.cmp((b as { seconds: Decimal }).seconds)
    case 'years and months duration':
      return (a as { months: number }).months - (b as { months: number }).months
    default:
      return null
  }
}

/** Whether `value` lies in `range`; null where that cannot be said. */
export function isInRange(value: Value, { low, high, lowIncluded, highIncluded }: RangeValue): boolean | null {
  const above = low === null ? true : holds(compareValues(value, low), (order) => order > 0 || (lowIncluded && order === 0))
  const below = high === null ? true : holds(compareValues(value, high), (order) => order < 0 || (highIncluded && order === 0))
  if (above === false || below === false) return false
  return above === null || below === null ? null : true
}

function holds(order: number | null, test: (order: number) => boolean): boolean | null {
  return order === null ? null : test(order)
}

/** By code points, which UTF-16's own order is not. */
function isBefore(a: string, b: string): boolean {
  const [left, right] = [[...a], [...b]]
  for (let at = 0; at < Math.min(left.length, right.length); at++) {
    if (left[at] !== right[at]) return left[at]!.codePointAt(0)! < right[at]!.codePointAt(0)!
  }
  return left.length < right.length
}

type Moment = Pick<DateTimeValue, 'day' | 'nanos' | 'offset'>

function compareMoments(a: Moment, b: Moment): number | null {
  if ((a.offset === null) !== (b.offset === null)) return null
  const [nanosA, nanosB] = [a.nanos - (a.offset ?? 0) * 1e9, b.nanos - (b.offset ?? 0) * 1e9]
  const days = a.day + Math.floor(nanosA / NANOS_A_DAY) - b.day - Math.floor(nanosB / NANOS_A_DAY)
  return days || modulo(nanosA, NANOS_A_DAY) - modulo(nanosB, NANOS_A_DAY)
}

function modulo(a: number, b: number): number {
  return ((a % b) + b) % b
}

function areListsEqual(a: readonly Value[], b: readonly Value[]): boolean | null {
  if (a.length !== b.length) return false
  let result: boolean | null = true
  for (const [at, item] of a.entries()) {
    const equal = areEqual(item, b[at]!)
    if (equal === false) return false
    if (equal === null) result = null
  }
  return result
}

function areRangesEqual(a: RangeValue, b: RangeValue): boolean | null {
  if (a.lowIncluded !== b.lowIncluded || a.highIncluded !== b.highIncluded) return false
  return areListsEqual([a.low, a.high], [b.low, b.high])
}
