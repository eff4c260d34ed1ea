/** Names replaced by what they stand for. */
import type { Node, Variable } from './tree'

/** `node` with every free name in `put` replaced; names that the expression itself gives stay. */
export function substitute(node: Node, put: ReadonlyMap<string, Node>): Node {
  if (put.size === 0) return node
  const inside = (child: Node) => substitute(child, put)
  const each = (nodes: readonly Node[]) => nodes.map(inside)
  switch (node.kind) {
    case 'number': case 'text': case 'boolean': case 'null': case 'temporal':
      return node
    case 'name':
      return put.get(node.name) ?? node
    case 'path': case 'negate': case 'instance of':
      return { ...node, of: inside(node.of) }
    case 'list':
      return { ...node, items: each(node.items) }
    case 'range':
      return { ...node, low: node.low && inside(node.low), high: node.high && inside(node.high) }
    case 'arithmetic': case 'comparison':
      return { ...node, left: inside(node.left), right: inside(node.right) }
    case 'between':
      return { ...node, of: inside(node.of), low: inside(node.low), high: inside(node.high) }
    case 'in':
      return { ...node, of: inside(node.of), tests: node.tests.map((test) => substitute(test, without(put, ['?']))) }
    case 'and': case 'or':
      return { ...node, of: each(node.of) }
    case 'if':
      return { ...node, condition: inside(node.condition), then: inside(node.then), otherwise: inside(node.otherwise) }
    case 'quantified': {
      const { variables, left } = bound(node.variables, put)
      return { ...node, variables, satisfies: substitute(node.satisfies, left) }
    }
    case 'for': {
      const { variables, left } = bound(node.variables, put)
      return { ...node, variables, result: substitute(node.result, left) }
    }
    case 'filter':
      return { ...node, of: inside(node.of), by: substitute(node.by, without(put, ['item'])) }
    case 'call':
      return { ...node, args: each(node.args) }
    case 'function':
      return { ...node, body: substitute(node.body, without(put, node.parameters)) }
  }
}

function bound(variables: readonly Variable[], put: ReadonlyMap<string, Node>) {
  let left = put
  const changed = variables.map(({ name, over }) => {
    const variable = { name, over: substitute(over, left) }
    left = without(left, [name])
    return variable
  })
  return { variables: changed, left }
}

function without(put: ReadonlyMap<string, Node>, names: readonly string[]): ReadonlyMap<string, Node> {
  return new Map([...put].filter(([name]) => !names.includes(name)))
}
