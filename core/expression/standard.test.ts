import { parseDate } from '../value/temporal'
import { textOfValue } from '../value/value-text'
import type { Value } from '../value/value'
import { Decimal } from '../value/number'
import { checkExpression } from './check'
import { evaluate, evaluateOpen, type Note } from './evaluate'
import { isOpen, OPEN, type Possible } from './open'
import { parseExpression, parseUnaryTests } from './parse'
import type { Type } from './type'

const TODAY = parseDate('2026-03-02')!
const TYPES = new Map<string, Type>([['U', 'text'], ['Modules', { list: 'number' }], ['x', 'number'], ['y', 'number'], ['z', 'number']])
const VALUES: Record<string, Value> = { U: 'a', Modules: [] }

function told(text: string, values: Record<string, Possible> = VALUES): string {
  const parsed = parseExpression(text, TYPES.keys())
  if ('problem' in parsed) return `problem: ${parsed.problem.code}`
  const { problems } = checkExpression(parsed.tree, TYPES)
  if (problems.length > 0) return `problem: ${problems[0]!.code}`
  const value = evaluateOpen(parsed.tree, { value: (name) => values[name] ?? null, today: TODAY })
  return isOpen(value) ? 'open' : value === null ? 'null' : textOfValue(value)
}

describe('details of the standard', () => {
  test.each([
    // Clause 10.3.2.5: places count from 1.
    ['[1, 2, 3][0]', 'null'], ['[1, 2, 3][3]', '3'], ['[1, 2, 3][-3]', '1'], ['[1, 2, 3][4]', 'null'],
    // Table 78.
    ['overlaps after([5..8], [1..5])', 'true'], ['overlaps after([5..8], [1..8))', 'true'], ['overlaps after([5..8), [1..8])', 'false'], ['overlaps after((5..8], [5..6])', 'true'], ['overlaps after([1..5], [5..8])', 'false'],
    ['overlaps before([1..5], [5..8])', 'true'], ['overlaps before([1..8], [1..5])', 'false'],
    ['number("1,5", null, ",")', '1.5'], ['string(time(14, 30, 0, null))', '14:30:00'], ['string join(["a", "b"], null)', 'ab'],
    ['range("[2..)").start', '2'], ['range("(..5]").end', '5'], ['range("[2..]")', 'null'], ['3 in range("[2..)")', 'true'],
    ['sublist([1, 2, 3], 1, -1)', 'null'], ['sublist([1, 2, 3], 2, 1)', '[2]'],
    ['Modules = []', 'true'], ['[] = Modules', 'true'],
    ['for i in 0..4 return if i = 0 then 1 else i * partial[-1]', '[1, 1, 2, 6, 24]'],
    ['sort([3, 1, 2], function(a: number, b: number) a < b)', '[1, 2, 3]'],
    ['[1, 2] instance of list<number>', 'true'], ['[1, "a"] instance of list<number>', 'false'], ['[1..2] instance of range<number>', 'true'],
    ['@"10:00:00z" = @"10:00:00Z"', 'true'],
    ['[1, 2] in [[1, 2], [3]]', 'true'], ['[1] in [[1, 2], [3]]', 'false'],
    ['for i in null return i', 'null'],
    ['"5" in ("5".."5")', 'false'], ['"5" in ["5".."5"]', 'true'],
  ])('%s is %s', (text, expected) => expect(told(text)).toBe(expected))
})

/** Cells of a table whose input is null: such a test is taken when it is true, and only then. */
test.each(['? > 5', 'contains(string(?), "x")', '? in [1..5]', '? > y', '[y..5]', '> y', '? between 1 and 5', 'not(? > 5)', '? + 1 > 3', 'abs(?) > 3', '[1..5]', '< 5'])('a blank is not taken by the cell %s', (cell) => {
  const parsed = parseUnaryTests(cell, ['y'])
  expect('tree' in parsed && evaluate(parsed.tree, { value: () => null, today: TODAY })).not.toBe(true)
})

test('a cell that names null, or asks for it, takes blanks', () => {
  for (const cell of ['null', '? = null', 'null, 5', '-']) {
    const parsed = parseUnaryTests(cell, [])
    expect('tree' in parsed && evaluate(parsed.tree, { value: () => null, today: TODAY })).toBe(true)
  }
})

describe('what is open stays so only where it matters', () => {
  const nine = { x: new Decimal(9), y: OPEN, z: new Decimal(3) }
  test.each([
    ['y > 5', 'open'], ['y + x', 'open'], ['max(x, y) > 5', 'true'], ['max(x, y) > 9', 'open'], ['max(x, y) < 9', 'false'], ['min(x, y) > 9', 'false'], ['max([x, y]) in [1..8]', 'false'],
    ['some i in [x, y] satisfies i > 5', 'true'], ['every i in [x, y] satisfies i > 9', 'false'], ['every i in [x, y] satisfies i > 5', 'open'],
    ['if x > 5 then true else y > 3', 'true'], ['if y > 5 then 1 else 1', '1'], ['if y > 5 then 1 else 2', 'open'], ['if y > 5 then true else x > 5', 'true'],
    ['y = null', 'true'], ['(if z = null then 0 else z) + y = 5', 'open'], ['(if y = null then 0 else y) + x', '9'], ['y in (null, 5)', 'true'], ['is(y, null)', 'true'],
    ['count([x, y])', '2'], ['list contains([x, y], 9)', 'true'], ['list contains([x, y], 8)', 'open'], ['any([x > 5, y > 5])', 'true'], ['not(y > 5)', 'open'], ['[x, y][1]', '9'], ['mean([x, y])', 'open'],
  ])('%s is %s', (text, expected) => expect(told(text, nine)).toBe(expected))
})

describe('whatever is written down comes to an end, and to nothing where it is too much', () => {
  const notesOf = (text: string) => {
    const parsed = parseExpression(text, TYPES.keys())
    const notes: Note[] = []
    const value = 'tree' in parsed ? evaluate(parsed.tree, { value: (name) => VALUES[name] ?? null, today: TODAY, note: (note) => notes.push(note) }) : undefined
    return { value, shortfalls: new Set(notes.map(({ shortfall }) => shortfall)) }
  }
  const nested = (depth: number, around: (inner: string) => string, inner: string): string => (depth === 0 ? inner : around(nested(depth - 1, around, inner)))
  test.each([
    ['a text doubled again and again', nested(28, (of) => `(for x in [${of}] return x + x)[1]`, 'U')],
    ['the same, further', nested(40, (of) => `(for x in [${of}] return x + x)[1]`, 'U')],
    ['lists of lists', `${nested(28, (of) => `(for x in [${of}] return [x, x])[1]`, '[U]')} = [1]`],
    ['loops over loops', 'for a in 1..1000, b in 1..1000 return a * b'],
    ['powers without end', 'for a in 1..10000 return exp(a / 1000) ** 1.5'],
    ['results so far, kept', 'for i in 1..10000 return partial'],
    ['a text between many', 'string join(for i in 1..10000 return string join(for j in 1..100 return "abcdefghij"), "-")'],
    ['lists that are compared with each other', 'distinct values(for i in 1..2000 return [i])'],
  ])('%s', (_, text) => {
    const { value, shortfalls } = notesOf(text)
    expect(value).toBeNull()
    expect(shortfalls.has('too-much') || shortfalls.has('out-of-range')).toBe(true)
  })
  test('what is only much is done', () => expect(told('count(distinct values(for i in 1..10000 return i))')).toBe('10000'))
})
