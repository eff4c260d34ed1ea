/** Items of lists by their places, and of ranges of whole numbers. */
import { isNumber, type RangeValue, type Value } from '../value/value'
import { isOpen, type Possible } from './open'
import type { Node } from './tree'

/** Of the same number whatever the item is, so that it says which place is meant. */
export function isPosition(by: Node): boolean {
  return by.kind === 'number' || (by.kind === 'negate' && isPosition(by.of))
}

/** The item at a place, counted from 1, or from the end where negative; null where there is none (DMN 1.5 clause 10.3.2.5). */
export function itemAt(items: readonly Value[], position: Possible): Value {
  if (isOpen(position) || !isNumber(position) || !position.isInteger() || position.isZero() || position.abs().gt(items.length)) return null
  return items.at(position.isNeg() ? position.toNumber() : position.toNumber() - 1)!
}

const MOST_ITEMS = 10_000

export function wholeNumbers({ low, high, lowIncluded, highIncluded }: RangeValue): Value[] | null {
  if (!isNumber(low) || !isNumber(high) || !low.isInteger() || !high.isInteger()) return null
  const sign = low.lte(high) ? 1 : -1
  const from = low.plus(lowIncluded ? 0 : sign)
  const count = high.minus(highIncluded ? 0 : sign).minus(from).times(sign).plus(1)
  return count.gt(MOST_ITEMS) ? null : Array.from({ length: Math.max(0, count.toNumber()) }, (_, at) => from.plus(at * sign))
}
