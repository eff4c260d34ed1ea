import { anInput, givenBy, rulesGate, TODAY } from '../testing/a-gate'
import { textOfValue } from '../value/value-text'
import { lowered } from '../rule/lower'
import { EITHER, FALSE, TRUE } from './verdict'
import { whyOf } from './why'

const INPUTS = [anInput('Height', 'number'), anInput('Trunk', 'number'), anInput('Due', 'date'), anInput('Slenderness', 'number', { source: { kind: 'figure', feel: 'Height / Trunk' }, precision: { kind: 'half up', places: 1 } })]
const gate = rulesGate(INPUTS, [['Slenderness > 0.8 and Height >= 12', 'slender'], ['Due < today()', 'overdue'], ['-', 'sound']])
const why = (texts: Record<string, string | null>, unreadable = new Map<string, string>()) => whyOf(lowered(gate), givenBy(INPUTS, texts), TODAY, unreadable)

test('every test walked says what it saw, its verdict, and how far the nearest cut is', () => {
  const { decision, rules } = why({ Height: '10', Trunk: '12', Due: '2026-02-20' })
  expect(decision).toMatchObject({ status: 'labelled', rule: 1, outcomes: ['overdue'] })
  expect(rules.map(({ path, verdict }) => [path, verdict])).toEqual([['rules.0', FALSE], ['rules.1', TRUE]])
  const told = rules.flatMap(({ tests }) => tests).map(({ text, saw, verdict, nearest }) => [text, textOfValue(saw), verdict, nearest && textOfValue(nearest.at), nearest && textOfValue(nearest.distance)])
  expect(told).toEqual([['Slenderness > 0.8', '0.8', FALSE, '0.8', '0'], ['Height >= 12', '10', FALSE, '12', '-2'], ['Due < today()', '2026-02-20', TRUE, '2026-03-02', '-P10D']])
})

test('inputs are told as measured, as seen, and as written where they could not be read', () => {
  const { decision, inputs } = why({ Height: '10', Trunk: '0', Due: null }, new Map([['Due', 'soon']]))
  const told = Object.fromEntries(inputs.map(({ name, value, unreadable, notes }) => [name, [textOfValue(value), unreadable, notes.map(({ shortfall }) => shortfall)]]))
  expect(told).toEqual({ Height: ['10', null, []], Trunk: ['0', null, []], Due: ['', 'soon', []], Slenderness: ['', null, ['division-by-zero']] })
  expect(decision).toMatchObject({ status: 'held', missing: ['Due'] })
})

test('with First what comes after the deciding rule was not walked', () => {
  const { rules } = why({ Height: '20', Trunk: '10', Due: null })
  expect(rules).toHaveLength(1)
  expect(why({ Height: null, Trunk: '1', Due: '2026-01-01' }).rules.map(({ verdict }) => verdict)).toEqual([EITHER, TRUE])
})
