import fc from 'fast-check'
import { dayNumber } from '../value/calendar'
import type { Scale } from './document'
import { movedDay, movedMonths, numberOnLine, offNumbers, onNumbers, roundDay, roundMonths, textOnLine } from './scale-axis'

const scale = (at: string[], ends: Partial<Scale> = {}): Scale => ({ on: 'X', cuts: at.map((one) => ({ at: one, owner: 'above' })), floor: null, ceiling: null, ...ends })

test('days are counted from 1970, lengths of time in days', () => {
  expect(['1970-01-02', '1969-12-31', '2024-02-29'].map((text) => numberOnLine(text, 'date'))).toEqual(['1', '-1', '19782'])
  expect(['P3D', 'PT12H', '-P1DT6H'].map((text) => numberOnLine(text, 'days and time duration'))).toEqual(['3', '0.5', '-1.25'])
  expect([textOnLine('19782', 'date'), textOnLine('0.5', 'days and time duration'), textOnLine('12.30', 'number')]).toEqual(['2024-02-29', 'PT12H', '12.30'])
})

test('what was not moved stands as it stood', () => {
  const before = scale(['PT36H', 'P3D'], { floor: { at: 'PT24H', included: true } })
  const numbers = onNumbers(before, 'days and time duration')
  expect(numbers).toMatchObject({ cuts: [{ at: '1.5' }, { at: '3' }], floor: { at: '1' } })
  const moved = { ...numbers, cuts: numbers.cuts.with(1, { at: '4', owner: 'above' }) }
  expect(offNumbers(moved, 'days and time duration', before)).toMatchObject({ cuts: [{ at: 'PT36H' }, { at: 'P4D' }], floor: { at: 'PT24H', included: true } })
})

test('every day goes there and back', () => {
  fc.assert(fc.property(fc.integer({ min: -700_000, max: 2_900_000 }), (day) => {
    expect(numberOnLine(textOnLine(String(day), 'date'), 'date')).toBe(String(day))
  }))
})

test('days go on by days, by months or by years', () => {
  const moved = (iso: string, steps: number, step: number) => textOnLine(String(movedDay(Number(numberOnLine(iso, 'date')), steps, step)), 'date')
  expect([moved('1999-12-31', 1, 1), moved('1999-12-31', 1, 10), moved('1999-12-15', -1, 10), moved('1999-12-01', -1, 10), moved('2000-01-01', -1, 10)]).toEqual(['2000-01-01', '2000-01-01', '1999-12-01', '1999-11-01', '1999-12-01'])
  expect([moved('1999-05-02', 1, 365), moved('1999-05-02', -1, 365), moved('1999-01-01', -1, 365), moved('1999-01-01', 10, 365)]).toEqual(['2000-01-01', '1999-01-01', '1998-01-01', '2009-01-01'])
})

test('a day is as round as the hand can aim', () => {
  const day = dayNumber({ year: 1999, month: 11, day: 20 })
  expect([1, 20, 200].map((step) => textOnLine(String(roundDay(day, step)), 'date'))).toEqual(['1999-11-20', '1999-12-01', '2000-01-01'])
  expect(textOnLine(String(roundDay(dayNumber({ year: 1999, month: 12, day: 20 }), 20)), 'date')).toBe('2000-01-01')
})

test('ages lie along a line by their months, and move by months or by years', () => {
  expect(['P10Y', 'P2Y3M', '-P5M'].map((text) => numberOnLine(text, 'years and months duration'))).toEqual(['120', '27', '-5'])
  expect(['120', '27', '-5', '0', '11.6'].map((at) => textOnLine(at, 'years and months duration'))).toEqual(['P10Y', 'P2Y3M', '-P5M', 'P0M', 'P1Y'])
  expect([roundMonths(127, 1), roundMonths(127, 6), roundMonths(126.4, 1)]).toEqual([127, 132, 126])
  expect([movedMonths(127, 1, 1), movedMonths(127, 1, 6), movedMonths(127, -1, 6), movedMonths(120, -1, 6), movedMonths(120, 10, 6)]).toEqual([128, 132, 120, 108, 240])
})
