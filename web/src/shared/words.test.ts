import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { freeName } from './free-name'
import { count, counted, date, number, share, typedNumber } from './format'
import { intervalWords, isTrouble, reasonWords, refusalWords, trayWords, withUnit } from './words'

const at = (value: string, included = true) => ({ at: value, included })
const band = (label: string) => ({ label, colour: '#7fa99a', mark: 'disc' as const })
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
  expect(reasonWords({ kind: 'unreadable', text: '35 cm' })).toBe('“35 cm” is not a number')
  expect(reasonWords({ kind: 'off-the-scale', end: 'ceiling', at: '100' })).toBe('beyond the ceiling of 100')
  expect(reasonWords({ kind: 'off-the-scale', end: 'floor', at: '0' })).toBe('below the floor of 0')
  expect(reasonWords({ kind: 'on-a-cut', at: '25', owner: 'Weak' })).toBe('exactly 25, so Weak')
  expect([{ kind: 'blank' } as const, { kind: 'unreadable', text: 'x' } as const].map(isTrouble)).toEqual([false, true])
})

test('a refused cut is told between what it may lie', () => {
  expect(refusalWords({ code: 'out-of-order', low: at('12', false), high: at('40', false) })).toBe('This cut has to lie above 12 and below 40.')
  expect(refusalWords({ code: 'out-of-order', low: null, high: at('40', false) })).toBe('This cut has to lie below 40.')
  expect(refusalWords({ code: 'beyond-cuts', end: 'floor', cut: '12' })).toBe('The floor has to lie below 12.')
})

test('trays are named by what they hold', () => {
  expect(trayWords({ kind: 'band', band: 1 }, gate)).toBe('Watch')
  expect(trayWords({ kind: 'cut', cut: 0 }, gate)).toBe('on the cut at 12')
  expect(trayWords({ kind: 'band', band: 9 }, gate)).toBe('that band')
  expect(trayWords({ kind: 'unplaced' }, gate)).toBe('unplaced')
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

test('typed numbers are read as files are, and nothing else is one', () => {
  expect([' 12.50 ', '1,240', '-.5', '', 'many', '12 cm'].map(typedNumber)).toEqual(['12.5', '1240', '-0.5', null, null, null])
})

test('a name that is taken gets the first free number', () => {
  expect(freeName('Trees', ['Other'])).toBe('Trees')
  expect(freeName('Trees', ['TREES', 'trees 2', 'Trees 4'])).toBe('Trees 3')
})
