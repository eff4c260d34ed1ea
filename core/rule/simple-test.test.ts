import { parseExpression } from '../expression/parse'
import { printExpression } from '../expression/print'
import { textOfValue } from '../value/value-text'
import { blankTest, simpleTest } from './simple-test'
import { TODAY } from '../testing/arbitrary-gate'

const NAMES = ['Decay', 'Lean', 'Species', 'Due', 'Dead', 'Modules']
const treeOf = (text: string) => {
  const parsed = parseExpression(text, NAMES)
  if ('problem' in parsed) throw new Error(parsed.problem.code)
  return parsed.tree
}
const told = (text: string) => {
  const simple = simpleTest(treeOf(text), TODAY)
  return simple && `${simple.isNegated ? 'not ' : ''}${printExpression(simple.subject)}: ${simple.pieces.map((piece) => textOfValue(piece)).join(' ')}`
}

test.each([
  ['Decay >= 12', 'Decay: [12..)'],
  ['12 <= Decay', 'Decay: [12..)'],
  ['12 > Decay', 'Decay: (..12)'],
  ['Decay = 12', 'Decay: [12..12]'],
  ['Decay != 12', 'not Decay: [12..12]'],
  ['Decay between 1 and 5', 'Decay: [1..5]'],
  ['Decay in [1..5)', 'Decay: [1..5)'],
  ['Decay in (1, < 0, (7..9])', 'Decay: [1..1] (..0) (7..9]'],
  ['Decay in [1, 2]', 'Decay: [1..1] [2..2]'],
  ['Species in ("oak", "ash")', 'Species: [oak..oak] [ash..ash]'],
  ['Due < today() + @"P7D"', 'Due: (..2026-03-09)'],
  ['Dead', 'Dead: [true..true]'],
  ['Decay / Lean > 3', 'Decay / Lean: (3..)'],
  ['Decay > Lean', 'Decay - Lean: (0..)'],
  ['mean(Modules) >= 4', 'mean(Modules): [4..)'],
])('%s asks where one thing lies: %s', (text, expected) => expect(told(text)).toBe(expected))

test.each(['Decay = Lean', 'contains(Species, "oak")', 'Decay > null', 'Decay in (1, null)', 'Decay in (? > 3)', '3 > 2', '5 in Modules', 'if Dead then true else false'])('%s asks something else', (text) => expect(told(text)).toBeNull())

test('tests for blanks', () => {
  const asked = ['Lean = null', 'null != Lean', 'Lean > null', 'null = null'].map((text) => {
    const blank = blankTest(treeOf(text))
    return blank && [printExpression(blank.subject), blank.isNegated]
  })
  expect(asked).toEqual([['Lean', false], ['Lean', true], null, null])
})
