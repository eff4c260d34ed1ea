/** Whether a value is of a type. */
import { isList, kindOf, type RangeValue, type Value } from '../value/value'
import type { Type } from './type'

/** DMN 1.5 clause 10.3.2.9.2: null is of no type but its own; a list is of a type where all its items are. */
export function isInstance(value: Value, type: Type | null): boolean {
  const kind = kindOf(value)
  if (type === 'any') return kind !== 'null'
  if (type === null || typeof type === 'string') return kind === type
  if ('list' in type) return isList(value) && (type.list === 'any' || value.every((item) => isInstance(item, type.list)))
  const range = value as RangeValue
  return kind === 'range' && (type.range === 'any' || [range.low, range.high].every((end) => end === null || isInstance(end, type.range)))
}
