/** The tree of an expression: plain data, one shape a kind of node (DMN 1.5 clause 10.3.1.2, grammar). */
import type { ArithmeticOperator } from '../value/arithmetic'
import type { DecimalText } from '../value/number'

/** Where in the text a node stands: from `from` up to, not including, `to`, in UTF-16 units. */
export interface Span {
  from: number
  to: number
}

/** Only the place of what may say more, such as a token. */
export function spanOf({ from, to }: Span): Span {
  return { from, to }
}

export const COMPARISONS = ['=', '!=', '<', '<=', '>', '>='] as const
export type ComparisonOperator = (typeof COMPARISONS)[number]

/** What a comparison becomes when its sides are exchanged. */
export const MIRRORED = { '=': '=', '!=': '!=', '<': '>', '<=': '>=', '>': '<', '>=': '<=' } as const satisfies Record<ComparisonOperator, ComparisonOperator>

interface Shapes {
  number: { number: DecimalText }
  text: { text: string }
  boolean: { value: boolean }
  null: object
  /** `@"2026-03-02"`: a date, time or duration. */
  temporal: { text: string }
  name: { name: string }
  path: { of: Node; name: string }
  list: { items: Node[] }
  /** A null end is open: `(< 5)` is a range without a low end. */
  range: { low: Node | null; high: Node | null; lowIncluded: boolean; highIncluded: boolean }
  negate: { of: Node }
  arithmetic: { operator: ArithmeticOperator; left: Node; right: Node }
  comparison: { operator: ComparisonOperator; left: Node; right: Node }
  between: { of: Node; low: Node; high: Node }
  /** True where any test is: a range holds the value, a list has it, another value equals it. */
  in: { of: Node; tests: Node[] }
  and: { of: Node[] }
  or: { of: Node[] }
  if: { condition: Node; then: Node; otherwise: Node }
  quantified: { quantifier: 'some' | 'every'; variables: Variable[]; satisfies: Node }
  for: { variables: Variable[]; result: Node }
  filter: { of: Node; by: Node }
  call: { name: string; args: Node[]; names: string[] | null }
  function: { parameters: string[]; body: Node }
  'instance of': { of: Node; type: string }
}

/** A name that takes each item of a list, or each whole number of a range, in turn. */
export interface Variable {
  name: string
  over: Node
}

export type NodeKind = keyof Shapes
export type NodeOf<Kind extends NodeKind> = { kind: Kind; span: Span } & Shapes[Kind]
export type Node = { [Kind in NodeKind]: NodeOf<Kind> }[NodeKind]

/** The nodes directly under `node`, in the order of the text. */
export function childrenOf(node: Node): Node[] {
  switch (node.kind) {
    case 'number': case 'text': case 'boolean': case 'null': case 'temporal': case 'name':
      return []
    case 'path': case 'negate': case 'instance of':
      return [node.of]
    case 'list':
      return node.items
    case 'range':
      return [node.low, node.high].filter((end) => end !== null)
    case 'arithmetic': case 'comparison':
      return [node.left, node.right]
    case 'between':
      return [node.of, node.low, node.high]
    case 'in':
      return [node.of, ...node.tests]
    case 'and': case 'or':
      return node.of
    case 'if':
      return [node.condition, node.then, node.otherwise]
    case 'quantified':
      return [...node.variables.map(({ over }) => over), node.satisfies]
    case 'for':
      return [...node.variables.map(({ over }) => over), node.result]
    case 'filter':
      return [node.of, node.by]
    case 'call':
      return node.args
    case 'function':
      return [node.body]
  }
}

/** Stands for the value under test in a unary test (DMN 1.5 clause 7.3.2). */
export const TESTED = '?'
/** Stands for the results so far within `for` (DMN 1.5 table 60). */
export const PARTIAL = 'partial'

/** The names that `node` refers to and does not itself bind, each once, in the order they are met. */
export function freeNames(node: Node): string[] {
  const found = new Set<string>()
  addFreeNames(node, NOTHING_BOUND, found)
  return [...found]
}

const NOTHING_BOUND: ReadonlySet<string> = new Set()

function addFreeNames(at: Node, bound: ReadonlySet<string>, found: Set<string>): void {
  switch (at.kind) {
    case 'name':
      if (!bound.has(at.name)) found.add(at.name)
      return
    case 'quantified': case 'for': {
      let inner = bound
      for (const { name, over } of at.variables) {
        addFreeNames(over, inner, found)
        inner = new Set([...inner, name])
      }
      return at.kind === 'for' ? addFreeNames(at.result, new Set([...inner, PARTIAL]), found) : addFreeNames(at.satisfies, inner, found)
    }
    case 'function':
      return addFreeNames(at.body, new Set([...bound, ...at.parameters]), found)
    case 'filter':
      addFreeNames(at.of, bound, found)
      return addFreeNames(at.by, new Set([...bound, 'item']), found)
    case 'in': {
      addFreeNames(at.of, bound, found)
      const inner = new Set([...bound, TESTED])
      for (const test of at.tests) addFreeNames(test, inner, found)
      return
    }
    default:
      for (const child of childrenOf(at)) addFreeNames(child, bound, found)
  }
}

/** Whether `node` asks something of the value under test itself, as in `? > 5` or `contains(?, "oak")`. */
export function mentionsTested(node: Node): boolean {
  return freeNames(node).includes(TESTED)
}

/** Whether `node` itself, apart from what it is made of, says what a blank means: a comparison with null, a question about kinds. */
export function asksAboutBlanks(node: Node): boolean {
  const isNull = (part: Node): boolean => part.kind === 'null' || (part.kind === 'list' && part.items.some(isNull))
  switch (node.kind) {
    case 'instance of':
      return true
    case 'comparison':
      return isNull(node.left) || isNull(node.right)
    case 'in':
      return node.tests.some(isNull)
    case 'call':
      return node.name === 'is' || node.args.some(isNull)
    default:
      return false
  }
}
