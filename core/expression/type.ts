/** The types of expressions (DMN 1.5 clause 10.3.2.9): told before anything runs. */
import type { ValueKind } from '../value/value'

/** `any` where the type cannot be told in advance; it goes with everything. */
export type Type = 'any' | 'null' | 'function' | ValueKind | { list: Type } | { range: Type }

/** FEEL's names of types where they are not ours. */
const FEEL_NAMES: Record<string, Type> = {
  number: 'number', string: 'text', boolean: 'boolean', date: 'date', time: 'time', 'date and time': 'date and time',
  'days and time duration': 'days and time duration', 'years and months duration': 'years and months duration',
  Any: 'any', Null: 'null', list: { list: 'any' }, range: { range: 'any' }, function: 'function',
}
export const FEEL_TYPE_NAMES = Object.keys(FEEL_NAMES)

/** @param name as in `number`, `list<number>`, `range<date>`, `function<number, number> -> boolean` */
export function typeNamed(name: string): Type | null {
  const whole = FEEL_NAMES[name]
  if (whole) return whole
  const of = /^(list|range)<(.+)>$/.exec(name)
  if (of) {
    const item = typeNamed(of[2]!)
    return item && (of[1] === 'list' ? { list: item } : { range: item })
  }
  return name.startsWith('function<') ? 'function' : null
}

/** Whether a value of type `given` can stand where `wanted` is asked. Null, which any value may be, always can. */
export function fits(given: Type, wanted: Type): boolean {
  if (given === 'any' || wanted === 'any' || given === 'null') return true
  if (typeof given === 'string' || typeof wanted === 'string') return given === wanted
  if ('list' in given) return 'list' in wanted && fits(given.list, wanted.list)
  return 'range' in wanted && fits(given.range, wanted.range)
}

/** Whether values of two types can be the same value. An empty list can be a list of anything. */
export function canBeEqual(a: Type, b: Type): boolean {
  return fits(a, b) || fits(b, a)
}

/** A type that holds both. */
export function commonType(a: Type, b: Type): Type {
  if (a === 'null') return b
  if (b === 'null' || isSameType(a, b)) return a
  return isList(a) && isList(b) ? { list: commonType(a.list, b.list) } : 'any'
}

export function isSameType(a: Type, b: Type): boolean {
  if (typeof a === 'string' || typeof b === 'string') return a === b
  if ('list' in a) return 'list' in b && isSameType(a.list, b.list)
  return 'range' in b && isSameType(a.range, b.range)
}

export function isList(type: Type): type is { list: Type } {
  return typeof type === 'object' && 'list' in type
}

export function isRange(type: Type): type is { range: Type } {
  return typeof type === 'object' && 'range' in type
}

/** Kinds that have an order, so that `<` says something. */
export function isOrdered(type: Type): boolean {
  return typeof type === 'string' && type !== 'boolean' && type !== 'function'
}

/** For people: `number`, `list of text`. */
export function typeText(type: Type): string {
  if (typeof type === 'string') return type
  return 'list' in type ? `list of ${typeText(type.list)}` : `range of ${typeText(type.range)}`
}
