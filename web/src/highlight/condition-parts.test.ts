import { anInput } from '@dime-gate/core/testing/a-gate'
import { partsOf } from './condition-parts'

const gate = { inputs: [anInput('Decay', 'number'), anInput('Label', 'text')] }

test('a test is its own part; a group has each of its tests beside itself', () => {
  expect(partsOf('Decay > 3', gate)).toEqual([{ way: '', text: 'Decay > 3' }])
  expect(partsOf('Decay > 3 and not(Label = "a")', gate).map(({ text }) => text)).toEqual(expect.arrayContaining(['Decay > 3', 'not(Label = "a")', 'Label = "a"']))
})

test('what cannot be read, and what says nothing, has no parts', () => {
  expect([partsOf('Decay >', gate), partsOf('Lean > 3', gate), partsOf(' ', gate)]).toEqual([[], [], []])
})
