/** Random expressions for property tests: any tree that text can say. */
import fc from 'fast-check'
import type { Node } from '../tree'

const span = { from: 0, to: 0 }
export const NAMES = ['Height', 'Trunk cm', 'Wind-borne', 'Trunk and branch', 'Module 1']

const leaf: fc.Arbitrary<Node> = fc.oneof(
  fc.tuple(fc.integer({ min: -999, max: 999 }), fc.integer({ min: 0, max: 3 })).map(([digits, places]): Node => ({ kind: 'number', number: String(digits / 10 ** places), span })),
  fc.string({ maxLength: 6, unit: 'grapheme' }).map((text): Node => ({ kind: 'text', text, span })),
  fc.boolean().map((value): Node => ({ kind: 'boolean', value, span })),
  fc.constant<Node>({ kind: 'null', span }),
  fc.constantFrom('2024-02-29', 'P1M', 'PT5M', '10:30:00', '2026-03-02T00:00:00Z').map((text): Node => ({ kind: 'temporal', text, span })),
  fc.constantFrom(...NAMES).map((name): Node => ({ kind: 'name', name, span })),
)

export const arbitraryExpression: fc.Arbitrary<Node> = fc.letrec<{ node: Node; test: Node }>((tie) => {
  const node = tie('node')
  const many = (minLength: number) => fc.array(node, { minLength, maxLength: 3 })
  const variables = fc.array(node.map((over) => ({ name: 'x', over })), { minLength: 1, maxLength: 2 }).map((all) => all.map((variable, at) => ({ ...variable, name: `x${at}` })))
  return {
    test: fc.oneof(
      node,
      fc.tuple(node, fc.boolean()).map(([high, highIncluded]): Node => ({ kind: 'range', low: null, high, lowIncluded: false, highIncluded, span })),
      fc.tuple(node, fc.boolean()).map(([low, lowIncluded]): Node => ({ kind: 'range', low, high: null, lowIncluded, highIncluded: false, span })),
    ),
    node: fc.oneof({ depthSize: 'small', withCrossShrink: true },
      leaf,
      fc.tuple(fc.constantFrom('+', '-', '*', '/', '**'), node, node).map(([operator, left, right]): Node => ({ kind: 'arithmetic', operator: operator as '+', left, right, span })),
      fc.tuple(fc.constantFrom('=', '!=', '<', '<=', '>', '>='), node, node).map(([operator, left, right]): Node => ({ kind: 'comparison', operator: operator as '=', left, right, span })),
      // A minus before a number is part of the number.
      node.filter((of) => of.kind !== 'number').map((of): Node => ({ kind: 'negate', of, span })),
      fc.tuple(fc.constantFrom('and', 'or'), many(2)).map(([kind, of]): Node => ({ kind: kind as 'and', of, span })),
      fc.tuple(node, node, node).map(([of, low, high]): Node => ({ kind: 'between', of, low, high, span })),
      fc.tuple(node, fc.array(tie('test'), { minLength: 1, maxLength: 3 })).map(([of, tests]): Node => ({ kind: 'in', of, tests, span })),
      fc.tuple(node, node, node).map(([condition, then, otherwise]): Node => ({ kind: 'if', condition, then, otherwise, span })),
      fc.tuple(fc.constantFrom('some', 'every'), variables, node).map(([quantifier, variables, satisfies]): Node => ({ kind: 'quantified', quantifier: quantifier as 'some', variables, satisfies, span })),
      fc.tuple(variables, node).map(([variables, result]): Node => ({ kind: 'for', variables, result, span })),
      many(0).map((items): Node => ({ kind: 'list', items, span })),
      fc.tuple(node, node, fc.boolean(), fc.boolean()).map(([low, high, lowIncluded, highIncluded]): Node => ({ kind: 'range', low, high, lowIncluded, highIncluded, span })),
      fc.tuple(node, node).map(([of, by]): Node => ({ kind: 'filter', of, by, span })),
      node.map((of): Node => ({ kind: 'path', of, name: 'year', span })),
      fc.tuple(fc.constantFrom('mean', 'round half up', 'years and months duration', 'not'), many(1)).map(([name, args]): Node => ({ kind: 'call', name, args, names: null, span })),
      node.map((of): Node => ({ kind: 'instance of', of, type: 'days and time duration', span })),
    ),
  }
}).node
