/** What a built-in function is: its name, its parameters as data, and what it does. */
import type { Outcome } from '../../value/arithmetic'
import type { DateValue, Value, ValueKind } from '../../value/value'
import { VALUE_KINDS } from '../../value/value'
import type { Type } from '../type'

export interface Parameter {
  name: string
  type: Type
  isOptional: boolean
  /** Null may be given, and stands for what is missing. */
  isNullable: boolean
  /** `rest`: it may be repeated. `gathered`: one list, or its items one by one. */
  many: 'no' | 'rest' | 'gathered'
}

/** What the function gives: a type, `item` for what the first list holds, `same` for what the first argument is. */
export type Returns = Type | 'item' | 'same'

export interface Variant {
  parameters: readonly Parameter[]
  returns: Returns
  /** Null stands where an optional argument is missing, or null where it may be. Only arguments of type `any` can be null otherwise. */
  run(args: readonly Value[], context: CallContext): Outcome | Value
}

export interface CallContext {
  /** The date that counts as today. */
  today: DateValue
}

export interface BuiltIn {
  name: string
  variants: readonly Variant[]
}

/**
 * @param signatures for each way of calling it: parameters (`name: type`, `name?` optional, `name...` repeated,
 *   `name*` a list or its items; `type or null`), what it returns, and what it does
 */
export function define(name: string, ...signatures: [parameters: string, returns: Returns, run: Variant['run']][]): BuiltIn {
  return { name, variants: signatures.map(([parameters, returns, run]) => ({ parameters: parameters === '' ? [] : parameters.split(', ').map(parameter), returns, run })) }
}

const OR_NULL = ' or null'

function parameter(text: string): Parameter {
  const [, name, suffix, type] = /^(.*?)(\?|\.\.\.|\*)?: (.*)$/.exec(text)!
  const isNullable = type!.endsWith(OR_NULL)
  return { name: name!, type: typeOf(isNullable ? type!.slice(0, -OR_NULL.length) : type!), isOptional: suffix === '?', isNullable, many: suffix === '...' ? 'rest' : suffix === '*' ? 'gathered' : 'no' }
}

function typeOf(text: string): Type {
  if (text.startsWith('list of ')) return { list: typeOf(text.slice(8)) }
  if (text === 'list') return { list: 'any' }
  if (text === 'range') return { range: 'any' }
  if (text === 'function' || text === 'any' || (VALUE_KINDS as readonly string[]).includes(text)) return text as ValueKind | 'any'
  throw new Error(`no such type: ${text}`)
}
