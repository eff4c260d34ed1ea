import type { Entry, Gate, GridGate, MatchGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { entryWords, formWords, ruleWords } from './rule-words'

const is = (label: string): Entry[] => [{ is: label }]
const head = { schema: 1 as const, name: 'Gate', otherwise: null, outcomes: [{ name: 'Label', type: 'text' as const, labels: [] }] }
const match: MatchGate = { ...head, form: 'match', inputs: [anInput('Kind', 'text')], on: 'Kind', folds: true, lines: [{ values: ['oak', 'ash', 'elm'], entries: is('hard') }, { values: ['lime'], entries: is('soft') }, { values: [], entries: is('none') }] }
const grid: GridGate = {
  ...head, form: 'grid', inputs: [anInput('Decay', 'number'), anInput('By', 'text')],
  down: { kind: 'scale', on: 'Decay', cuts: [{ at: '40', owner: 'above' }], floor: null, ceiling: null }, across: { kind: 'list', on: 'By', folds: false, lines: [['school'], ['road', 'verge']] },
  cells: [[is('a'), null], [is('b'), is('c')]],
}
const takes = (gate: Gate) => ruleWords(gate).map((one) => one.takes)

test('each form is told line by line, in the order in which it decides', () => {
  expect(takes(rulesGate([anInput('Decay', 'number')], [['Decay > 3', 'a'], ['-', 'b']]))).toEqual(['Decay > 3', '-'])
  expect(takes(match)).toEqual(['Kind oak, ash or elm', 'Kind lime', 'Kind nothing'])
  expect(takes(grid)).toEqual(['Decay under 40, By school', 'Decay 40 and over, By school', 'Decay 40 and over, By road or verge'])
  expect(takes(plainScale('S', givenNumber('x', ''), [{ at: '5', owner: 'below' }], ['a', 'b'].map((label) => ({ label, colour: '#7fa99a', mark: 'disc' as const }))))).toEqual(['x up to 5', 'x over 5'])
})

test('a form says how it reads its rules', () => {
  expect([rulesGate([], []), rulesGate([], [], { hitPolicy: 'unique' }), match, grid].map(formWords)).toEqual(['rules, first that holds', 'rules, unique', 'match list, case and spaces aside', 'grid, 2 × 2'])
})

test('results are values, expressions or nothing', () => expect([entryWords({ is: '-2.5' }), entryWords({ is: '2026-03-02' }), entryWords({ feel: 'a + b' }), entryWords(null)]).toEqual(['\u22122.5', '2 Mar 2026', 'a + b', '']))
