/** What an expression can come to: the values of FEEL (DMN 1.5 clause 10.3.2.2) that the product knows. */
import { Decimal } from './number'

export interface DateValue {
  readonly kind: 'date'
  /** Days since 1970-01-01. */
  readonly day: number
}

export interface TimeValue {
  readonly kind: 'time'
  /** Nanoseconds since midnight. */
  readonly nanos: number
  /** Seconds east of UTC; null for a time of no zone. */
  readonly offset: number | null
}

export interface DateTimeValue {
  readonly kind: 'date and time'
  readonly day: number
  readonly nanos: number
  readonly offset: number | null
}

export interface DayTimeDuration {
  readonly kind: 'days and time duration'
  readonly seconds: Decimal
}

export interface YearMonthDuration {
  readonly kind: 'years and months duration'
  readonly months: number
}

export interface RangeValue {
  readonly kind: 'range'
  /** Null where the range has no end on that side. */
  readonly low: Value
  readonly high: Value
  readonly lowIncluded: boolean
  readonly highIncluded: boolean
}

/** Only ever an argument, as in `sort(list, function(a, b) a < b)`. */
export interface FunctionValue {
  readonly kind: 'function'
  readonly arity: number
  apply(args: readonly Value[]): Value
}

export type Temporal = DateValue | TimeValue | DateTimeValue
export type Duration = DayTimeDuration | YearMonthDuration
/** Null is FEEL's null: blank, or not to be known. */
export type Value = null | boolean | string | Decimal | Temporal | Duration | RangeValue | FunctionValue | readonly Value[]

export const VALUE_KINDS = [
  'number', 'text', 'boolean', 'date', 'time', 'date and time', 'days and time duration', 'years and months duration',
] as const
/** The kinds that an input or an outcome can have. */
export type ValueKind = (typeof VALUE_KINDS)[number]

export function kindOf(value: Value): ValueKind | 'null' | 'list' | 'range' | 'function' {
  if (value === null) return 'null'
  if (typeof value === 'boolean') return 'boolean'
  if (typeof value === 'string') return 'text'
  if (isNumber(value)) return 'number'
  return isList(value) ? 'list' : value.kind
}

export function isNumber(value: Value): value is Decimal {
  return value instanceof Decimal
}

export function isList(value: Value): value is readonly Value[] {
  return Array.isArray(value)
}
