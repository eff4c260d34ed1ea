/** Tests that look at one thing, put together: they share the work, and one class for each record. */
import type { Node } from '../expression/tree'
import { printExpression } from '../expression/print'
import type { Test } from '../rule/condition'
import type { Piece } from '../rule/simple-test'
import { isNumber, kindOf } from '../value/value'
import type { AskedTable } from './asked-table'
import { type GroupedSubject, type GroupedTest, subjectTest } from './subject-tests'

export type TestGroup =
  /** All that comes down to one column of values that repeat. */
  | { kind: 'values'; key: string; column: string; tests: Test[] }
  /** All that asks where one number, or day, lies. */
  | { kind: 'subject'; key: string; subject: Node; grouped: GroupedTest[] }
  /** What is left; several where they look at one input that is no number. */
  | { kind: 'records'; key: string; tests: Test[] }

/** @param told what a test says of one thing, where that may be known from before */
export function testGroups(asked: AskedTable, tests: Iterable<Test>, told: (test: Test) => GroupedSubject | null = (test) => subjectTest(test, asked)): TestGroup[] {
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
    const simple = given === undefined ? null : told(test)
    const key = simple ? `subject ${textOf(simple.subject)}` : `records ${test.text}`
    if (simple && simple.pieces.every(isOrdinal)) inGroup<'subject'>(key, () => ({ kind: 'subject', key, subject: simple.subject, grouped: [] })).grouped.push({ test, ...simple })
    else inGroup<'records'>(key, () => ({ kind: 'records', key, tests: [] })).tests.push(test)
  }
  return [...groups.values()]
}

const texts = new WeakMap<Node, string>()

/** Printed once: what tests say is the same with every step of a drag. */
function textOf(subject: Node): string {
  const text = texts.get(subject) ?? printExpression(subject)
  texts.set(subject, text)
  return text
}

function isOrdinal({ low, high }: Piece): boolean {
  return isOrdinalEnd(low) && isOrdinalEnd(high)
}

function isOrdinalEnd(end: Piece['low']): boolean {
  return end === null || isNumber(end) || kindOf(end) === 'date' || kindOf(end) === 'days and time duration' || kindOf(end) === 'years and months duration'
}
