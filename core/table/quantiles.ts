/** Values of a column at given shares of the way from its least to its greatest. */
import type { DecimalText } from '../value/number'
import { decimalAt, type NumberColumn } from './number-column'
import { sortedPlaces } from './sorted-places'

/** For each share (0 to 1) a value that the column holds, or null where it holds none. */
export function quantiles(column: NumberColumn, shares: readonly number[]): (DecimalText | null)[] {
  const places = sortedPlaces(column)
  return shares.map((share) => (places.length === 0 ? null : decimalAt(column, places[Math.round(share * (places.length - 1))]!)))
}
