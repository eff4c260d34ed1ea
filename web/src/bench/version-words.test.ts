import { changesBetween } from '@dime-gate/core/gate/changes'
import { dropOtherwise, editRule, giveEntry, moveRule, removeRule, switchRule } from '@dime-gate/core/gate/edit-rules'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { changeWords } from './version-words'

const GATE = rulesGate(
  [anInput('Decay', 'number', { unit: '%' })],
  [
    ['Decay > 40', 'Fell'],
    ['Decay > 25', 'Climb'],
    ['Decay > 12', 'Look'],
  ],
  {
    otherwise: [{ is: 'Leave' }],
    outcomes: [
      {
        name: 'Label',
        type: 'text',
        labels: ['Fell', 'Climb', 'Look', 'Leave'].map((value) => ({ value, colour: '#7fa99a', mark: 'disc', rank: null })),
      },
    ],
  },
)
const told = (after: typeof GATE) => changesBetween(GATE, after).map((change) => changeWords(change, GATE, after))

test.each([
  [editRule(GATE, 1, { condition: 'Decay >= 30' }), ['Rule 2 takes “Decay at least 30\u00a0%”, before “Decay above 25\u00a0%”']],
  [moveRule(GATE, 2, 0), ['Rule 1 was rule 3']],
  [removeRule(GATE, 0), ['What was rule 1 is gone: Decay above 40\u00a0%', 'The label “Fell” is gone']],
  [switchRule(GATE, 0), ['Rule 1 is switched off']],
])('what was done to a rule is told as people say it', (after, words) => expect(told(after)).toEqual(words))

test('labels and otherwise are told with what stood there before', () => {
  expect(told(giveEntry(GATE, 1, 0, { is: 'Rope' }))[0]).toBe('Rule 2 gives “Rope”, before “Climb”')
  expect(told(dropOtherwise(GATE))[0]).toBe('Otherwise gives no label, before “Leave”')
})

test('named conditions are told by what they say', () => {
  const weak = { id: 'a', name: 'Weak stem', feel: 'Decay > 40' }
  const carrying = { ...GATE, conditions: [weak] }
  expect(told(carrying)).toEqual(['The named condition “Weak stem” is new'])
  const between = (after: object[]) => changesBetween(carrying, { ...GATE, conditions: after as never }).map((change) => changeWords(change, carrying, carrying))
  expect(between([{ ...weak, feel: 'Decay > 50', name: 'Rotten' }])).toEqual([
    'The condition “Weak stem” is called “Rotten”', '“Rotten” holds for “Decay above 50\u00a0%”, before “Decay above 40\u00a0%”',
  ])
  expect(between([])).toEqual(['The named condition “Weak stem” is gone'])
})
