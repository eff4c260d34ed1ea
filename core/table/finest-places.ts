/** How finely a column was measured. */
import { decimalPlaces } from '../value/number'
import { hasBit } from './bitmap'
import { decimalAt, type NumberColumn } from './number-column'

/** Enough values to know; looking at all of a million would cost more than it tells. */
const PROBED = 2000

/** The most decimal places among (up to 2,000 evenly chosen) values; 0 where there is none. */
export function finestPlaces(column: NumberColumn): number {
  const step = Math.max(1, Math.floor(column.length / PROBED))
  let finest = 0
  for (let at = 0; at < column.length; at += step) {
    if (hasBit(column.valid, at)) finest = Math.max(finest, decimalPlaces(decimalAt(column, at)!))
  }
  return finest
}
