/** What a gate sees of one record: its inputs' values, rounded as the gate says, and its figures. */
import { evaluateOpen, type Note } from '../expression/evaluate'
import { isOpen, Open, OPEN, type Possible } from '../expression/open'
import { freeNames } from '../expression/tree'
import { roundTo } from '../value/round'
import { Decimal, type Rounding } from '../value/number'
import { type DateValue, isList, isNumber, type Value } from '../value/value'
import type { Input, Precision } from '../gate/document'
import type { Lowered } from '../rule/rules'

/** The record's values by input, as measured: null for a blank or unreadable one, a list for a column set. */
export type Given = (input: string) => Value

export interface Facts {
  /** Null for what is blank, and for a figure that a blank leaves open. */
  value(input: string): Value
  /** The same, but open where a blank holds: a value would settle it. */
  possible(input: string): Possible
  today: DateValue
  /** What came to nothing while figures were computed, by input. */
  notes: ReadonlyMap<string, Note[]>
}

export function factsOf({ inputs }: Pick<Lowered, 'inputs'>, given: Given, today: DateValue): Facts {
  const known = new Map<string, Possible>()
  const notes = new Map<string, Note[]>()
  const possible = (name: string): Possible => {
    const input = inputs.get(name)
    if (!input) return null
    if (!known.has(name)) {
      const note = (found: Note) => void notes.set(name, [...(notes.get(name) ?? []), found])
      const measured = input.figure ? figureValue(input.figure, holds(input), note) : given(name)
      const raw = input.isSet && isList(measured as Value) ? (measured as readonly Value[]).filter((item) => item !== null) : measured
      known.set(name, raw === null && holds(input) ? OPEN : rounded(raw, input.precision))
    }
    return known.get(name)!
  }
  const value = (name: string): Value => {
    const found = possible(name)
    return isOpen(found) ? null : found
  }
  // Where a figure's blanks pass, it is what the standard makes of the values that are there.
  const figureValue = (figure: NonNullable<ReturnType<typeof inputs.get>>['figure'] & object, isHeld: boolean, note: (found: Note) => void): Possible =>
    evaluateOpen(figure, { value: isHeld ? possible : value, today, note, shortfallIsOpen: isHeld })
  return { value, possible, today, notes }
}

/** Whether a blank in the input holds the record, as it does where nobody said that it passes. */
export function holds({ blank }: Pick<Input, 'blank'>): boolean {
  return blank !== 'pass'
}

/** The mode of each precision in decimal.js's words. */
const ROUNDINGS: Record<Exclude<Precision['kind'], 'as measured'>, Rounding> = {
  'half up': Decimal.ROUND_HALF_UP,
  'half even': Decimal.ROUND_HALF_EVEN,
  truncated: Decimal.ROUND_DOWN,
}

/** Rounding keeps order, so the bounds of what is open are rounded too. */
export function rounded(value: Value, precision: Precision): Value
export function rounded(value: Possible, precision: Precision): Possible
export function rounded(value: Possible, precision: Precision): Possible {
  if (precision.kind === 'as measured') return value
  const number = (one: Decimal) => roundTo(one, precision.places, ROUNDINGS[precision.kind])
  if (isOpen(value)) return new Open(value.can, value.low && number(value.low), value.high && number(value.high))
  if (isList(value)) return value.map((item) => rounded(item, precision))
  return isNumber(value as Value) ? number(value as Decimal) : value
}

/** What would settle an unknown: the given inputs without a value among those that `names` come from, or else what came to nothing by itself. */
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
