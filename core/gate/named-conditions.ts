/** Named conditions of a gate: written once, used by their names. */
import { parseExpression } from '../expression/parse'
import { printExpression } from '../expression/print'
import { renamedIn } from '../expression/rename'
import { substitute } from '../expression/substitute'
import { freeNames, type Node } from '../expression/tree'
import type { Gate, Input, RulesGate, SharedCondition } from './document'

export function conditionsOf(gate: Pick<Gate, 'conditions'>): readonly SharedCondition[] {
  return gate.conditions ?? []
}

/** Everything that a condition of the gate can refer to. */
export function namesIn({ inputs, conditions = [] }: Pick<Gate, 'inputs' | 'conditions'>): string[] {
  return [...inputs, ...conditions].map(({ name }) => name)
}

export interface UsesOfCondition {
  /** Places of rules. */
  rules: number[]
  /** Names of other named conditions. */
  conditions: string[]
}

/** Where a named condition is used by its name. */
export function usesOf(gate: Gate, name: string): UsesOfCondition {
  const names = namesIn(gate)
  const uses = (text: string) => namesUsed(text, names).includes(name)
  return {
    rules: gate.form === 'rules' ? gate.rules.flatMap(({ condition }, at) => (uses(condition) ? [at] : [])) : [],
    conditions: conditionsOf(gate).flatMap((one) => (uses(one.feel) ? [one.name] : [])),
  }
}

/** @returns nothing of a text that cannot be read */
export function namesUsed(text: string, names: readonly string[]): string[] {
  const parsed = parseExpression(text, names)
  return 'tree' in parsed ? freeNames(parsed.tree) : []
}

/** The inputs that a condition of the gate looks at, by itself and through named ones, in the order of its text. */
export function inputsNamed(gate: Gate, text: string): string[] {
  const names = namesIn(gate)
  const found = new Set<string>()
  const seen = new Set<string>()
  const look = (of: string): void => {
    for (const name of namesUsed(of, names)) {
      const condition = conditionsOf(gate).find((one) => one.name === name)
      if (!condition || gate.inputs.some((input) => input.name === name)) found.add(name)
      else if (!seen.has(name)) {
        seen.add(name)
        look(condition.feel)
      }
    }
  }
  look(text)
  return [...found]
}

export function addCondition<Of extends Gate>(gate: Of, condition: SharedCondition): Of {
  return { ...gate, conditions: [...conditionsOf(gate), condition] }
}

export function editCondition<Of extends Gate>(gate: Of, id: string, feel: string): Of {
  return { ...gate, conditions: conditionsOf(gate).map((one) => (one.id === id ? { ...one, feel } : one)) }
}

/** Another name, also wherever the condition is used. */
export function renameCondition<Of extends Gate>(gate: Of, id: string, name: string): Of {
  const before = conditionsOf(gate).find((one) => one.id === id)
  if (!before || before.name === name) return gate
  const names = namesIn(gate)
  const text = (of: string) => renamedIn(of, names, new Map([[before.name, name]]))
  const conditions = conditionsOf(gate).map((one) => ({ ...one, feel: text(one.feel), name: one.id === id ? name : one.name }))
  return withTexts({ ...gate, conditions }, text)
}

/** Without the condition: what it says stands wherever it was used by its name. */
export function inlineCondition<Of extends Gate>(gate: Of, id: string): Of {
  const gone = conditionsOf(gate).find((one) => one.id === id)
  if (!gone) return gate
  const names = namesIn(gate)
  const parsed = parseExpression(gone.feel.trim() === '' ? 'false' : gone.feel, names)
  if ('problem' in parsed) return gate
  const put = new Map<string, Node>([[gone.name, parsed.tree]])
  const text = (of: string) => {
    const own = parseExpression(of, names)
    return 'tree' in own && freeNames(own.tree).includes(gone.name) ? printExpression(substitute(own.tree, put)) : of
  }
  const { conditions: _, ...rest } = gate
  const left = conditionsOf(gate)
    .filter((one) => one.id !== id)
    .map((one) => ({ ...one, feel: text(one.feel) }))
  return withTexts((left.length === 0 ? rest : { ...rest, conditions: left }) as Of, text)
}

function withTexts<Of extends Gate>(gate: Of, text: (of: string) => string): Of {
  return gate.form === 'rules' ? { ...gate, rules: gate.rules.map((rule) => ({ ...rule, condition: text(rule.condition) })) } : gate
}

/** A condition that a gate takes over from another one, with the conditions and the inputs that it needs there, each after those that it needs. */
export interface Parcel {
  conditions: SharedCondition[]
  inputs: Input[]
}

export function parcelOf(gate: Gate, id: string): Parcel {
  const names = namesIn(gate)
  const conditions: SharedCondition[] = []
  const inputs: Input[] = []
  const need = (name: string): void => {
    const condition = conditionsOf(gate).find((one) => one.name === name)
    const input = gate.inputs.find((one) => one.name === name)
    if (input && !inputs.includes(input)) {
      if (input.source.kind === 'figure') namesUsed(input.source.feel, names).forEach(need)
      inputs.push(input)
    } else if (!input && condition && !seen.has(condition)) {
      seen.add(condition)
      namesUsed(condition.feel, names).forEach(need)
      conditions.push(condition)
    }
  }
  const seen = new Set<SharedCondition>()
  const first = conditionsOf(gate).find((one) => one.id === id)
  if (first) need(first.name)
  return { conditions, inputs }
}

/**
 * The gate with what a parcel holds, as far as it does not have it: conditions that it carries already say what they say in
 * the parcel, under the name that they have there.
 * @returns the name of an input that is another one here, where the parcel does not go with the gate
 */
export function withParcel<Of extends Gate>(gate: Of, { conditions, inputs }: Parcel): { gate: Of; added: Input[] } | { quarrel: string } {
  const quarrel = inputs.find(({ name, type, isSet }) => gate.inputs.some((own) => own.name === name && (own.type !== type || own.isSet !== isSet)))
  const taken = conditions.find(({ id, name }) => gate.inputs.some((own) => own.name === name) || conditionsOf(gate).some((own) => own.name === name && own.id !== id))
  if (quarrel ?? taken) return { quarrel: (quarrel ?? taken)!.name }
  const added = inputs.filter(({ name }) => !gate.inputs.some((own) => own.name === name))
  let next: Of = { ...gate, inputs: [...gate.inputs, ...added] }
  for (const condition of conditions) {
    const before = conditionsOf(next).find(({ id }) => id === condition.id)
    next = before ? editCondition(renameCondition(next, condition.id, condition.name), condition.id, condition.feel) : addCondition(next, condition)
  }
  return { gate: next, added }
}

/** One name that neither an input nor a condition of the gate has, nor any of `others`. */
export function freeConditionName(gate: Pick<RulesGate, 'inputs' | 'conditions'>, others: readonly string[], wanted = 'Condition'): string {
  const taken = new Set([...namesIn(gate), ...others])
  for (let number = 1; ; number++) if (!taken.has(`${wanted} ${number}`)) return `${wanted} ${number}`
}
