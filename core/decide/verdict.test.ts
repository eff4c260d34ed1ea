import type { Condition, Test } from '../rule/condition'
import { EITHER, FALSE, isCertain, isPossible, NULL, TRUE, type Verdict, verdictOf } from './verdict'

const test_ = (text: string): Test => ({ kind: 'test', text, tree: { kind: 'name', name: text, span: { from: 0, to: 0 } }, inputs: [text], asksForBlanks: false })
const all = (...of: Condition[]): Condition => ({ kind: 'all', of })
const any = (...of: Condition[]): Condition => ({ kind: 'any', of })
const not = (of: Condition): Condition => ({ kind: 'not', of })
const verdict = (condition: Condition, known: Record<string, Verdict>) => verdictOf(condition, ({ text }) => known[text]!)
const [a, b] = [test_('a'), test_('b')]

/** DMN 1.5 tables 49 and 50. */
describe('the standard’s truth tables', () => {
  test.each([
    [TRUE, TRUE, TRUE, TRUE], [TRUE, FALSE, FALSE, TRUE], [TRUE, NULL, NULL, TRUE],
    [FALSE, TRUE, FALSE, TRUE], [FALSE, FALSE, FALSE, FALSE], [FALSE, NULL, FALSE, NULL],
    [NULL, TRUE, NULL, TRUE], [NULL, FALSE, FALSE, NULL], [NULL, NULL, NULL, NULL],
  ])('%i with %i: and %i, or %i', (left, right, and, or) => {
    expect(verdict(all(a, b), { a: left, b: right })).toBe(and)
    expect(verdict(any(a, b), { a: left, b: right })).toBe(or)
  })
  test('not', () => expect([TRUE, FALSE, NULL, EITHER].map((one) => verdict(not(a), { a: one }))).toEqual([FALSE, TRUE, NULL, EITHER]))
  test('of nothing', () => expect([verdict(all(), {}), verdict(any(), {})]).toEqual([TRUE, FALSE]))
})

test('what could still be either stays so, unless the rest decides', () => {
  expect(verdict(all(a, b), { a: EITHER, b: TRUE })).toBe(EITHER)
  expect(verdict(all(a, b), { a: EITHER, b: FALSE })).toBe(FALSE)
  expect(verdict(any(a, b), { a: EITHER, b: TRUE })).toBe(TRUE)
  expect(verdict(all(a, b), { a: EITHER, b: NULL })).toBe(FALSE | NULL)
  expect([isCertain(EITHER), isPossible(EITHER), isPossible(FALSE | NULL), isCertain(TRUE)]).toEqual([false, true, false, true])
})
