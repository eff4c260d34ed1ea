import fc from 'fast-check'
import { Decimal } from './number'
import { dayTimeDuration, parseDate, parseDateTime, parseDuration, parseTemporal, parseTime, temporalText, yearMonthDuration } from './temporal'

describe('dates', () => {
  test.each([
    ['2026-03-02', '2026-03-02'],
    ['2024-02-29', '2024-02-29'],
    ['0001-01-01', '0001-01-01'],
    ['0000-02-29', '0000-02-29'],
    ['-0044-03-15', '-0044-03-15'],
    ['12026-01-01', '12026-01-01'],
    ['999999999-12-31', '999999999-12-31'],
  ])('%s is read and written as %s', (text, written) => expect(temporalText(parseDate(text)!)).toBe(written))

  test.each([
    ['a day that February has not', '2026-02-29'],
    ['a thirteenth month', '2026-13-01'],
    ['no day', '2026-03-00'],
    ['two figures for the year', '26-03-02'],
    ['a year of too many figures', '1999999999-01-01'],
    ['a year with a zero before it', '012026-01-01'],
    ['something behind it', '2026-03-02x'],
    ['white space before it', ' 2026-03-02'],
    ['other signs', '2026/03/02'],
  ])('%s is no date: %s', (_, text) => expect(parseDate(text)).toBeNull())
})

describe('times', () => {
  test.each([
    ['10:30:00', '10:30:00'],
    ['00:00:00Z', '00:00:00Z'],
    ['23:59:59.123456789', '23:59:59.123456789'],
    ['10:30:00.500', '10:30:00.5'],
    ['10:30:00+02:00', '10:30:00+02:00'],
    ['10:30:00-00:30', '10:30:00-00:30'],
    ['10:30:00+00:00', '10:30:00Z'],
    ['10:30:00z', '10:30:00Z'],
    ['10:30:00+01:00:30', '10:30:00+01:00:30'],
  ])('%s is read and written as %s', (text, written) => expect(temporalText(parseTime(text)!)).toBe(written))

  test.each(['24:00:00', '10:60:00', '10:30:60', '10:30', '1:30:00', '10:30:00+15:00', '10:30:00.'])('%s is no time', (text) => expect(parseTime(text)).toBeNull())

  test('a date by itself stands for its midnight', () => {
    expect(temporalText(parseDateTime('2026-03-02')!)).toBe('2026-03-02T00:00:00')
    expect(parseDateTime('2026-03-02T')).toBeNull()
    expect(parseDateTime('2026-03-02T10:00:00T10:00:00')).toBeNull()
  })
})

describe('durations', () => {
  test.each([
    ['P1D', 'P1D'],
    ['PT36H', 'P1DT12H'],
    ['P0D', 'PT0S'],
    ['-PT0.5S', '-PT0.5S'],
    ['P1DT1H1M1S', 'P1DT1H1M1S'],
    ['PT3600S', 'PT1H'],
    ['P14M', 'P1Y2M'],
    ['P0Y', 'P0M'],
    ['-P1Y', '-P1Y'],
  ])('%s is read and written as %s', (text, written) => expect(temporalText(parseDuration(text)!)).toBe(written))

  test.each(['P', 'PT', 'P1DT', '-P', 'P1Y1D', 'P1.5D', '1D', 'P1W', 'PT1M1H', 'P 1D'])('%s is no duration', (text) => expect(parseDuration(text)).toBeNull())

  test('minutes and months are told apart by the T', () => expect([parseDuration('PT5M')!.kind, parseDuration('P5M')!.kind]).toEqual(['days and time duration', 'years and months duration']))
})

test('whatever is written is read again as the same', () => {
  const value = fc.oneof(
    fc.integer({ min: -900_000, max: 3_000_000 }).map((day) => ({ kind: 'date' as const, day })),
    fc.tuple(fc.integer({ min: 0, max: 86_399 }), fc.integer({ min: 0, max: 999_999_999 }), fc.option(fc.integer({ min: -50_400, max: 50_400 }), { nil: null }))
      .map(([seconds, nanos, offset]) => ({ kind: 'time' as const, nanos: seconds * 1e9 + nanos, offset })),
    fc.integer({ min: -1e9, max: 1e9 }).map(yearMonthDuration),
    fc.tuple(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 8 })).map(([size, places]) => dayTimeDuration(new Decimal(size).div(10 ** places))),
  )
  fc.assert(fc.property(value, (one) => expect(JSON.stringify(parseTemporal(temporalText(one)))).toBe(JSON.stringify(one))), { numRuns: 500 })
})
