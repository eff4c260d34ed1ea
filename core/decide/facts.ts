/** What a gate sees of one record: its inputs' values, rounded as the gate says, and its figures. */
import { evaluate, type Note } from '../expression/evaluate'
import { freeNames } from '../expression/tree'
import { roundTo } from '../value/round'
import { Decimal, type Rounding } from '../value/number'
import { type DateValue, isList, isNumber, type Value } from '../value/value'
import type { Precision } from '../gate/document'
import type { Lowered } from '../rule/rules'

/** The record's values by input, as measured: null for a blank or unreadable one, a list for a column set. */
export type Given = (input: string) => Value

export interface Facts {
  value(input: string): Value
  today: DateValue
  /** What came to nothing while figures were computed, by input. */
  notes: ReadonlyMap<string, Note[]>
}

export function factsOf({ inputs }: Pick<Lowered, 'inputs'>, given: Given, today: DateValue): Facts {
  const known = new Map<string, Value>()
  const notes = new Map<string, Note[]>()
  const value = (name: string): Value => {
    const input = inputs.get(name)
    if (!input) return null
    if (!known.has(name)) {
      const note = (found: Note) => void notes.set(name, [...(notes.get(name) ?? []), found])
      const raw = input.figure ? evaluate(input.figure, { value, today, note }) : given(name)
      known.set(name, rounded(input.isSet && isList(raw) ? raw.filter((item) => item !== null) : raw, input.precision))
    }
    return known.get(name)!
  }
  return { value, today, notes }
}

/** The mode of each precision in decimal.js's words. */
const ROUNDINGS: Record<Exclude<Precision['kind'], 'as measured'>, Rounding> = {
  'half up': Decimal.ROUND_HALF_UP,
  'half even': Decimal.ROUND_HALF_EVEN,
  truncated: Decimal.ROUND_DOWN,
}

export function rounded(value: Value, precision: Precision): Value {
  if (precision.kind === 'as measured') return value
  if (isList(value)) return value.map((item) => rounded(item, precision))
  return isNumber(value) ? roundTo(value, precision.places, ROUNDINGS[precision.kind]) : value
}

/** The given inputs without a value among those that `names` come from: what would settle an unknown. */
export function missingInputs({ inputs }: Pick<Lowered, 'inputs'>, facts: Facts, names: readonly string[]): string[] {
  const missing = new Set<string>()
  const visit = (name: string) => {
    const input = inputs.get(name)
    if (!input || facts.value(name) !== null) return
    const before = missing.size
    if (input.figure) freeNames(input.figure).forEach(visit)
    // A figure whose parts all have values came to nothing by itself, as by a division by zero.
    if (missing.size === before) missing.add(name)
  }
  names.forEach(visit)
  return [...missing]
}
