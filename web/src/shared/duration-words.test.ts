import { durationWords, monthWords, readMonths } from './duration-words'
import { intervalWords, placeWords, valueWords } from './words'

test('lengths of time are told in words', () => {
  expect(['P37Y4M', 'P1Y', 'P1M', 'P0M', '-P2Y1M'].map(durationWords)).toEqual(['37 years 4 months', '1 year', '1 month', '0 years', '−2 years 1 month'])
  expect(['P28D', 'P1DT6H', 'PT90M', 'PT0S', '-PT1.5S', 'P1200D'].map(durationWords)).toEqual(['28 days', '1 day 6 hours', '1 hour 30 minutes', '0 days', '−1.5 seconds', '1200 days'])
  expect(['Park', 'P', '12', '2024-01-01'].map(durationWords)).toEqual([null, null, null, null])
})

test('so are the stretches of a scale on them', () => {
  expect(intervalWords({ low: { at: 'P10Y', included: true }, high: { at: 'P25Y6M', included: false } })).toBe('10 years to under 25 years 6 months')
  expect(['P730D', '2024-01-02', '7'].map(placeWords)).toEqual(['730 days', '2 Jan 2024', '7'])
  // A text that looks like one is a text.
  expect(['P12D', 'Park'].map(valueWords)).toEqual(['P12D', 'Park'])
})

test('years and months are typed as they are said, and shorter', () => {
  expect(['10', '10 years', '2 y 3 m', '2y3m', '18 months', 'P10Y6M', '-1', '0'].map(readMonths)).toEqual(['120', '120', '27', '27', '18', '126', '-12', '0'])
  expect(['', 'soon', '10 days', '2.5', 'y', 'P10D'].map(readMonths)).toEqual([null, null, null, null, null, null])
  for (const months of [0, 1, 11, 12, 27, -5, -30]) expect(readMonths(monthWords(months, 'short'))).toBe(String(months))
})
