/**
 * Days counted as in SQL and formulas, where a date less a date is a number of days and a date and a number another
 * date, in FEEL's durations.
 */
import { checkExpression } from '@dime-gate/core/expression/check'
import type { Node, NodeOf } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'

export function withDays(tree: Node, types: ReadonlyMap<string, Type>): Node {
  const inside = (node: Node) => withDays(node, types)
  switch (tree.kind) {
    case 'arithmetic':
      return daysOf({ ...tree, left: inside(tree.left), right: inside(tree.right) }, types)
    case 'comparison':
      return { ...tree, left: inside(tree.left), right: inside(tree.right) }
    case 'and': case 'or':
      return { ...tree, of: tree.of.map(inside) }
    case 'if':
      return { ...tree, condition: inside(tree.condition), then: inside(tree.then), otherwise: inside(tree.otherwise) }
    case 'call':
      return { ...tree, args: tree.args.map(inside) }
    case 'negate':
      return { ...tree, of: inside(tree.of) }
    default:
      return tree
  }
}

function daysOf(node: NodeOf<'arithmetic'>, types: ReadonlyMap<string, Type>): Node {
  const { operator, left, right, span } = node
  const typeOf = (side: Node) => checkExpression(side, types).type
  if ((operator !== '-' && operator !== '+') || typeOf(left) !== 'date') return node
  if (right.kind === 'number' && /^-?\d{1,7}$/.test(right.number)) {
    const duration = right.number.startsWith('-') ? `-P${right.number.slice(1)}D` : `P${right.number}D`
    return { ...node, right: { kind: 'temporal', text: duration, span: right.span } }
  }
  return operator === '-' && typeOf(right) === 'date' ? { kind: 'path', of: node, name: 'days', span } : node
}
