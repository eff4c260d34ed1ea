import type { KeptLanding } from '@dime-gate/contract/comparison'
import { differenceLines, placeWords, rankMoves, reasonRemark, reasonText, wayOf, wholeWords } from './comparison-words'

const label = (text: string): KeptLanding => ({ kind: 'label', label: text })
const RANKS = [{ label: 'Low', rank: 0 }, { label: 'High', rank: 2 }, { label: 'Middle', rank: 1 }]

test('a reason is told by its causes: one, some that would each do, some that it takes together', () => {
  expect([[['gate']], [['gate'], ['value']], [['gate', 'date']], []].map((sets) => [reasonText({ sets: sets as never }), reasonRemark({ sets: sets as never })])).toEqual([
    ['the gate changed', ''], ['the gate changed, or a value changed', 'each by itself would do'], ['the gate changed and the date moved', 'only together; none of them alone'],
    ['not explained by what was kept', 'a figure beneath another, or another table, is not kept as it was'],
  ])
})

test('records go up or down where both labels have a rank', () => {
  expect([wayOf({ from: label('Low'), to: label('High') }, RANKS), wayOf({ from: label('High'), to: label('Middle') }, RANKS), wayOf({ from: label('Low'), to: { kind: 'held' } }, RANKS), wayOf({ from: label('Low'), to: label('Other') }, RANKS)]).toEqual(['up', 'down', null, null])
  const moves = [{ from: label('Low'), to: label('High'), records: 5 }, { from: label('High'), to: label('Low'), records: 2 }, { from: null, to: label('Low'), records: 9 }]
  expect([rankMoves({ moves, ranks: RANKS }), rankMoves({ moves, ranks: [] })]).toEqual([{ up: 5, down: 2 }, null])
})

test('the whole is one sentence, also where nothing moved', () => {
  const stayed = [{ at: label('Low'), records: 1172 }]
  expect(wholeWords({ stayed, moves: [{ from: label('Low'), to: label('High'), records: 68 }, { from: null, to: label('Low'), records: 3 }, { from: label('Low'), to: null, records: 1 }] })).toBe('1,172 records kept their label, 68 moved, 3 new, 1 gone.')
  expect(wholeWords({ stayed, moves: [] })).toBe('Every one of 1,172 records got the same.')
})

test('what differs between the two is told a line each', () => {
  expect(differenceLines({ gate: { from: 'Felling, version 2', to: 'Felling, version 3' }, table: { from: 18, to: 21 }, asOf: { from: '2026-02-02', to: '2026-03-02' }, binding: ['Lean'], feeding: [{ name: 'Decay band', from: 1, to: null }], figures: ['Slenderness'] })).toEqual([
    'Felling, version 2 → Felling, version 3', 'fed by Decay band: version 1 → not at all', 'another column stands for Lean', 'the table: version 18 → 21', 'Slenderness is computed otherwise', 'as of 2 Feb 2026 → 2 Mar 2026',
  ])
  expect([placeWords(null, true), placeWords(null, false), placeWords(label(''), true), placeWords({ kind: 'held' }, true)]).toEqual(['gone', 'not there yet', 'no value', 'held'])
})
