import { plainColumn } from '@dime-gate/contract/table'
import { band } from '@dime-gate/core/testing/a-gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import type { Reason } from '@dime-gate/core/result/reason'
import type { Tray } from '@dime-gate/core/result/tray'
import { freeName } from './free-name'
import { count, counted, date, number, roundedText, share, typedNumber } from './format'
import { groupWords, intervalWords, isTrouble, reasonWords, refusalWords, runTitle, trayWords, withUnit } from './words'

const at = (value: string, included = true) => ({ at: value, included })
const gate = plainScale('x', givenNumber('x', ''), [{ at: '12', owner: 'above' }], [band('Sound'), band('Watch')])

test('limits say in words who owns their ends', () => {
  expect(intervalWords({ low: at('12'), high: at('25', false) })).toBe('12 to under 25')
  expect(intervalWords({ low: at('12', false), high: at('25') })).toBe('over 12 to 25')
  expect(intervalWords({ low: null, high: at('12', false) })).toBe('under 12')
  expect(intervalWords({ low: null, high: at('12') })).toBe('up to 12')
  expect(intervalWords({ low: at('-4.5'), high: null })).toBe('\u22124.5 and over')
  expect(intervalWords({ low: at('4', false), high: null })).toBe('over 4')
  expect(intervalWords({ low: null, high: null })).toBe('any value')
})

test('reasons say what is the matter, and which are trouble', () => {
  const words = (reason: Reason, label: string | null = null) => reasonWords(reason, gate, label)
  expect(words({ kind: 'unreadable', input: 'x', text: '35 cm' })).toBe('“35 cm” is not a number')
  expect(words({ kind: 'off the scale', input: 'x', end: 'ceiling', at: '100' })).toBe('beyond the ceiling of 100')
  expect(words({ kind: 'off the scale', input: 'x', end: 'floor', at: '0' })).toBe('below the floor of 0')
  expect(words({ kind: 'edge', of: 'x', at: '25', side: 'on' }, 'Weak')).toBe('exactly 25, so Weak')
  expect(words({ kind: 'edge', of: 'x', at: '25', side: 'short' })).toBe('just short of 25')
  expect(words({ kind: 'held', inputs: ['x'] })).toBe('blank, so held')
  expect(words({ kind: 'outside', input: 'x', value: '140' })).toBe('140 is not expected')
  expect(isTrouble({ kind: 'held', inputs: ['x'] })).toBe(false)
  expect(isTrouble({ kind: 'unreadable', input: 'x', text: '?' })).toBe(true)
})

test('with several inputs a reason says which is meant', () => {
  const many = { inputs: [givenNumber('Decay', '%'), { ...givenNumber('Due', ''), type: 'date' as const }] }
  const words = (reason: Reason) => reasonWords(reason, many, null)
  expect(words({ kind: 'unreadable', input: 'Due', text: 'soon' })).toBe('Due “soon” is not a date')
  expect(words({ kind: 'held', inputs: ['Decay', 'Due'] })).toBe('held for Decay and Due')
  expect(words({ kind: 'edge', of: 'Due', at: '2026-03-02', side: 'past' })).toBe('Due just past 2 Mar 2026')
  expect(words({ kind: 'contested' })).toBe('rules that give different labels are true')
  expect(words({ kind: 'unplaced' })).toBe('no rule takes it')
})

test('a refused cut is told between what it may lie', () => {
  expect(refusalWords({ code: 'out-of-order', low: at('12', false), high: at('40', false) })).toBe('This cut has to lie above 12 and below 40.')
  expect(refusalWords({ code: 'out-of-order', low: null, high: at('40', false) })).toBe('This cut has to lie below 40.')
  expect(refusalWords({ code: 'beyond-cuts', end: 'floor', cut: '12' })).toBe('The floor has to lie below 12.')
})

test('trays are named by what they hold', () => {
  const words = (tray: Tray) => trayWords(tray, gate)
  expect(words({ kind: 'rule', rule: 1 })).toBe('Watch')
  expect(words({ kind: 'edge', of: 'x', at: '12', side: 'on' })).toBe('on the cut at 12')
  expect(words({ kind: 'edge', of: 'x', at: '12', side: 'past' })).toBe('just past 12')
  expect(words({ kind: 'rule', rule: 9 })).toBe('that band')
  expect([words({ kind: 'unplaced' }), words({ kind: 'outside' }), words({ kind: 'on an edge' }), words({ kind: 'label', label: null })]).toEqual(['unplaced', 'not expected', 'on a cut', '(computed)'])
  expect(trayWords({ kind: 'rule', rule: 0 }, { ...gate, form: 'match', folds: false, lines: [{ values: [], entries: [{ is: 'Pinnate' }] }] })).toBe('in Pinnate')
})

test('a run is called by its name, or by its gate and number', () => {
  expect([null, 'Spring'].map((name) => runTitle({ name, gateName: 'Decay band', number: 3 }))).toEqual(['Decay band, run 3', 'Spring'])
})

test('a unit stands in brackets, where there is one', () => {
  expect([withUnit('Trunk', 'cm'), withUnit('Ward', '')]).toEqual(['Trunk (cm)', 'Ward'])
})

test('counts and shares', () => {
  expect([count(1240), counted(1, 'record'), counted(0, 'record'), counted(2, 'leaf', 'leaves')]).toEqual(['1,240', '1 record', '0 records', '2 leaves'])
  expect([share(1, 3), share(0, 0), share(5, 5)]).toEqual(['33.3 %', '0.0 %', '100.0 %'])
})

test('dates are unambiguous, and numbers have a true minus sign', () => {
  expect(date('2026-03-02')).toBe('2 Mar 2026')
  expect(number('-0.50')).toBe('\u22120.50')
})

test('figures are shortened, and nothing else', () => {
  expect(['2.416666666666666666', '-0.12345', '7', '1.5', 'Module 1.23456', ''].map((text) => roundedText(text, 4))).toEqual(['2.4167', '-0.1234', '7', '1.5', 'Module 1.23456', ''])
})

test('typed numbers are read as files are, and nothing else is one', () => {
  expect([' 12.50 ', '1,240', '-.5', '', 'many', '12 cm'].map(typedNumber)).toEqual(['12.5', '1240', '-0.5', null, null, null])
})

test('a name that is taken gets the first free number', () => {
  expect(freeName('Trees', ['Other'])).toBe('Trees')
  expect(freeName('Trees', ['TREES', 'trees 2', 'Trees 4'])).toBe('Trees 3')
})

test('a record of a table of groups is told as the group that it is', () => {
  const columns = [plainColumn(1, 'Ward'), plainColumn(2, 'Planted, year'), plainColumn(3, 'Trees')]
  const by = [1, 2].map((own) => ({ column: 9, part: 'whole' as const, own }))
  expect(groupWords({ columns, rollUp: { table: 8, by } })).toBe(', one for each ward and planted, year')
  expect(groupWords({ columns, rollUp: null })).toBe('')
})
