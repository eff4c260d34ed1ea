import { decideRecord } from '../decide/decide-record'
import { switchRule } from '../gate/edit-rules'
import { lowered } from '../rule/lower'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { recordTakenBy } from './taken'

const INPUTS = [anInput('Decay', 'number'), anInput('Lean', 'number'), anInput('Place', 'text')]
const GATE = rulesGate(INPUTS, [
  ['Decay > 40', 'fell'], ['Decay > 25 and Place in ("school", "verge")', 'climb'], ['Decay > 25 and Place = "verge"', 'climb again'], ['Decay - Lean > 10', 'look'], ['Lean > 5', 'prop'],
])

test('the record made for a rule is decided by that rule, past all before it', () => {
  for (const rule of [0, 1, 3]) {
    const record = recordTakenBy(lowered(GATE), rule, TODAY)
    expect(record).not.toBeNull()
    expect(decideRecord(lowered(GATE), (name) => record![name] ?? null, TODAY)).toMatchObject({ status: 'labelled', rule })
  }
})

test('there is none for a rule that is never reached, or is switched off', () => {
  expect(recordTakenBy(lowered(GATE), 2, TODAY)).toBeNull()
  expect(recordTakenBy(lowered(switchRule(GATE, 0) as typeof GATE), 0, TODAY)).toBeNull()
  expect(recordTakenBy(lowered(GATE), 99, TODAY)).toBeNull()
})
