import { anInput, givenBy, rulesGate, TODAY } from '../testing/a-gate'
import { Decimal } from '../value/number'
import { textOfValue } from '../value/value-text'
import { factsOf, missingInputs, rounded } from './facts'
import { lowered } from '../rule/lower'

const INPUTS = [
  anInput('Height', 'number'),
  anInput('Trunk', 'number', { precision: { kind: 'half up', places: 0 } }),
  anInput('Started', 'date'),
  anInput('Ratio', 'number', { source: { kind: 'figure', feel: 'Height / Trunk' }, precision: { kind: 'truncated', places: 1 } }),
  anInput('Twice', 'number', { source: { kind: 'figure', feel: 'Ratio * 2' } }),
  anInput('Years', 'number', { source: { kind: 'figure', feel: 'years and months duration(Started, today()).years' } }),
]
const gate = lowered(rulesGate(INPUTS.toReversed(), []))
const facts = (texts: Record<string, string | null>) => factsOf(gate, givenBy(INPUTS, texts), TODAY)

test('figures see rounded inputs, and are rounded themselves, in whatever order they are told', () => {
  const seen = facts({ Height: '10', Trunk: '2.5', Started: '2018-03-03' })
  expect(['Trunk', 'Ratio', 'Twice', 'Years'].map((name) => textOfValue(seen.value(name)))).toEqual(['3', '3.3', '6.6', '7'])
})

test('what comes to nothing says why, once, where it happened', () => {
  const seen = facts({ Height: '10', Trunk: '0', Started: null })
  expect(seen.value('Twice')).toBeNull()
  expect(seen.value('Twice')).toBeNull()
  expect([...seen.notes].map(([name, notes]) => [name, notes.map(({ shortfall }) => shortfall)])).toEqual([['Ratio', ['division-by-zero']]])
})

test('what is missing is told by the columns that would settle it', () => {
  expect(missingInputs(gate, facts({ Height: null, Trunk: '2', Started: null }), ['Twice', 'Years'])).toEqual(['Height', 'Started'])
  expect(missingInputs(gate, facts({ Height: '1', Trunk: '0', Started: null }), ['Twice'])).toEqual(['Ratio'])
  expect(missingInputs(gate, facts({ Height: '1', Trunk: '1', Started: null }), ['Twice'])).toEqual([])
})

test.each([
  ['half up', '2.5', '3'], ['half up', '-2.5', '-3'], ['half even', '2.5', '2'], ['half even', '3.5', '4'], ['truncated', '-2.9', '-2'],
] as const)('%s: %s is %s', (kind, text, expected) => expect(textOfValue(rounded(new Decimal(text), { kind, places: 0 }))).toBe(expected))

test('places before the point, and lists, are rounded too; what is no number is left', () => {
  expect(textOfValue(rounded(new Decimal('1250'), { kind: 'half up', places: -2 }))).toBe('1300')
  expect(textOfValue(rounded([new Decimal('1.26'), new Decimal('2')], { kind: 'half up', places: 1 }))).toBe('[1.3, 2]')
  expect(rounded('oak', { kind: 'half up', places: 1 })).toBe('oak')
  expect(rounded(null, { kind: 'half up', places: 1 })).toBeNull()
})
