/** The changes that can be made to a gate's outcomes and inputs, whatever its form. */
import type { ValueKind } from '../value/value'
import type { Gate, Input, OutcomeColumn } from './document'
import { withEntries } from './entries'

/** One more outcome, which nothing gives yet. */
export function addOutcome<Form extends Gate>(gate: Form, name: string, type: ValueKind): Form {
  return { ...withEntries(gate, (entries) => [...entries, null]), outcomes: [...gate.outcomes, { name, type, labels: [] }] }
}

/** The first outcome is the label, and stays. */
export function removeOutcome<Form extends Gate>(gate: Form, at: number): Form {
  return { ...withEntries(gate, (entries) => entries.toSpliced(at, 1)), outcomes: gate.outcomes.toSpliced(at, 1) }
}

/** The kind of value that an outcome holds, and what it is called. */
export function editOutcome<Form extends Gate>(gate: Form, at: number, change: Partial<Pick<OutcomeColumn, 'name' | 'type'>>): Form {
  return { ...gate, outcomes: gate.outcomes.with(at, { ...gate.outcomes[at]!, ...change }) }
}

export function editInput<Form extends Gate>(gate: Form, name: string, change: Partial<Input>): Form {
  return { ...gate, inputs: gate.inputs.map((input) => (input.name === name ? { ...input, ...change } : input)) }
}
