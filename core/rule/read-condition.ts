/** A condition from its text, over the inputs of a gate. */
import { checkCondition } from '../expression/check'
import { parseExpression } from '../expression/parse'
import type { Problem } from '../expression/problem'
import type { Type } from '../expression/type'
import { type Condition, conditionOf } from './condition'
import type { Input } from '../gate/document'

export function readCondition(text: string, inputs: Iterable<Input>): { condition: Condition } | { problems: Problem[] } {
  const types = new Map([...inputs].map(({ name, type, isSet }): [string, Type] => [name, isSet ? { list: type } : type]))
  const parsed = parseExpression(text, types.keys())
  if ('problem' in parsed) return { problems: [parsed.problem] }
  const { problems } = checkCondition(parsed.tree, types)
  return problems.length > 0 ? { problems } : { condition: conditionOf(parsed.tree) }
}
