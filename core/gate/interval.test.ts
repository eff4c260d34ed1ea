import fc from 'fast-check'
import { type Bound, type Interval, intervalText, isEmptyInterval, isInside } from './interval'

const at = (value: string, included = true): Bound => ({ at: value, included })

test.each<[Interval, string]>([
  [{ low: null, high: null }, '-'],
  [{ low: null, high: at('12', false) }, '< 12'],
  [{ low: null, high: at('12') }, '<= 12'],
  [{ low: at('40.50'), high: null }, '>= 40.5'],
  [{ low: at('40', false), high: null }, '> 40'],
  [{ low: at('12'), high: at('25', false) }, '[12..25)'],
  [{ low: at('-1', false), high: at('0.0') }, '(-1..0]'],
])('%j is the unary test %s', (interval, text) => expect(intervalText(interval)).toBe(text))

test('ends belong to an interval as they say', () => {
  const interval = { low: at('12'), high: at('25', false) }
  expect(['11.999', '12', '12.000', '24.999', '25', '25.0'].map((value) => isInside(value, interval))).toEqual([false, true, true, true, false, false])
})

test('an interval is empty where no number can lie in it', () => {
  expect(isEmptyInterval({ low: at('5'), high: at('5') })).toBe(false)
  expect(isEmptyInterval({ low: at('5'), high: at('5.0', false) })).toBe(true)
  expect(isEmptyInterval({ low: at('6'), high: at('5') })).toBe(true)
  expect(isEmptyInterval({ low: at('6'), high: null })).toBe(false)
})

test('intervals that meet at a cut share no value and leave none out', () => {
  const decimal = fc.integer({ min: -60, max: 60 }).map((tenths) => String(tenths / 10))
  fc.assert(fc.property(decimal, decimal, fc.boolean(), (value, cut, below) => {
    const lower = isInside(value, { low: null, high: at(cut, below) })
    const upper = isInside(value, { low: at(cut, !below), high: null })
    expect(lower).not.toBe(upper)
  }))
})
