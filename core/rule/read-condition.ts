/** A condition's text as somebody writes it, read against the inputs of a gate: its tree, or what is wrong with it. */
import { checkCondition, checkExpression } from '../expression/check'
import { parseExpression } from '../expression/parse'
import type { Problem } from '../expression/problem'
import type { Node } from '../expression/tree'
import type { Type } from '../expression/type'
import type { Gate, Input } from '../gate/document'
import { VALUE_KINDS, type ValueKind } from '../value/value'
import { ALWAYS, type Condition, conditionOf } from './condition'

export type InputTypes = ReadonlyMap<string, Type>

export function inputTypes(inputs: readonly Pick<Input, 'name' | 'type' | 'isSet'>[]): InputTypes {
  return new Map(inputs.map(({ name, type, isSet }): [string, Type] => [name, isSet ? { list: type } : type]))
}

/** What conditions of a gate can refer to: its inputs, and the named conditions that it carries. */
export function typesIn({ inputs, conditions = [] }: Pick<Gate, 'inputs' | 'conditions'>): InputTypes {
  return new Map([...conditions.map(({ name }): [string, Type] => [name, 'boolean']), ...inputTypes(inputs)])
}

/** @param text where it is empty or `-`, it takes every record */
export function readCondition(text: string, types: InputTypes): { condition: Condition } | { problem: Problem } {
  if (text.trim() === '' || text.trim() === '-') return { condition: ALWAYS }
  const parsed = parseExpression(text, types.keys())
  if ('problem' in parsed) return parsed
  const [problem] = checkCondition(parsed.tree, types).problems
  return problem ? { problem } : { condition: conditionOf(parsed.tree) }
}

/** The kind of value that an expression comes to; null where it is none that a test can compare. */
export function kindOfSubject(types: InputTypes): (subject: Node) => ValueKind | null {
  return (subject) => {
    const { type, problems } = checkExpression(subject, types)
    return problems.length === 0 && isKind(type) ? type : null
  }
}

function isKind(type: Type): type is ValueKind {
  return (VALUE_KINDS as readonly Type[]).includes(type)
}
