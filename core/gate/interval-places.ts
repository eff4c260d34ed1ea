/** Which records of a column lie in an interval, and which lie exactly on a value. */
import { type Bitmap, emptyBitmap, fullBitmap, setBit } from '../table/bitmap'
import { decimalAt, type NumberColumn } from '../table/number-column'
import { compareDecimals, type DecimalText, isExactAsDouble } from '../value/number'
import type { Bound, Interval } from './interval'

/** The places whose values lie in `interval`; blanks lie only in the one open on both sides. */
export function intervalPlaces(column: NumberColumn, { low, high }: Interval): Bitmap {
  if (!low && !high) return fullBitmap(column.length)
  const { doubles, valid, length } = column
  const places = emptyBitmap(length)
  const from = low ? Number(low.at) : -Infinity
  const to = high ? Number(high.at) : Infinity
  const passesAtLow = low ? tieBreaker(column, low, (order) => order > 0) : () => true
  const passesAtHigh = high ? tieBreaker(column, high, (order) => order < 0) : () => true
  for (let word = 0; word < places.words.length; word++) {
    const first = word * 32
    const last = Math.min(length, first + 32)
    let bits = 0
    for (let at = first; at < last; at++) {
      const value = doubles[at]!
      // Rounding to doubles keeps order, so only values that fall on a bound's own double need care.
      if (value < from || value > to) continue
      if (value === from && !passesAtLow(at)) continue
      if (value === to && !passesAtHigh(at)) continue
      bits |= 1 << (at - first)
    }
    places.words[word] = bits & valid.words[word]!
  }
  return places
}

/** The places whose values are exactly `value`. */
export function equalPlaces(column: NumberColumn, value: DecimalText): Bitmap {
  const places = emptyBitmap(column.length)
  const double = Number(value)
  const isEqual = tieBreaker(column, { at: value, included: true }, () => false)
  for (let at = 0; at < column.length; at++) {
    if (column.doubles[at] === double && isEqual(at)) setBit(places, at)
  }
  for (let word = 0; word < places.words.length; word++) places.words[word]! &= column.valid.words[word]!
  return places
}

/** Decides for values that share the bound's double, which may still be other decimals than the bound. */
function tieBreaker(column: NumberColumn, bound: Bound, passes: (order: number) => boolean): (at: number) => boolean {
  const boundIsExact = isExactAsDouble(bound.at)
  return (at) => {
    if (boundIsExact && !column.exact.has(at)) return bound.included
    const value = decimalAt(column, at)
    if (value === null) return false
    const order = compareDecimals(value, bound.at)
    return order === 0 ? bound.included : passes(order)
  }
}
