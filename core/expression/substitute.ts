/** Names replaced by what they stand for. */
import { type Node, PARTIAL, type Variable } from './tree'

/** `node` with every free name in `put` replaced; names that the expression itself gives stay. */
export function substitute(node: Node, put: ReadonlyMap<string, Node>): Node {
  if (put.size === 0) return node
  switch (node.kind) {
    case 'number': case 'text': case 'boolean': case 'null': case 'temporal':
      return node
    case 'name':
      return put.get(node.name) ?? node
    case 'path': case 'negate': case 'instance of':
      return { ...node, of: substitute(node.of, put) }
    case 'list':
      return { ...node, items: all(node.items, put) }
    case 'range':
      return { ...node, low: node.low && substitute(node.low, put), high: node.high && substitute(node.high, put) }
    case 'arithmetic': case 'comparison':
      return { ...node, left: substitute(node.left, put), right: substitute(node.right, put) }
    case 'between':
      return { ...node, of: substitute(node.of, put), low: substitute(node.low, put), high: substitute(node.high, put) }
    case 'in':
      return { ...node, of: substitute(node.of, put), tests: node.tests.map((test) => substitute(test, without(put, ['?']))) }
    case 'and': case 'or':
      return { ...node, of: all(node.of, put) }
    case 'if':
      return { ...node, condition: substitute(node.condition, put), then: substitute(node.then, put), otherwise: substitute(node.otherwise, put) }
    case 'quantified': {
      const { variables, left } = bound(node.variables, put)
      return { ...node, variables, satisfies: substitute(node.satisfies, left) }
    }
    case 'for': {
      const { variables, left } = bound(node.variables, put)
      return { ...node, variables, result: substitute(node.result, without(left, [PARTIAL])) }
    }
    case 'filter':
      return { ...node, of: substitute(node.of, put), by: substitute(node.by, without(put, ['item'])) }
    case 'call':
      return { ...node, args: all(node.args, put) }
    case 'function':
      return { ...node, body: substitute(node.body, without(put, node.parameters)) }
  }
}

function all(nodes: readonly Node[], put: ReadonlyMap<string, Node>): Node[] {
  return nodes.map((node) => substitute(node, put))
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
