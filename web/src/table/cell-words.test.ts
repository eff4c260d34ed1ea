import type { Column } from '@dime-gate/contract/table'
import { cellInput, cellWords, expectedWords, headWords, listedWords, stateOf } from './cell-words'

const column = (type: Column['type'], more: Partial<Column> = {}) =>
  ({ type, fullMarks: null, expectedLow: null, expectedHigh: null, ...more }) as Column

test('a cell is a value, blank, unreadable, or outside what is expected', () => {
  expect([
    stateOf(['3', null], column('number')),
    stateOf([null, null], column('number')),
    stateOf([null, ' '], column('number')),
    stateOf([null, '35 cm'], column('number')),
    stateOf(undefined, column('text')),
  ]).toEqual(['value', 'blank', 'blank', 'unreadable', 'value'])
  const marks = column('number', { fullMarks: '5' })
  expect(['5', '6', '0', '-1'].map((value) => stateOf([value, null], marks))).toEqual(['value', 'outside', 'value', 'outside'])
  const due = column('date', { expectedLow: '2026-01-01' })
  expect(['2025-12-31', '2026-01-01'].map((value) => stateOf([value, null], due))).toEqual(['outside', 'value'])
})

test('it is told as people read it, and opened as they type it', () => {
  expect([
    cellWords(['2026-03-02', '2.3.2026'], column('date')),
    cellWords(['-1.5', null], column('number')),
    cellWords(['true', 'Y'], column('boolean')),
    cellWords([null, 'n/a'], column('number')),
    cellWords([null, null], column('text')),
  ]).toEqual(['2 Mar 2026', '\u22121.5', 'yes', 'n/a', 'blank'])
  expect([
    cellInput(['2026-03-02', '2.3.2026'], column('date')),
    cellInput(['-1.5', '-1.50'], column('number')),
    cellInput([null, '35 cm'], column('number')),
    cellInput(['Oak', ' Oak'], column('text')),
    cellInput([null, null], column('text')),
  ]).toEqual(['2026-03-02', '-1.5', '35 cm', ' Oak', ''])
})

test('a head tells what its column holds, and where that comes from', () => {
  const head = (type: Column['type'], more: Partial<Column> = {}) => headWords(column(type, { unit: '', feel: null, drawn: null, ...more }))
  const label = (from: 'version' | 'draft', outcome: number) => ({ drawn: { kind: 'label' as const, gate: 1, from, outcome } })
  expect([head('number', { unit: 'cm' }), head('boolean'), head('number', { fullMarks: '5.5' }), head('number', { feel: '1 + 1' }), head('number', { unit: 'days', feel: '1' })]).toEqual(['cm', 'yes or no', 'of 5.5', 'number, computed', 'days, computed'])
  expect([head('text', label('version', 0)), head('text', label('draft', 0)), head('number', label('draft', 1))]).toEqual(['label, last version', 'label, draft', 'number, draft'])
})

test('what is expected is told with its ends', () => {
  expect([
    expectedWords(column('number', { fullMarks: '5' })),
    expectedWords(column('date', { expectedHigh: '2026-03-02' })),
    expectedWords(column('boolean')),
    expectedWords(column('percent', { expectedLow: '0' })),
  ]).toEqual(['a number from 0 to 5', 'a date, as 2 Mar 2026 or 2026-03-02 up to 2 Mar 2026', 'yes or no', 'a number of percent from 0'])
})

test('what is computed is told in a list to as many places as anybody reads', () => {
  const cell: [string, null] = ['2.666666666666666666666666666666667', null]
  expect([listedWords(cell, { type: 'number', feel: 'mean(Modules)', drawn: null }), cellWords(cell, { type: 'number' })]).toEqual(['2.6667', '2.666666666666666666666666666666667'])
  expect(listedWords(cell, { type: 'number', feel: null, drawn: null })).toBe(cell[0])
  expect([listedWords([null, null], { type: 'number', feel: '1', drawn: null }), listedWords(undefined, { type: 'number', feel: '1', drawn: null })]).toEqual(['blank', '…'])
})
