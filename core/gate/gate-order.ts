/** Gates that use other gates' outcomes. */
import type { Gate } from './document'
import { dependencyOrder, type Order } from './order'

/** The names of gates, each after those whose outcomes it uses; or the members of a loop. */
export function gateOrder(gates: readonly Gate[]): Order {
  const byName = new Map(gates.map((gate) => [gate.name, gate]))
  return dependencyOrder([...byName.keys()], (name) => gatesUsedBy(byName.get(name)!))
}

export function gatesUsedBy(gate: Gate): string[] {
  return gate.inputs.flatMap(({ source }) => (source.kind === 'gate' ? [source.gate] : []))
}
