/** Tests that look at one thing, put together: they share the work, and one class for each record. */
import type { Node, NodeOf } from '../expression/tree'
import { printExpression } from '../expression/print'
import type { Test } from '../rule/condition'
import { blankTest, type Piece, simpleTest, type SimpleTest } from '../rule/simple-test'
import { isNumber, kindOf } from '../value/value'
import { type AskedTable } from './asked-table'

/** A test that asks in which stretches its subject lies; for blanks alone, in none. */
export interface GroupedTest {
  test: Test
  pieces: readonly Piece[]
  isNegated: boolean
  /** Two things that are asked to be the same, told as their difference: of two that are missing, that is still to be asked. */
  isOfTwo: boolean
}

export type TestGroup =
  /** All that comes down to one column of values that repeat. */
  | { kind: 'values'; key: string; column: string; tests: Test[] }
  /** All that asks where one number, or day, lies. */
  | { kind: 'subject'; key: string; subject: Node; grouped: GroupedTest[] }
  /** What is left; several where they look at one input that is no number. */
  | { kind: 'records'; key: string; tests: Test[] }

export function testGroups(asked: AskedTable, tests: Iterable<Test>): TestGroup[] {
  const groups = new Map<string, TestGroup>()
  const inGroup = <Kind extends TestGroup['kind']>(key: string, make: () => Extract<TestGroup, { kind: Kind }>) => {
    if (!groups.has(key)) groups.set(key, make())
    return groups.get(key) as Extract<TestGroup, { kind: Kind }>
  }
  for (const test of tests) {
    const [given, ...others] = asked.givenBehind(test.inputs)
    const column = given === undefined || others.length > 0 ? undefined : asked.table.columns.get(given)
    if (column && 'kind' in column && column.kind === 'dictionary') {
      inGroup<'values'>(`values ${given}`, () => ({ kind: 'values', key: `values ${given}`, column: given!, tests: [] })).tests.push(test)
      continue
    }
    const simple = given === undefined ? null : subjectTest(test, asked)
    const key = simple ? `subject ${printExpression(simple.subject)}` : `records ${test.text}`
    if (simple && simple.pieces.every(isOrdinal)) inGroup<'subject'>(key, () => ({ kind: 'subject', key, subject: simple.subject, grouped: [] })).grouped.push({ test, ...simple })
    else inGroup<'records'>(key, () => ({ kind: 'records', key, tests: [] })).tests.push(test)
  }
  return [...groups.values()]
}

/** Where one thing lies: as the test itself says, or as how many items of a set there are of which something is true. */
function subjectTest(test: Test, { today, gate }: AskedTable): Omit<GroupedTest, 'test'> & { subject: Node } | null {
  const simple = simpleTest(test.tree, today)
  if (simple) return { ...simple, isOfTwo: false }
  const difference = differenceTest(test.tree, gate.inputs)
  if (difference) return { ...difference, isOfTwo: true }
  const blank = blankTest(test.tree)
  if (blank?.subject.kind === 'name') return { subject: blank.subject, pieces: [], isNegated: blank.isNegated, isOfTwo: false }
  const { tree } = test
  const count = tree.kind === 'quantified' ? countTest(tree) : null
  return count && { ...count, isOfTwo: false }
}

/** `a = b` of two numbers: their difference is nothing. */
function differenceTest(tree: Node, inputs: AskedTable['gate']['inputs']): SimpleTest | null {
  if (tree.kind !== 'comparison' || (tree.operator !== '=' && tree.operator !== '!=')) return null
  const isNumeric = (node: Node): boolean => {
    if (node.kind === 'name') return inputs.get(node.name)?.type === 'number' && !inputs.get(node.name)!.isSet
    return node.kind === 'arithmetic' ? isNumeric(node.left) && isNumeric(node.right) : node.kind === 'number' || (node.kind === 'negate' && isNumeric(node.of))
  }
  if (!isNumeric(tree.left) || !isNumeric(tree.right)) return null
  const subject: Node = { kind: 'arithmetic', operator: '-', left: tree.left, right: tree.right, span: tree.span }
  const zero: Node = { kind: 'number', number: '0', span: tree.span }
  const pieces = simpleTest({ kind: 'comparison', operator: '=', left: subject, right: zero, span: tree.span }, { kind: 'date', day: 0 })!.pieces
  return { subject, pieces, isNegated: tree.operator === '!=' }
}

/** `some x in Set satisfies x < 3`: there is at least one; `every`: there is none of which it is not true. */
function countTest({ quantifier, variables, satisfies, span }: NodeOf<'quantified'>): SimpleTest | null {
  const [variable, ...others] = variables
  const simple = simpleTest(satisfies, { kind: 'date', day: 0 })
  const isOfItem = simple?.subject.kind === 'name' && simple.subject.name === variable!.name
  if (others.length > 0 || variable!.over.kind !== 'name' || !isOfItem || satisfies.kind !== 'comparison') return null
  const item = (node: Node): Node => (node.kind === 'name' ? { ...node, name: 'item' } : node)
  const by: Node = { ...satisfies, left: item(satisfies.left), right: item(satisfies.right) }
  const wanted: Node = quantifier === 'some' ? by : { ...by, operator: OPPOSITE[satisfies.operator] }
  const count: Node = { kind: 'call', name: 'count', args: [{ kind: 'filter', of: variable!.over, by: wanted, span }], names: null, span }
  return simpleTest({ kind: 'comparison', operator: quantifier === 'some' ? '>=' : '<', left: count, right: { kind: 'number', number: '1', span }, span }, { kind: 'date', day: 0 })
}

const OPPOSITE = { '=': '!=', '!=': '=', '<': '>=', '<=': '>', '>': '<=', '>=': '<' } as const

function isOrdinal({ low, high }: Piece): boolean {
  const isKnown = (end: Piece['low']) => end === null || isNumber(end) || kindOf(end) === 'date' || kindOf(end) === 'days and time duration'
  return isKnown(low) && isKnown(high)
}
