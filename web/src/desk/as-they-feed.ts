/** Gates in the order in which they feed each other. */
import type { GateSummary } from '@dime-gate/contract/gate'

/** Each after those that feed it, and else in the order in which they came. What feeds itself, by way of others, stands where it came. */
export function asTheyFeed<One extends Pick<GateSummary, 'name' | 'fedBy'>>(gates: readonly One[]): One[] {
  const byName = new Map(gates.map((gate) => [gate.name, gate]))
  const placed = new Set<One>()
  const begun = new Set<One>()
  const place = (gate: One) => {
    if (begun.has(gate)) return
    begun.add(gate)
    for (const name of gate.fedBy) if (byName.has(name)) place(byName.get(name)!)
    placed.add(gate)
  }
  gates.forEach(place)
  return [...placed]
}
