/** Most columns hold numbers of few decimal places that lie close together: such numbers are counted, and need not be compared. */
import { hasBit } from './bitmap'
import type { NumberColumn } from './number-column'

export interface Steps {
  /** By record how many steps its value is above the least; meaningless where it has none. */
  above: Uint32Array
  /** One more than the greatest has. */
  count: number
}

/** How many steps one unit has. */
const PER_UNIT = [1, 10, 100, 1000]
/** Beyond, they are too far apart. */
const MOST = 1 << 20
/** Values that are looked at before all are. */
const PROBED = 1000

/** @returns null where the values are no whole steps, or too far apart */
export function stepsOf(column: NumberColumn): Steps | null {
  const perUnit = column.exact.size > 0 ? undefined : PER_UNIT.find((each) => areWhole(column, each, Math.min(column.length, PROBED)))
  if (perUnit === undefined || !areWhole(column, perUnit, column.length)) return null
  const { doubles, valid, length } = column
  let [least, greatest] = [Infinity, -Infinity]
  for (let at = 0; at < length; at++) {
    if (!hasBit(valid, at)) continue
    const double = doubles[at]!
    if (double < least) least = double
    if (double > greatest) greatest = double
  }
  if (least > greatest) return { above: new Uint32Array(length), count: 0 }
  const first = Math.round(least * perUnit)
  const count = Math.round(greatest * perUnit) - first + 1
  if (!(count <= MOST)) return null
  const above = new Uint32Array(length)
  for (let at = 0; at < length; at++) above[at] = Math.round(doubles[at]! * perUnit) - first
  return { above, count }
}

/** Whether the first `length` values are the doubles nearest to whole steps: then no two of them are the same step. */
function areWhole({ doubles, valid }: NumberColumn, perUnit: number, length: number): boolean {
  for (let at = 0; at < length; at++) {
    const double = doubles[at]!
    if (Math.round(double * perUnit) / perUnit !== double && hasBit(valid, at)) return false
  }
  return true
}
