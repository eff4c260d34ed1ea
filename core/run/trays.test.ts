import { tableDecider } from '../bulk/decide-table'
import type { RulesGate } from '../gate/document'
import { lowered } from '../rule/lower'
import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { compareTrays } from './comparison'
import { trayName, traysOf } from './trays'

const INPUTS = [anInput('Decay', 'number')]
const tableOf = (values: (string | null)[]): Table => ({ length: values.length, columns: new Map([['Decay', numberColumn(values)]]) })
const traysFor = (gate: RulesGate, table: Table) => traysOf(lowered(gate), tableDecider(table, TODAY).decide(lowered(gate)))
const told = (gate: RulesGate, values: (string | null)[]) => traysFor(gate, tableOf(values)).filter(({ records }) => records > 0).map(({ key, records }) => [trayName(key), records])

test('rules of one label share a tray, wherever they stand', () => {
  const gate = rulesGate(INPUTS, [['Decay < 5', 'look'], ['Decay < 40', 'leave'], ['-', 'look']])
  expect(told(gate, ['1', '10', '50', '60'])).toEqual([['label look', 3], ['label leave', 1]])
})

test('an empty table has every tray, empty, and no share of nothing', () => {
  const trays = traysFor(rulesGate(INPUTS, [['Decay < 5', 'look']]), tableOf([]))
  expect(trays.map(({ key, records, share }) => [trayName(key), records, share])).toEqual([
    ['label look', 0, 0],
    ['otherwise', 0, 0],
    ['unplaced', 0, 0],
    ['held', 0, 0],
    ['contested', 0, 0],
  ])
})

test('a label named like a status is still a label', () => {
  const gate = rulesGate(INPUTS, [['Decay < 5', 'held'], ['Decay < 9', 'otherwise']])
  expect(told(gate, ['1', '6', null, '20'])).toEqual([['label held', 1], ['label otherwise', 1], ['unplaced', 1], ['held', 1]])
})

test('otherwise is counted apart, also where it gives a label that a rule gives', () => {
  const gate = rulesGate(INPUTS, [['Decay < 5', 'look'], ['Decay > 50', 'leave']], { otherwise: [{ is: 'look' }] })
  expect(told(gate, ['1', '20', '30', '60'])).toEqual([['label look', 1], ['label leave', 1], ['otherwise', 2]])
})

test('computed labels are in one tray, told as computed', () => {
  const gate = rulesGate(INPUTS, [], { rules: [{ condition: 'Decay > 5', entries: [{ feel: 'string(Decay)' }], note: '' }] })
  expect(told(gate, ['6', '7', '1'])).toEqual([['label (computed)', 2], ['unplaced', 1]])
})

test('who must agree and does not is contested', () => {
  const gate = rulesGate(INPUTS, [['Decay > 5', 'a'], ['Decay > 50', 'b']], { hitPolicy: 'unique' })
  expect(told(gate, ['1', '6', '60'])).toEqual([['label a', 1], ['unplaced', 1], ['contested', 1]])
})

test('between gates with other labels every record is somewhere on both sides', () => {
  const table = tableOf(['1', '6', '60', null])
  const before = traysFor(rulesGate(INPUTS, [['Decay < 5', 'sound'], ['-', 'weak']]), table)
  const after = traysFor(rulesGate(INPUTS, [['Decay < 10', 'sound'], ['Decay < 50', 'weak']]), table)
  const { moves, changed } = compareTrays(before, after)
  expect(moves.map(({ from, to, records }) => [trayName(from), trayName(to), records])).toEqual([
    ['label sound', 'label sound', 1],
    ['label weak', 'label sound', 1],
    ['label weak', 'unplaced', 1],
    ['held', 'held', 1],
  ])
  expect(changed).toBe(2)
})
