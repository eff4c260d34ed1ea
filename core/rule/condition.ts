/**
 * A condition as a tree of all, any and not over tests. The text and the tree are two views of one thing:
 * `conditionOf` reads the tree off an expression, `conditionTree` gives the expression back.
 */
import { printExpression } from '../expression/print'
import { substitute } from '../expression/substitute'
import { asksAboutBlanks, childrenOf, freeNames, type Node } from '../expression/tree'

export type Condition =
  | { kind: 'all' | 'any'; of: Condition[] }
  | { kind: 'not'; of: Condition }
  | Test

/** What is not taken apart further: a comparison, a membership, a call. */
export interface Test {
  kind: 'test'
  tree: Node
  /** Canonical text: tests of one text are one test. */
  text: string
  /** The inputs that it looks at. */
  inputs: string[]
  /** Whether something in it says itself what a blank means, as `Lean = null` does. */
  asksForBlanks: boolean
}

/** Takes every record, whatever its values: an `all` of nothing. */
export const ALWAYS: Condition = { kind: 'all', of: [] }
export const NEVER: Condition = { kind: 'any', of: [] }

export function conditionOf(tree: Node): Condition {
  if (tree.kind === 'and' || tree.kind === 'or') {
    return { kind: tree.kind === 'and' ? 'all' : 'any', of: tree.of.map(conditionOf) }
  }
  if (tree.kind === 'boolean') return tree.value ? ALWAYS : NEVER
  if (tree.kind === 'call' && tree.name === 'not' && tree.args.length === 1) return { kind: 'not', of: conditionOf(tree.args[0]!) }
  return { kind: 'test', tree, text: printExpression(tree), inputs: freeNames(tree), asksForBlanks: asksForBlanks(tree) }
}

function asksForBlanks(node: Node): boolean {
  return asksAboutBlanks(node) || childrenOf(node).some(asksForBlanks)
}

const NOWHERE = { from: 0, to: 0 }

export function conditionTree(condition: Condition): Node {
  switch (condition.kind) {
    case 'test':
      return condition.tree
    case 'not':
      return { kind: 'call', name: 'not', args: [conditionTree(condition.of)], names: null, span: NOWHERE }
    default: {
      if (condition.of.length === 0) return { kind: 'boolean', value: condition.kind === 'all', span: NOWHERE }
      if (condition.of.length === 1) return conditionTree(condition.of[0]!)
      return { kind: condition.kind === 'all' ? 'and' : 'or', of: condition.of.map(conditionTree), span: NOWHERE }
    }
  }
}

export function conditionText(condition: Condition): string {
  return printExpression(conditionTree(condition))
}

/** The condition with what its named ones stand for. Every part that is none of them stays at its place. */
export function withNamed(condition: Condition, named: ReadonlyMap<string, Condition>): Condition {
  if (condition.kind === 'not') return { kind: 'not', of: withNamed(condition.of, named) }
  if (condition.kind !== 'test') return { ...condition, of: condition.of.map((part) => withNamed(part, named)) }
  const { tree, inputs } = condition
  if (tree.kind === 'name' && named.has(tree.name)) return named.get(tree.name)!
  const used = inputs.filter((name) => named.has(name))
  return used.length === 0 ? condition : conditionOf(substitute(tree, new Map(used.map((name) => [name, conditionTree(named.get(name)!)]))))
}

/** The tests of a condition, in the order of its text. */
export function testsOf(condition: Condition): Test[] {
  if (condition.kind === 'test') return [condition]
  return condition.kind === 'not' ? testsOf(condition.of) : condition.of.flatMap(testsOf)
}
