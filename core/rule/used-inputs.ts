/** What a gate looks at, of all that it could. */
import { childrenOf, freeNames, type Node } from '../expression/tree'
import { conditionTree } from './condition'
import type { Lowered } from './rules'

/** The inputs that rules, results, or figures that those need, look at. */
export function usedInputs(gate: Lowered): Set<string> {
  const used = new Set<string>()
  const visit = (name: string): void => {
    if (used.has(name)) return
    used.add(name)
    const figure = gate.inputs.get(name)?.figure
    if (figure) freeNames(figure).forEach(visit)
  }
  for (const tree of treesOf(gate)) freeNames(tree).forEach(visit)
  return used
}

/** Whether what the gate says depends on the day that counts as today. */
export function asksForToday(gate: Lowered): boolean {
  return [...gate.inputs.values()].some(({ figure }) => figure && asksForDay(figure)) || treesOf(gate).some(asksForDay)
}

/** Whether the value of an expression depends on that day. */
export function asksForDay(node: Node): boolean {
  return (node.kind === 'call' && (node.name === 'today' || node.name === 'now')) || childrenOf(node).some(asksForDay)
}

function treesOf({ rules, otherwise }: Lowered): Node[] {
  const entries = [...rules.map((rule) => rule.entries), otherwise ?? []].flat()
  return [...rules.map(({ condition }) => conditionTree(condition)), ...entries.flatMap((entry) => ('tree' in entry ? [entry.tree] : []))]
}
