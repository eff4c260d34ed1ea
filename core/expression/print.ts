/** A tree as FEEL text: reading it again gives the same tree. Brackets stand only where they are needed. */
import { quoted } from './tokens'
import { childrenOf, type Node, type NodeKind, TESTED } from './tree'

/** How closely a node holds together; a child that holds less closely than its place asks goes in brackets. */
const CLOSENESS: Partial<Record<NodeKind, number>> = {
  if: 0, for: 0, function: 0, quantified: 0, or: 1, and: 2, comparison: 3, between: 3, in: 3, negate: 7, 'instance of': 8,
}
const OPERATOR_CLOSENESS = { '+': 4, '-': 4, '*': 5, '/': 5, '**': 6 }
const CLOSEST = 10

export function printExpression(node: Node): string {
  return print(node, 0)
}

/** A tree of `parseUnaryTests` as unary tests. */
export function printUnaryTests(node: Node): string {
  if (node.kind === 'boolean' && node.value) return '-'
  if (node.kind === 'in' && isTested(node.of)) return node.tests.map(printTest).join(', ')
  if (node.kind === 'call' && node.name === 'not' && node.args[0]?.kind === 'in' && isTested(node.args[0].of)) {
    return `not(${node.args[0].tests.map(printTest).join(', ')})`
  }
  return print(node, 0)
}

function isTested(node: Node): boolean {
  return node.kind === 'name' && node.name === TESTED
}

function print(node: Node, place: number): string {
  const text = body(node)
  return closenessOf(node) < place ? `(${text})` : text
}

function closenessOf(node: Node): number {
  if (node.kind === 'arithmetic') return OPERATOR_CLOSENESS[node.operator]
  if (node.kind === 'number' && node.number.startsWith('-')) return CLOSENESS.negate!
  return CLOSENESS[node.kind] ?? CLOSEST
}

function body(node: Node): string {
  switch (node.kind) {
    case 'number':
      return node.number
    case 'text':
      return quoted(node.text)
    case 'boolean':
      return String(node.value)
    case 'null':
      return 'null'
    case 'temporal':
      return `@${quoted(node.text)}`
    case 'name':
      return node.name
    case 'path':
      return `${print(node.of, CLOSEST)}.${node.name}`
    case 'list':
      return `[${node.items.map((item) => print(item, 0)).join(', ')}]`
    case 'range':
      return node.low && node.high ? closedRange(node) : `(${printTest(node)})`
    case 'negate':
      return `-${print(node.of, node.of.kind === 'number' || node.of.kind === 'negate' ? CLOSEST : CLOSENESS.negate!)}`
    case 'arithmetic': {
      const closeness = OPERATOR_CLOSENESS[node.operator]
      return `${print(node.left, closeness)} ${node.operator} ${print(node.right, closeness + 1)}`
    }
    case 'comparison':
      return `${print(node.left, 3)} ${node.operator} ${print(node.right, 4)}`
    case 'between':
      return `${print(node.of, 3)} between ${print(node.low, 4)} and ${print(node.high, 4)}`
    case 'in':
      return `${print(node.of, 3)} in ${printTests(node.tests)}`
    case 'and':
      return node.of.map((part) => print(part, 3)).join(' and ')
    case 'or':
      return node.of.map((part) => print(part, 2)).join(' or ')
    case 'if':
      return `if ${print(node.condition, 0)} then ${print(node.then, 0)} else ${print(node.otherwise, 0)}`
    case 'quantified':
      return `${node.quantifier} ${variables(node)} satisfies ${print(node.satisfies, 0)}`
    case 'for':
      return `for ${variables(node)} return ${print(node.result, 0)}`
    case 'filter':
      return `${print(node.of, CLOSEST)}[${print(node.by, 0)}]`
    case 'call':
      return `${node.name}(${node.args.map((arg, at) => (node.names ? `${node.names[at]}: ` : '') + print(arg, 0)).join(', ')})`
    case 'function':
      return `function(${node.parameters.join(', ')}) ${print(node.body, 0)}`
    case 'instance of':
      return `${print(node.of, 9)} instance of ${node.type}`
  }
}

function variables({ variables }: Extract<Node, { kind: 'quantified' | 'for' }>): string {
  return variables.map(({ name, over }) => `${name} in ${print(over, 1)}`).join(', ')
}

type Range = Extract<Node, { kind: 'range' }>

function closedRange({ low, high, lowIncluded, highIncluded }: Range): string {
  // A filter at its end would take the closing bracket of `[1..5[` for its own.
  const last = childrenOf(high!).length === 0 || high!.kind === 'call' ? body(high!) : `(${body(high!)})`
  return `${lowIncluded ? '[' : '('}${print(low!, 0)}..${last}${highIncluded ? ']' : ')'}`
}

function printTests(tests: readonly Node[]): string {
  const [only] = tests
  const text = tests.map(printTest).join(', ')
  return tests.length === 1 && only!.kind === 'range' && only!.low && only!.high ? text : `(${text})`
}

/** One test as it stands after `in` or in a cell: an open range without its brackets. */
function printTest(node: Node): string {
  if (node.kind === 'range') {
    if (node.low && node.high) return closedRange(node)
    return node.low ? `${node.lowIncluded ? '>=' : '>'} ${print(node.low, 4)}` : `${node.highIncluded ? '<=' : '<'} ${print(node.high!, 4)}`
  }
  if (node.kind === 'comparison' && isTested(node.left) && (node.operator === '=' || node.operator === '!=')) {
    return `${node.operator} ${print(node.right, 4)}`
  }
  return print(node, 0)
}
