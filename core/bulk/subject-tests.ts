/** Tests as what they say of one thing: where an input, or what is reckoned from some, lies among constants. */
import { evaluate } from '../expression/evaluate'
import { freeNames, MIRRORED, type Node, type NodeOf } from '../expression/tree'
import type { Test } from '../rule/condition'
import { blankTest, type Piece, simpleTest, type SimpleTest } from '../rule/simple-test'
import { type DateValue, type DayTimeDuration, isNumber, kindOf } from '../value/value'
import type { AskedTable } from './asked-table'
import { RANKED } from './gathered'

/** A test that asks in which stretches its subject lies; for blanks alone, in none. */
export interface GroupedTest {
  test: Test
  pieces: readonly Piece[]
  isNegated: boolean
  /** Two things that are asked to be the same, told as their difference: of two that are missing, that is still to be asked. */
  isOfTwo: boolean
}

/** What a test says of the one thing that it looks at. */
export type GroupedSubject = Omit<GroupedTest, 'test'> & { subject: Node }

/** Where one thing lies: as the test itself says, or as it can be told of a set, or of two days. */
export function subjectTest(test: Test, asked: AskedTable): GroupedSubject | null {
  const { today } = asked
  const days = dayTest(test.tree, asked)
  if (days) return days
  const counted = countTest(test.tree, today)
  if (counted) return { ...counted, isOfTwo: false }
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

/** A count is asked to be no more than this, or its tests are taken as they are. */
const MOST_COUNTED = 100

/**
 * Three of a set are at least 40 where the third from above is. Tests with other constants then look at the same, where
 * each would have to count for itself.
 */
function countTest(tree: Node, today: DateValue): SimpleTest | null {
  const counted = tree.kind === 'comparison' && tree.operator !== '=' && tree.operator !== '!=' ? simpleTest(tree, today) : null
  const filter = counted?.subject.kind === 'call' && counted.subject.name === 'count' ? counted.subject.args[0] : null
  if (!counted || filter?.kind !== 'filter' || filter.of.kind !== 'name') return null
  const member = simpleTest(filter.by, today)
  const [one, ...more] = member?.pieces ?? []
  if (!one || more.length > 0 || member!.isNegated || member!.subject.kind !== 'name' || member!.subject.name !== 'item' || (one.low === null) === (one.high === null)) return null
  const [{ low, high, lowIncluded, highIncluded }] = counted.pieces as [Piece]
  const [end, isNext] = low === null ? [high, highIncluded] : [low, !lowIncluded]
  const place = isNumber(end) ? (isNext ? end.floor().plus(1) : end.ceil()).toNumber() : 0
  if (place < 1 || place > MOST_COUNTED) return null
  const { span } = tree
  const number: Node = { kind: 'number', number: String(place), span }
  const name = one.low === null ? RANKED.fromBelow : RANKED.fromAbove
  return { subject: { kind: 'call', name, args: [filter.of, number], names: null, span }, pieces: [one], isNegated: low === null }
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
