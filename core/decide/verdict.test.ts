import fc from 'fast-check'
import { bitmapOf, type Bitmap } from '../table/bitmap'
import type { Condition, Test } from '../rule/condition'
import { EITHER, FALSE, isCertain, isPossible, NULL, TRUE, type Verdict, verdictOf } from './verdict'
import { conditionBits, verdictAt } from '../bulk/verdict-bits'

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

const conditions = fc.letrec<{ node: Condition }>((tie) => ({
  node: fc.oneof({ depthSize: 'small' },
    fc.constantFrom<Condition>(a, b, test_('c')),
    fc.array(tie('node'), { maxLength: 3 }).map((of) => all(...of)),
    fc.array(tie('node'), { maxLength: 3 }).map((of) => any(...of)),
    tie('node').map(not),
  ),
})).node
const verdicts = fc.array(fc.record({ a: fc.integer({ min: 1, max: 7 }), b: fc.integer({ min: 1, max: 7 }), c: fc.constantFrom(TRUE, FALSE) }), { maxLength: 40 })

test('bitmaps say of every record what its own verdicts say', () => {
  fc.assert(fc.property(conditions, verdicts, (condition, records) => {
    const places = (name: 'a' | 'b' | 'c', bit: Verdict): Bitmap => bitmapOf(records.flatMap((record, at) => (record[name] & bit ? [at] : [])), records.length)
    const bits = conditionBits(condition, records.length, ({ text }) => {
      const name = text as 'a' | 'b' | 'c'
      const n = places(name, NULL)
      return { t: places(name, TRUE), f: name === 'c' ? null : places(name, FALSE), n: name === 'c' ? null : n }
    })
    expect(records.map((_, at) => verdictAt(bits, at))).toEqual(records.map((record) => verdict(condition, record)))
  }), { numRuns: 400 })
})
