import { parseExpression } from './parse'
import { printExpression } from './print'
import { substitute } from './substitute'
import { freeNames } from './tree'

const NAMES = ['A', 'B', 'Modules']
const treeOf = (text: string) => {
  const parsed = parseExpression(text, NAMES)
  if ('problem' in parsed) throw new Error(parsed.problem.code)
  return parsed.tree
}
const put = new Map([['A', treeOf('B + 1')]])

test.each([
  ['A * 2', '(B + 1) * 2'],
  ['A in [A..5]', 'B + 1 in [B + 1..5]'],
  ['A between 1 and A', 'B + 1 between 1 and B + 1'],
  ['not(A > 3) and A < 5', 'not(B + 1 > 3) and B + 1 < 5'],
  ['if A > 1 then A else [A]', 'if B + 1 > 1 then B + 1 else [B + 1]'],
  ['some A in Modules satisfies A > B', 'some A in Modules satisfies A > B'],
  ['some x in [A] satisfies x > A', 'some x in [B + 1] satisfies x > B + 1'],
  ['for A in Modules, y in [A] return A + y', 'for A in Modules, y in [A] return A + y'],
  ['Modules[item > A]', 'Modules[item > B + 1]'],
  ['sort(Modules, function(A, b) A < b)', 'sort(Modules, function(A, b) A < b)'],
  ['-A', '-(B + 1)'],
  ['mean(A, B)', 'mean(B + 1, B)'],
  ['A instance of number', '(B + 1) instance of number'],
])('%s becomes %s', (text, expected) => expect(printExpression(substitute(treeOf(text), put))).toBe(expected))

test.each([
  ['A + B > A', ['A', 'B']],
  ['some A in Modules satisfies A > B', ['Modules', 'B']],
  ['for x in [A], y in [x] return y', ['A']],
  ['Modules[item > A]', ['Modules', 'A']],
  ['A in (? > B)', ['A', 'B']],
  ['@"2026-03-02" > today()', []],
])('%s refers to %j', (text, names) => expect(freeNames(treeOf(text))).toEqual(names))
