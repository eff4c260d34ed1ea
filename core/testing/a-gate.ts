/** Small gates for tests. */
import type { Input, RulesGate } from '../gate/document'
import type { Band } from '../gate/scale-gate'
import type { Value, ValueKind } from '../value/value'
import { valueFromText } from '../value/value-text'
import { parseDate } from '../value/temporal'

export const TODAY = parseDate('2026-03-02')!

export function anInput(name: string, type: ValueKind, change: Partial<Input> = {}): Input {
  return { name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold', ...change }
}

/** A band of a scale that looks like any other. */
export function band(label: string): Band {
  return { label, colour: '#7fa99a', mark: 'disc' }
}

/** Rules of one label each, First, without otherwise unless said so. */
export function rulesGate(inputs: Input[], pairs: [condition: string, label: string][], change: Partial<RulesGate> = {}): RulesGate {
  return {
    schema: 1, form: 'rules', name: 'Gate', inputs, hitPolicy: 'first', otherwise: null, outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    rules: pairs.map(([condition, label]) => ({ condition, entries: [{ is: label }], note: '' })), ...change,
  }
}

/** Values in canonical text, by input. */
export function givenBy(inputs: readonly Input[], texts: Record<string, string | null>): (name: string) => Value {
  return (name) => {
    const text = texts[name] ?? null
    return text === null ? null : valueFromText(text, inputs.find((input) => input.name === name)!.type)
  }
}
