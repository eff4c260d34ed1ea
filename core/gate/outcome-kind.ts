/** What kind of value a gate gives in an outcome, whatever the kind of a single rule's. */
import type { ValueKind } from '../value/value'
import type { Gate, HitPolicy, OutcomeColumn } from './document'

/** Policies that give a record all that its rules give, as a list. */
const GATHERING: readonly HitPolicy[] = ['rule order', 'output order', 'collect']

/** Lists are told as their text. */
export function outcomeKind({ type }: OutcomeColumn, gate: Gate): ValueKind {
  if (gate.form !== 'rules') return type
  if (GATHERING.includes(gate.hitPolicy)) return 'text'
  return gate.hitPolicy === 'collect count' ? 'number' : type
}
