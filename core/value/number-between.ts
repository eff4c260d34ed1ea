import { Decimal } from './number'

/** The number of the fewest digits strictly between two others, near the middle of them. @param low less than `high` */
export function numberBetween(low: Decimal, high: Decimal): Decimal {
  const middle = low.plus(high).div(2)
  for (let places = 0; places < 40; places++) {
    const unit = new Decimal(10).pow(-places)
    const found: Decimal = middle.div(unit).floor().times(unit)
    for (const near of [found, found.plus(unit)]) if (near.gt(low) && near.lt(high)) return near
  }
  return middle
}
