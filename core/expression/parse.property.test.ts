import fc from 'fast-check'
import { parseDate } from '../value/temporal'
import { checkExpression } from './check'
import { evaluate } from './evaluate'
import { parseExpression, parseUnaryTests } from './parse'
import { printExpression } from './print'
import { arbitraryExpression, NAMES } from './testing/arbitrary-expression'
import type { Node } from './tree'

const today = parseDate('2026-03-02')!
const plain = (tree: unknown) => JSON.stringify(tree, (key, value: unknown) => (key === 'span' ? undefined : value))

test('tree to text to tree is the same tree', () => {
  fc.assert(fc.property(arbitraryExpression, (tree) => {
    const printed = printExpression(tree)
    const parsed = parseExpression(printed, NAMES)
    expect('problem' in parsed ? [printed, parsed.problem] : plain(parsed.tree)).toEqual(plain(tree))
    expect(printExpression((parsed as { tree: Node }).tree)).toBe(printed)
  }), { numRuns: 3000 })
})

/** Text that means something, with pieces lost, doubled, swapped or put in. */
const mutated = fc.tuple(arbitraryExpression.map(printExpression), fc.array(fc.tuple(fc.nat(400), fc.nat(12), fc.constantFrom('', '(', '[', '..', ' in ', '"', '-', ' and ', 'if ', '@', '\\', '{', '\u{1f333}', '9'.repeat(40)))))
  .map(([text, changes]) => changes.reduce((changed, [at, length, put]) => changed.slice(0, at) + put + changed.slice(at + length), text))
const soup = fc.array(fc.constantFrom('(', ')', '[', ']', '..', ',', ' in ', ' and ', 'if ', ' then ', ' else ', '<', '-', '**', '@', '"a"', '1', 'Height', 'some x in ', ' satisfies ', 'not(', '?', '.', ':', 'function(', ' instance of ', 'date', ' between '), { maxLength: 80 }).map((parts) => parts.join(''))

test('any text is an expression or a problem with a place; what is an expression has a value', () => {
  fc.assert(fc.property(fc.oneof(mutated, soup, fc.string({ maxLength: 200, unit: 'binary' })), (text) => {
    for (const parsed of [parseExpression(text, NAMES), parseUnaryTests(text, NAMES)]) {
      if ('problem' in parsed) {
        expect(parsed.problem.from).toBeGreaterThanOrEqual(0)
        expect(parsed.problem.to).toBeLessThanOrEqual(Math.max(text.length, parsed.problem.from))
        continue
      }
      const { problems } = checkExpression(parsed.tree, new Map(NAMES.map((name) => [name, 'any'])))
      for (const { from, to } of problems) expect(0 <= from && from <= to && to <= text.length).toBe(true)
      expect(() => evaluate(parsed.tree, { value: () => null, today })).not.toThrow()
    }
  }), { numRuns: 3000 })
})

test.each([
  ['brackets', '('.repeat(3000)],
  ['tests within tests', '1 in ('.repeat(3000)],
  ['ranges', '[1..'.repeat(3000)],
  ['choices', 'if true then '.repeat(1500)],
  ['otherwise after otherwise', 'if true then 1 else '.repeat(900) + '1'],
  ['minus signs', '1 '.padEnd(9000, '-')],
  ['powers', `1${' ** 9'.repeat(3000)}`],
  ['loops over loops', `for a in 1..10000, b in 1..10000, c in 1..10000 return a`],
  ['filters', `[1]${'[true]'.repeat(3000)}`],
  ['filters in number', `[1]${'[true]'.repeat(900)}`],
  ['a pattern that forks at every letter', `matches("${'a'.repeat(5000)}", "^(a+)+$b")`],
  ['a pattern of repeated repeats', 'matches("a", "((a{99}){99}){99}")'],
  ['large powers', '9 ** 9 ** 9 ** 9'],
  ['exponents', 'exp(exp(exp(9)))'],
  ['roots of powers', '1.0000001 ** 99999999999999999999.5'],
])('hostile text ends: %s', (_, text) => {
  const parsed = parseExpression(text, NAMES)
  if ('tree' in parsed) expect(() => evaluate(parsed.tree, { value: () => null, today })).not.toThrow()
  else expect(['too-deep', 'unexpected-end', 'unexpected']).toContain(parsed.problem.code)
}, 5000)
