/** Rounding to a place before or after the point. */
import { Decimal, type Rounding } from './number'

/** Rounds to `places` after the point (before it, where negative). */
export function roundTo(number: Decimal, places: number, mode: Rounding): Decimal {
  if (places >= 0) return number.decimalPlaces() <= places ? number : number.toDecimalPlaces(places, mode)
  const unit = new Decimal(10).pow(-places)
  return number.div(unit).toDecimalPlaces(0, mode).times(unit)
}
