import { type BoundInputs, standingInputs } from '@dime-gate/contract/binding'
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import type { Table } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { Asked } from '../records/session'

/** What the gate asks of another table, as it is bound there, else by the names of its columns; what is missing there where it cannot be asked. */
export function askedOf(gate: ScaleGate, table: Pick<Table, 'columns' | 'sets'>, bound: BoundInputs | undefined, asOf: string): { asked: Asked } | { missing: string[] } {
  const inputs = { ...boundByNames(gate.inputs, table.columns, table.sets), ...bound }
  const needed = gate.inputs.filter(({ source }) => source.kind === 'given')
  const missing = needed.filter(({ name }) => !inputs[name]).map(({ name }) => name)
  const isFed = gate.inputs.some(({ name, source }) => name === gate.on && source.kind === 'gate')
  return missing.length > 0 || isFed ? { missing: isFed ? [gate.on] : missing } : { asked: { gate, inputs: standingInputs(inputs, table), feeding: [], asOf } }
}
