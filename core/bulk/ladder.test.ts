import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { tableDecider } from './decide-table'
import { lowered } from '../rule/lower'

const INPUTS = [anInput('Decay', 'number'), anInput('Lean', 'number')]
/** A hundred records: Decay 0 to 99, Lean blank in every tenth. */
const table: Table = {
  length: 100,
  columns: new Map([
    ['Decay', numberColumn(Array.from({ length: 100 }, (_, at) => String(at)))],
    ['Lean', numberColumn(Array.from({ length: 100 }, (_, at) => (at % 10 === 0 ? null : String(at % 7))))],
  ]),
}
const gate = (cut: number, change = {}) => lowered(rulesGate(INPUTS, [[`Decay >= ${cut}`, 'fell'], ['Lean > 3', 'watch'], ['Decay < 5', 'sound']], change))

test('what a change does not touch is kept as it is, and what it does is not changed under anybody', () => {
  const decider = tableDecider(table, TODAY)
  const before = decider.decide(gate(60))
  const copies = before.caught.map(({ words }) => words.slice())
  const after = decider.decide(gate(61))
  expect(after.counts.caught[0]).toBe(39)
  expect(before.counts.caught[0]).toBe(40)
  expect(before.caught.map(({ words }) => words)).toEqual(copies)
  // No record of the third rule is concerned.
  expect(after.caught[2]).toBe(before.caught[2])
})

test('the same gate again is the same rows', () => {
  const decider = tableDecider(table, TODAY)
  const [first, second] = [decider.decide(gate(60)), decider.decide(gate(60))]
  expect(second.caught.map((row, at) => row === first.caught[at])).toEqual([true, true, true])
  expect(second.held).toBe(first.held)
})

test.each([
  ['an otherwise', { otherwise: [{ is: 'rest' }] }],
  ['another policy', { hitPolicy: 'unique' }],
  ['other outcomes', { rules: [{ condition: 'Decay >= 60', entries: [{ is: 'watch' }], note: '' }, { condition: 'Lean > 3', entries: [{ is: 'watch' }], note: '' }, { condition: 'Decay < 5', entries: [{ is: 'sound' }], note: '' }] }],
  ['a rule less', { rules: [{ condition: 'Decay >= 60', entries: [{ is: 'fell' }], note: '' }] }],
])('with %s it is gone through anew', (_, change) => {
  const decider = tableDecider(table, TODAY)
  decider.decide(gate(60))
  expect(decider.decide(gate(60, change))).toEqual(tableDecider(table, TODAY).decide(gate(60, change)))
})

test('blanks hold until an earlier rule has taken the record', () => {
  const { counts } = tableDecider(table, TODAY).decide(gate(60))
  expect(counts.caught[0]).toBe(40)
  // 0, 10, … 50 have no Lean, and might be watched.
  expect(counts.held).toBe(6)
})
