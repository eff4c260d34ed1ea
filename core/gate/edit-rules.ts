/** The changes that can be made to a gate of rules. Each gives a new gate. */
import type { Entry, Rule, RulesGate } from './document'
import { withLabelsUsed } from './edit-labels'

/** A gate that nobody has written anything in yet: no record gets a label from it. */
export function newRulesGate(name: string): RulesGate {
  return {
    schema: 1,
    form: 'rules',
    name,
    inputs: [],
    hitPolicy: 'first',
    rules: [],
    otherwise: null,
    outcomes: [{ name: 'Label', type: 'text', labels: [] }],
  }
}

/** @param at its place; later rules come after it */
export function addRule(gate: RulesGate, at: number, condition: string): RulesGate {
  return { ...gate, rules: gate.rules.toSpliced(at, 0, { condition, entries: gate.outcomes.map(() => null), note: '' }) }
}

export function copyRule(gate: RulesGate, at: number): RulesGate {
  return { ...gate, rules: gate.rules.toSpliced(at + 1, 0, gate.rules[at]!) }
}

/** A label that only this rule gave goes with it. */
export function removeRule(gate: RulesGate, at: number): RulesGate {
  return withLabelsUsed({ ...gate, rules: gate.rules.toSpliced(at, 1) }, gate)
}

export function moveRule(gate: RulesGate, from: number, to: number): RulesGate {
  const place = Math.min(Math.max(0, to), gate.rules.length - 1)
  return { ...gate, rules: gate.rules.toSpliced(from, 1).toSpliced(place, 0, gate.rules[from]!) }
}

export function editRule(gate: RulesGate, at: number, change: Partial<Rule>): RulesGate {
  const changed = { ...gate.rules[at]!, ...change }
  return { ...gate, rules: gate.rules.with(at, changed) }
}

/** A rule that is switched off stays where it is and takes nothing. */
export function switchRule(gate: RulesGate, at: number): RulesGate {
  const { isOff, ...rule } = gate.rules[at]!
  return { ...gate, rules: gate.rules.with(at, isOff ? rule : { ...rule, isOff: true }) }
}

/** @param order the rules' places, as they are to follow one another */
export function reorderRules(gate: RulesGate, order: readonly number[]): RulesGate {
  return { ...gate, rules: order.map((at) => gate.rules[at]!) }
}

/**
 * What a rule gives one outcome. A label that nothing else gave is renamed rather than replaced: it keeps its look and its place.
 * @param at the rule's place, or null for otherwise
 */
export function giveEntry(gate: RulesGate, at: number | null, outcome: number, entry: Entry): RulesGate {
  const before = entriesAt(gate, at)
  const entries = before.with(outcome, entry)
  const changed = at === null ? { ...gate, otherwise: entries } : { ...gate, rules: gate.rules.with(at, { ...gate.rules[at]!, entries }) }
  return outcome === 0 ? withLabelsUsed(changed, gate) : changed
}

function entriesAt({ rules, otherwise, outcomes }: RulesGate, at: number | null): Entry[] {
  return at === null ? (otherwise ?? outcomes.map(() => null)) : rules[at]!.entries
}

/** Without otherwise, a record that no rule takes is unplaced. */
export function dropOtherwise(gate: RulesGate): RulesGate {
  return withLabelsUsed({ ...gate, otherwise: null }, gate)
}
