/** How much there is of a value, in steps of an evaluation. */
import { isList, type Value } from '../value/value'
import { isOpen, type Possible } from './open'

export const LETTERS_A_STEP = 32

const sizes = new WeakMap<readonly Value[], number>()

/** How much there is of a value, in steps: what going through all of it costs. A list within lists counts each time. */
export function sizeOf(value: Possible): number {
  if (typeof value === 'string') return value.length / LETTERS_A_STEP
  if (isOpen(value) || !isList(value)) return 0
  if (!value.some((item) => typeof item === 'string' || isList(item))) return value.length
  const known = sizes.get(value)
  if (known !== undefined) return known
  const size = value.reduce<number>((total, item) => total + 1 + sizeOf(item), 0)
  sizes.set(value, size)
  return size
}
