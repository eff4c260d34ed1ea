import { printExpression } from '../expression/print'
import type { Input } from '../gate/document'
import { literalNode, nameNode } from './literal'

const NOWHERE = { from: 0, to: 0 }

/** FEEL text of the condition that an input has one of these values, each in canonical text of the input's kind. */
export function valuesTest({ name, type }: Pick<Input, 'name' | 'type'>, values: readonly string[]): string {
  const literals = values.flatMap((value) => literalNode(value, type) ?? [])
  const [only] = literals
  if (!only) return 'false'
  if (literals.length === 1) return printExpression({ kind: 'comparison', operator: '=', left: nameNode(name), right: only, span: NOWHERE })
  return printExpression({ kind: 'in', of: nameNode(name), tests: literals, span: NOWHERE })
}
