import { anInput, rulesGate } from '../testing/a-gate'
import { changesBetween } from './changes'
import { moveLabel, renameLabel } from './edit-labels'
import { addOutcome, editInput } from './edit-outcomes'
import { addRule, copyRule, dropOtherwise, editRule, giveEntry, moveRule, removeRule, switchRule } from './edit-rules'
import { givenNumber, plainScale } from './scale-gate'
import { band } from '../testing/a-gate'

const look = { colour: '#7fa99a', mark: 'disc' as const, rank: null }
const GATE = rulesGate(
  [anInput('Decay', 'number'), anInput('Lean', 'number')],
  [
    ['Decay > 40', 'Fell'],
    ['Decay > 25', 'Climb'],
    ['Lean > 15', 'Climb'],
    ['Lean > 8', 'Look'],
  ],
  {
    otherwise: [{ is: 'Leave' }],
    outcomes: [{ name: 'Label', type: 'text', labels: ['Fell', 'Climb', 'Look', 'Leave'].map((value) => ({ value, ...look })) }],
  },
)

test('a gate does not differ from itself, however its keys are ordered', () => {
  expect(changesBetween(GATE, GATE)).toEqual([])
  const labels = GATE.outcomes[0]!.labels.map(({ value, colour, mark, rank }) => ({ rank, mark, value, colour }))
  expect(changesBetween(GATE, { ...GATE, outcomes: [{ labels, type: 'text', name: 'Label' }] })).toEqual([])
})

test.each([
  ['a rule added', addRule(GATE, 1, 'Lean > 40'), [{ kind: 'rule added', at: 1, condition: 'Lean > 40' }]],
  ['a rule copied', copyRule(GATE, 1), [{ kind: 'rule added', at: 2, condition: 'Decay > 25' }]],
  ['a rule removed', removeRule(GATE, 1), [{ kind: 'rule removed', at: 1, condition: 'Decay > 25' }]],
  ['a rule moved, and no other', moveRule(GATE, 0, 3), [{ kind: 'rule moved', from: 0, to: 3 }]],
  [
    'a condition changed',
    editRule(GATE, 2, { condition: 'Lean > 20' }),
    [{ kind: 'condition', at: 2, from: 'Lean > 15', to: 'Lean > 20' }],
  ],
  ['a rule switched off', switchRule(GATE, 2), [{ kind: 'switched off', at: 2 }]],
  ['a remark', editRule(GATE, 2, { note: 'wind' }), [{ kind: 'note', at: 2 }]],
  [
    'another label',
    giveEntry(GATE, 2, 0, { is: 'Fell' }),
    [{ kind: 'gives', at: 2, outcome: 'Label', from: { is: 'Climb' }, to: { is: 'Fell' } }],
  ],
  [
    'no otherwise',
    dropOtherwise(GATE),
    [
      { kind: 'otherwise', from: [{ is: 'Leave' }], to: null },
      { kind: 'label removed', label: 'Leave' },
    ],
  ],
  ['labels in another order', moveLabel(GATE, 0, 1), [{ kind: 'labels in another order' }]],
  ['an outcome more', addOutcome(GATE, 'Points', 'number'), [{ kind: 'outcome added', outcome: 'Points' }]],
  ['an input read otherwise', editInput(GATE, 'Lean', { blank: 'pass' }), [{ kind: 'input read otherwise', input: 'Lean' }]],
])('%s is told as what it is', (_, after, expected) => expect(changesBetween(GATE, after)).toEqual(expected))

test('a label that is renamed is told wherever it is given', () => {
  expect(changesBetween(GATE, renameLabel(GATE, 'Climb', 'Rope')).map(({ kind }) => kind)).toEqual([
    'gives',
    'gives',
    'label added',
    'label removed',
  ])
})

test('cuts of a scale, and another form', () => {
  const scale = (at: string) => plainScale('Gate', givenNumber('Decay', ''), [{ at, owner: 'above' }], [band('a'), band('b')])
  expect(changesBetween(scale('1'), scale('2'))).toEqual([{ kind: 'cuts', from: ['1'], to: ['2'] }])
  expect(changesBetween(scale('1'), { ...scale('1'), floor: { at: '0', included: true } })).toEqual([{ kind: 'parts' }])
  expect(changesBetween(scale('1'), GATE)).toContainEqual({ kind: 'form', from: 'scale', to: 'rules' })
})
