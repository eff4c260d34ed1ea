import { lowered } from '../rule/lower'
import { conditionText } from '../rule/condition'
import { anInput, rulesGate } from '../testing/a-gate'
import type { RulesGate, SharedCondition } from './document'
import { addCondition, editCondition, freeConditionName, inlineCondition, parcelOf, renameCondition, usesOf, withParcel } from './named-conditions'

const weak: SharedCondition = { id: 'a', name: 'Weak stem', feel: 'Decay >= 25 and Lean > 10' }
const near: SharedCondition = { id: 'b', name: 'Near people', feel: 'Place in ("school", "play area") or Weak stem' }
const INPUTS = [anInput('Decay', 'number'), anInput('Lean', 'number'), anInput('Place', 'text')]
const GATE = rulesGate(INPUTS, [['Near people and Decay > 40', 'fell'], ['not(Weak stem)', 'leave'], ['Lean > 5', 'prop']], { conditions: [weak, near] })
const conditions = (gate: RulesGate) => gate.rules.map(({ condition }) => condition)

test('where a condition is used', () => {
  expect(usesOf(GATE, 'Weak stem')).toEqual({ rules: [1], conditions: ['Near people'] })
  expect(usesOf(GATE, 'Near people')).toEqual({ rules: [0], conditions: [] })
})

test('another name goes along to every use, and nothing else changes', () => {
  const renamed = renameCondition(GATE, 'a', 'Rotten')
  expect(conditions(renamed)).toEqual(['Near people and Decay > 40', 'not(Rotten)', 'Lean > 5'])
  expect(renamed.conditions).toEqual([{ ...weak, name: 'Rotten' }, { ...near, feel: 'Place in ("school", "play area") or Rotten' }])
  expect(renameCondition(renamed, 'a', 'Weak stem')).toEqual(GATE)
  expect(renameCondition(GATE, 'c', 'Nobody')).toBe(GATE)
})

test('taken out, what it says stands in its place, in brackets where they are needed', () => {
  const inlined = inlineCondition(GATE, 'a')
  expect(inlined.conditions).toEqual([{ ...near, feel: 'Place in ("school", "play area") or Decay >= 25 and Lean > 10' }])
  expect(conditions(inlined)).toEqual(['Near people and Decay > 40', 'not(Decay >= 25 and Lean > 10)', 'Lean > 5'])
  const without = inlineCondition(inlined, 'b')
  expect(conditions(without)[0]).toBe('(Place in ("school", "play area") or Decay >= 25 and Lean > 10) and Decay > 40')
  expect('conditions' in without).toBe(false)
  const all = (gate: RulesGate) => lowered(gate).rules.map(({ condition }) => conditionText(condition))
  expect(all(without)).toEqual(all(GATE))
})

test('one that nobody has written yet is false where it is taken out', () => {
  const empty = addCondition(rulesGate(INPUTS, [['New or Lean > 1', 'x']]), { id: 'n', name: 'New', feel: ' ' })
  expect(conditions(inlineCondition(empty, 'n'))).toEqual(['false or Lean > 1'])
})

test('a parcel holds what is needed, each after those that it needs', () => {
  const figure = anInput('Slack', 'number', { source: { kind: 'figure', feel: 'Decay - Lean' } })
  const gate = editCondition({ ...GATE, inputs: [...INPUTS, figure] }, 'a', 'Slack > 3')
  const { conditions, inputs } = parcelOf(gate, 'b')
  expect(conditions.map(({ id }) => id)).toEqual(['a', 'b'])
  expect(inputs.map(({ name }) => name)).toEqual(['Place', 'Decay', 'Lean', 'Slack'])
  expect(parcelOf(gate, 'nobody')).toEqual({ conditions: [], inputs: [] })
})

test('a gate takes a parcel over: what it has stays, what it carries says what the parcel says', () => {
  const own = rulesGate([anInput('Decay', 'number', { unit: '%' })], [['Old name', 'x']], { conditions: [{ id: 'a', name: 'Old name', feel: 'Decay > 1' }] })
  const taken = withParcel(own, parcelOf(GATE, 'b'))
  if ('quarrel' in taken) throw new Error(taken.quarrel)
  expect(taken.gate.conditions).toEqual([weak, near])
  expect(conditions(taken.gate)).toEqual(['Weak stem'])
  expect(taken.gate.inputs).toEqual([own.inputs[0], INPUTS[2], INPUTS[1]])
  expect(taken.added.map(({ name }) => name)).toEqual(['Place', 'Lean'])
})

test.each([
  ['an input of another type', rulesGate([anInput('Lean', 'text')], []), 'Lean'],
  ['an input of the condition’s name', rulesGate([anInput('Weak stem', 'number')], []), 'Weak stem'],
  ['another condition of its name', rulesGate([], [], { conditions: [{ id: 'z', name: 'Near people', feel: 'true' }] }), 'Near people'],
])('a parcel does not go with a gate that has %s', (_, gate, quarrel) => {
  expect(withParcel(gate, parcelOf(GATE, 'b'))).toEqual({ quarrel })
})

test('a free name is one that nothing has', () => {
  const gate = addCondition(GATE, { id: 'c', name: 'Condition 1', feel: '' })
  expect(freeConditionName(gate, ['Condition 2'])).toBe('Condition 3')
})
