/** A name that becomes another, wherever an expression uses it. */
import { parseExpression } from './parse'
import { printExpression } from './print'
import { substitute } from './substitute'
import { freeNames, type Node } from './tree'

/**
 * @param names what the expression may refer to, under the names from before
 * @returns the expression with the new names; as it was where it uses none of them, or cannot be read
 */
export function renamedIn(feel: string, names: readonly string[], renamed: ReadonlyMap<string, string>): string {
  const parsed = parseExpression(feel, names)
  if ('problem' in parsed || !freeNames(parsed.tree).some((name) => renamed.has(name))) return feel
  const put = new Map([...renamed].map(([before, name]): [string, Node] => [before, { kind: 'name', span: { from: 0, to: 0 }, name }]))
  return printExpression(substitute(parsed.tree, put))
}
