import fc from 'fast-check'
import { parseExpression } from '../expression/parse'
import { ALWAYS, type Condition, conditionOf, conditionText, testsOf } from './condition'
import { isEverything, partAt, waysOf, withAnother, withKind, withNot, withPart, withPartLifted, withPartMoved } from './edit-condition'

const NAMES = ['a', 'b', 'c', 'd', 'e']
function read(text: string): Condition {
  const parsed = parseExpression(text, NAMES)
  if ('problem' in parsed) throw new Error(text)
  return conditionOf(parsed.tree)
}
const NESTED = read('a and (b or not(c)) and d')
const e = read('e')

test('a part is found by its way', () => {
  expect(
    [[], [1], [1, 1], [1, 1, 0], [3], [0, 0]].map((way) => {
      const part = partAt(NESTED, way)
      return part && conditionText(part)
    }),
  ).toEqual(['a and (b or not(c)) and d', 'b or not(c)', 'not(c)', 'c', undefined, undefined])
})

test.each<[string, Condition, string]>([
  ['replaced', withPart(NESTED, [1, 1, 0], e), 'a and (b or not(e)) and d'],
  ['taken out, its group with it where one part is left', withPart(NESTED, [1, 0], null), 'a and not(c) and d'],
  ['taken out of a not', withPart(NESTED, [1, 1, 0], null), 'a and b and d'],
  ['taken out as the last one', withPart(read('a'), [], null), 'true'],
  ['joined by another in a group of its kind', withAnother(NESTED, [0], 'all', e), 'a and e and (b or not(c)) and d'],
  ['joined by one that may hold instead', withAnother(NESTED, [0], 'any', e), '(a or e) and (b or not(c)) and d'],
  ['joined as a whole group', withAnother(NESTED, [1], 'any', e), 'a and (b or not(c) or e) and d'],
  ['joined as a whole condition', withAnother(NESTED, [], 'any', e), 'a and (b or not(c)) and d or e'],
  ['joined where nothing was written yet', withAnother(ALWAYS, [], 'any', e), 'e'],
  ['negated', withNot(NESTED, [1]), 'a and not(b or not(c)) and d'],
  ['negated twice', withNot(NESTED, [1, 1]), 'a and (b or c) and d'],
  ['of the other kind', withKind(NESTED, [1], 'all'), 'a and (b and not(c)) and d'],
  ['moved', withPartMoved(NESTED, [0], 1), '(b or not(c)) and a and d'],
  ['moved beyond the end', withPartMoved(NESTED, [0], 9), '(b or not(c)) and d and a'],
  ['lifted', withPartLifted(NESTED, [1, 0]), 'a and not(c) and b and d'],
  ['not lifted out of the whole', withPartLifted(NESTED, [0]), 'a and (b or not(c)) and d'],
])('a part is %s', (_, changed, expected) => expect(conditionText(changed)).toBe(expected))

const conditions = fc
  .letrec<{ node: string }>((tie) => ({
    node: fc.oneof(
      { depthSize: 'small' },
      fc.constantFrom(...NAMES),
      fc.tuple(tie('node'), fc.constantFrom('and', 'or'), tie('node')).map(([a, word, b]) => `(${a} ${word} ${b})`),
      tie('node').map((inner) => `not(${inner})`),
    ),
  }))
  .node.map(read)

test('whatever is changed, the text of it is read as it stands, and nothing else is lost', () =>
  fc.assert(
    fc.property(conditions, fc.nat(), (condition, pick) => {
      const all = waysOf(condition)
      const way = all[pick % all.length]!
      const tests = (of: Condition) =>
        testsOf(of)
          .map(({ text }) => text)
          .toSorted()
      const own = tests(condition)
      const added = withAnother(condition, way, 'any', e)
      expect(tests(added)).toEqual([...own, 'e'].toSorted())
      for (const moved of [
        withPartMoved(condition, way, 1),
        withPartLifted(condition, way),
        withNot(condition, way),
        withKind(condition, way, 'any'),
      ])
        expect(tests(moved)).toEqual(own)
      const without = withPart(condition, way, null)
      expect(isEverything(without) ? [] : tests(without)).toEqual(way.length === 0 ? [] : expect.any(Array))
      for (const changed of [added, without]) expect(conditionText(read(conditionText(changed)))).toBe(conditionText(changed))
    }),
  ))
