import { tableDecider } from '../bulk/decide-table'
import { lowered } from '../rule/lower'
import { readCondition } from '../rule/read-condition'
import { placesOf } from '../table/bitmap'
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { compareTrays } from './comparison'
import { exceptionCount, exceptionsOf } from './exceptions'
import { checkExpectations } from './expectation'
import { trayName, traysOf } from './trays'

const look = { colour: '#7fa99a', mark: 'disc' as const, rank: null }
const INPUTS = [anInput('Decay', 'number', { expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } } }), anInput('Species', 'text', { expected: { kind: 'list', values: ['oak', 'ash'] } })]
const outcomes = [{ name: 'Label', type: 'text' as const, labels: ['fell', 'watch', 'prop'].map((value) => ({ value, ...look })) }]
const gateWith = (cut: string) => lowered(rulesGate(INPUTS, [[`Decay >= ${cut}`, 'fell'], ['Species = "oak" and Decay >= 0', 'watch'], ['Decay > 10', 'fell']], { outcomes }))
const table: Table = {
  length: 8,
  columns: new Map<string, never>([
    ['Decay', numberColumn(['60', '59.5', '61', '140', null, { unreadable: '35 cm' }, '5', '10'])],
    ['Species', dictionaryColumn('text', ['oak', 'oak', 'ash', 'elm', 'oak', 'ash', 'oak', 'ash'])],
  ] as never),
}
const decider = tableDecider(table, TODAY)
const gate = gateWith('60')
const decisions = decider.decide(gate)
const trays = traysOf(gate, decisions)

test('trays come in the order of the labels, empty ones too, then why records got none', () => {
  expect(trays.map(({ key, records }) => [trayName(key), records])).toEqual([['label fell', 3], ['label watch', 2], ['label prop', 0], ['otherwise', 0], ['unplaced', 1], ['held', 2], ['contested', 0]])
  expect(trays[0]!.share).toBe(3 / 8)
  expect([...placesOf(trays[0]!.places)]).toEqual([0, 2, 3])
})

test('expectations are met or missed by counts and exact shares', () => {
  const check = (label: string, measure: 'count' | 'share', is: 'exactly' | 'at most' | 'at least', value: string) => checkExpectations([{ of: { kind: 'label', label }, measure, is, value }], trays, 8)[0]!
  expect(check('fell', 'count', 'exactly', '3')).toMatchObject({ isMet: true, actual: '3' })
  expect(check('fell', 'share', 'at most', '0.375')).toMatchObject({ isMet: true, actual: '0.375' })
  expect(check('watch', 'share', 'at least', '0.2500001').isMet).toBe(false)
  expect(check('gone', 'count', 'at most', '0')).toMatchObject({ isMet: true, actual: '0' })
})

test('exceptions by kind, with a tolerance beside the cuts and a condition of the gate’s own', () => {
  const highlight = readCondition('Species = "elm" and Decay > 100', INPUTS)
  const groups = exceptionsOf(gate, table, decisions, decider, TODAY, { tolerances: new Map([['Decay', '1']]), highlights: 'condition' in highlight ? [highlight.condition] : [] })
  expect(groups.map(({ kind, input, at, places }) => [kind, input, at, [...placesOf(places)]])).toEqual([
    ['unplaced', null, '', [7]],
    ['held', null, '', [4, 5]],
    ['unreadable', 'Decay', '', [5]],
    ['outside range', 'Decay', '', [3]],
    ['outside range', 'Species', '', [3]],
    ['on an edge', 'Decay', '10', [7]],
    ['on an edge', 'Decay', '60', [0]],
    ['short of an edge', 'Decay', '60', [1]],
    ['past an edge', 'Decay', '60', [2]],
    ['highlighted', null, 'Species = "elm" and Decay > 100', [3]],
  ])
  expect(exceptionCount(groups, table.length)).toBe(7)
})

test('a comparison says who moved from where to where, and adds up', () => {
  const { moves, changed } = compareTrays(trays, traysOf(gate, decider.decide(gateWith('59.5'))))
  expect(changed).toBe(1)
  expect(moves.filter(({ from, to }) => trayName(from) !== trayName(to)).map(({ from, to, places }) => [trayName(from), trayName(to), [...placesOf(places)]])).toEqual([['label watch', 'label fell', [1]]])
  expect(moves.reduce((sum, { records }) => sum + records, 0)).toBe(8)
})

test('a condition that is none is told by its place', () => expect(readCondition('Decai > 3', INPUTS)).toMatchObject({ problems: [{ code: 'unknown-name', from: 0, to: 5 }] }))
