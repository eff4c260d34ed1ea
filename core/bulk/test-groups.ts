/** Tests that look at one thing, put together: they share the work, and one class for each record. */
import { evaluate } from '../expression/evaluate'
import { freeNames, MIRRORED, type Node, type NodeOf } from '../expression/tree'
import { printExpression } from '../expression/print'
import type { Test } from '../rule/condition'
import { blankTest, type Piece, simpleTest, type SimpleTest } from '../rule/simple-test'
import { type DateValue, type DayTimeDuration, isNumber, kindOf } from '../value/value'
import type { AskedTable } from './asked-table'

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

type GroupedSubject = Omit<GroupedTest, 'test'> & { subject: Node }

/** Where one thing lies: as the test itself says, or as it can be told of a set, or of two days. */
function subjectTest(test: Test, asked: AskedTable): GroupedSubject | null {
  const { today } = asked
  const days = dayTest(test.tree, asked)
  if (days) return days
  const simple = simpleTest(test.tree, today)
  if (simple) return { ...simple, isOfTwo: false }
  const difference = differenceTest(test.tree, asked)
  if (difference) return { ...difference, isOfTwo: true }
  const blank = blankTest(test.tree)
  if (blank?.subject.kind === 'name') return { subject: blank.subject, pieces: [], isNegated: blank.isNegated, isOfTwo: false }
  const { tree } = test
  const ofSet = tree.kind === 'quantified' ? setTest(tree, today) : null
  return ofSet && { ...ofSet, isOfTwo: false }
}

/** `a = b` of two numbers: their difference is nothing. */
function differenceTest(tree: Node, { gate: { inputs }, today }: AskedTable): SimpleTest | null {
  if (tree.kind !== 'comparison' || (tree.operator !== '=' && tree.operator !== '!=')) return null
  const isNumeric = (node: Node): boolean => {
    if (node.kind === 'name') return inputs.get(node.name)?.type === 'number' && !inputs.get(node.name)!.isSet
    return node.kind === 'arithmetic' ? isNumeric(node.left) && isNumeric(node.right) : node.kind === 'number' || (node.kind === 'negate' && isNumeric(node.of))
  }
  if (!isNumeric(tree.left) || !isNumeric(tree.right)) return null
  const subject: Node = { kind: 'arithmetic', operator: '-', left: tree.left, right: tree.right, span: tree.span }
  const zero: Node = { kind: 'number', number: '0', span: tree.span }
  return simpleTest({ ...tree, left: subject, right: zero }, today)
}

/**
 * Some of a set lies below a constant where its least does, all lie below it where its greatest does; and so on. Where
 * some, or all, are asked to be the same as a constant, those are counted that are, or are not.
 */
function setTest({ quantifier, variables, satisfies, span }: NodeOf<'quantified'>, today: DateValue): SimpleTest | null {
  const [variable, ...others] = variables
  const simple = simpleTest(satisfies, today)
  const isOfItem = simple?.subject.kind === 'name' && simple.subject.name === variable!.name
  if (others.length > 0 || variable!.over.kind !== 'name' || !isOfItem || satisfies.kind !== 'comparison') return null
  const call = (name: string, of: Node): Node => ({ kind: 'call', name, args: [of], names: null, span })
  const operator = satisfies.left.kind === 'name' ? satisfies.operator : MIRRORED[satisfies.operator]
  if (operator !== '=' && operator !== '!=') {
    const isLeast = operator.startsWith('<') === (quantifier === 'some')
    return { ...simple, subject: call(isLeast ? 'min' : 'max', variable!.over) }
  }
  const item = (node: Node): Node => (node.kind === 'name' ? { ...node, name: 'item' } : node)
  const by: Node = { ...satisfies, left: item(satisfies.left), right: item(satisfies.right) }
  const wanted: Node = quantifier === 'some' ? by : { ...by, operator: operator === '=' ? '!=' : '=' }
  const count = call('count', { kind: 'filter', of: variable!.over, by: wanted, span })
  return simpleTest({ kind: 'comparison', operator: quantifier === 'some' ? '>=' : '<', left: count, right: { kind: 'number', number: '1', span }, span }, today)
}

/** A day so many days after another, or before it. */
interface ShiftedDay {
  base: NodeOf<'name'>
  days: number
}

/** `Due + @"P1D" < Since`: how many days lie between the two, so that tests with other durations look at the same. */
function dayTest(tree: Node, { gate, today }: AskedTable): GroupedSubject | null {
  if (tree.kind !== 'comparison') return null
  const [left, right] = [shiftedDay(tree.left, gate, today), shiftedDay(tree.right, gate, today)]
  if (!left || !right) return null
  const { span } = tree
  const subject: Node = { kind: 'arithmetic', operator: '-', left: left.base, right: right.base, span }
  const between: Node = { kind: 'number', number: String((right.days - left.days) * 86_400), span }
  const simple = simpleTest({ ...tree, left: subject, right: between }, today)
  return simple && { ...simple, isOfTwo: tree.operator === '=' || tree.operator === '!=' }
}

/** Further than this nobody counts days, and the calendar may end. */
const MOST_DAYS = 10_000_000

function shiftedDay(node: Node, gate: AskedTable['gate'], today: AskedTable['today']): ShiftedDay | null {
  if (node.kind === 'name') {
    const input = gate.inputs.get(node.name)
    return input?.type === 'date' && !input.isSet && !input.figure ? { base: node, days: 0 } : null
  }
  if (node.kind !== 'arithmetic' || (node.operator !== '+' && node.operator !== '-')) return null
  const of = shiftedDay(node.left, gate, today)
  const by = of && freeNames(node.right).length === 0 ? evaluate(node.right, { value: () => null, today }) : null
  if (!of || by === null || kindOf(by) !== 'days and time duration') return null
  const days = (by as DayTimeDuration).seconds.times(node.operator === '-' ? -1 : 1).div(86_400).floor().toNumber() + of.days
  return Math.abs(days) > MOST_DAYS ? null : { base: of.base, days }
}

function isOrdinal({ low, high }: Piece): boolean {
  const isKnown = (end: Piece['low']) => end === null || isNumber(end) || kindOf(end) === 'date' || kindOf(end) === 'days and time duration'
  return isKnown(low) && isKnown(high)
}
