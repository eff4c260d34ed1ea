import type { Gate } from '@dime-gate/core/gate/document'
import { entriesOf } from '@dime-gate/core/gate/entries'

/** The values that a gate gives one of its outcomes now, each once: they are offered where another is chosen. */
export function valuesGiven(gate: Gate, outcome: number): string[] {
  return [...new Set([...entriesOf(gate), gate.otherwise ?? []].flatMap((entries) => { const entry = entries[outcome]; return entry && 'is' in entry ? [entry.is] : [] }))]
}
