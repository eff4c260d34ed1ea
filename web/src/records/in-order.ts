/** Records in the order in which they are listed. */
import { hasBit } from '@dime-gate/core/table/bitmap'
import type { NumberColumn } from '@dime-gate/core/table/number-column'

export type Order = 'table' | 'rising' | 'falling'

/**
 * By the values of a column; records without one come last either way, those of one value as they stand in the table.
 * @param all places, ascending; they are put in order where they are
 */
export function inOrder(all: Uint32Array, order: Order, column: NumberColumn): Uint32Array {
  if (order === 'table') return all
  const sign = order === 'rising' ? 1 : -1
  const key = (at: number) => (hasBit(column.valid, at) ? sign * column.doubles[at]! : Infinity)
  return all.sort((a, b) => {
    const [first, second] = [key(a), key(b)]
    return first === second ? a - b : first < second ? -1 : 1
  })
}
