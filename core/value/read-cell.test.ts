import { readCell, type ColumnReading } from './read-cell'

const number: ColumnReading = { type: 'number', decimalMark: 'point', dateOrder: 'day', fraction: false }
const comma: ColumnReading = { ...number, decimalMark: 'comma' }
const percent: ColumnReading = { ...number, type: 'percent' }
const date: ColumnReading = { ...number, type: 'date' }

const value = (text: string, column: ColumnReading) => {
  const reading = readCell(text, column)
  return reading.state === 'readable' ? reading.value : reading.state === 'blank' ? null : `! ${reading.reason}`
}

describe('a number as written', () => {
  test.each([
    ['35', '35'], ['35.0', '35.0'], [' -4.5 ', '-4.5'], ['+7', '7'], ['.5', '0.5'], ['1,240', '1240'],
    ['12,345,678.9', '12345678.9'], ['1 240', '1240'], ['1’240.5', '1240.5'], ['\u22123', '-3'], ['1e3', '1000'],
    ['0.000000000000000000000000000000001', '0.000000000000000000000000000000001'],
    ['12345678901234567890123456789.12345', '12345678901234567890123456789.12345'],
  ])('%s reads as %s under a decimal point', (text, expected) => expect(value(text, number)).toBe(expected))

  test.each([['35,5', '35.5'], ['1.240', '1240'], ['1.240,75', '1240.75'], ['12', '12']])(
    '%s reads as %s under a decimal comma', (text, expected) => expect(value(text, comma)).toBe(expected))

  test.each([
    ['n/a', 'not-a-number'], ['35 cm', 'not-a-number'], ['1,24', 'not-a-number'], ['12,34,567', 'not-a-number'],
    ['.', 'not-a-number'], ['-', 'not-a-number'], ['1.2.3', 'not-a-number'], ['NaN', 'not-a-number'], ['Infinity', 'not-a-number'],
    ['1e999', 'out-of-range'], ['1e-999', 'out-of-range'], ['1e9999', 'out-of-range'],
    ['1234567890123456789012345678901234.5', 'too-many-digits'],
  ])('%s is unreadable: %s', (text, reason) => expect(value(text, number)).toBe(`! ${reason}`))

  test('white space alone is blank, never zero', () => {
    expect(value('', number)).toBeNull()
    expect(value(' \u00a0\t', number)).toBeNull()
  })
})

describe('a percentage as written', () => {
  test('72 %, 72% and 72 are one value in points', () => {
    expect(['72 %', '72%', '72'].map((text) => value(text, percent))).toEqual(['72', '72', '72'])
  })
  test('a column of fractions reads 0.72 as 72, and a percent sign still means points', () => {
    const fraction = { ...percent, fraction: true }
    expect(value('0.72', fraction)).toBe('72')
    expect(value('0.1', fraction)).toBe('10')
    expect(value('72 %', fraction)).toBe('72')
  })
  test('two signs are not a percentage', () => expect(value('7 %%', percent)).toBe('! not-a-number'))
})

describe('a date as written', () => {
  test.each([
    ['2026-03-02', '2026-03-02'], ['2/3/2026', '2026-03-02'], ['02.03.2026', '2026-03-02'], ['2 March 2026', '2026-03-02'],
    ['2-Mar-2026', '2026-03-02'], ['March 2, 2026', '2026-03-02'], ['2026/3/2', '2026-03-02'], ['29.02.2024', '2024-02-29'],
  ])('%s reads as %s with the day first', (text, expected) => expect(value(text, date)).toBe(expected))

  test.each([
    '2026-03-02T14:30', '2026-03-02 14:30:05.125', '2026-03-02T23:59:59Z', '2026-03-02T00:30:00+02:00', '2/3/2026 9:05', '2.3.2026, 14:30',
    '2 March 2026 2:30 pm', 'March 2, 2026 11:00 UTC', '2026-03-02T24:00:00', '2026-03-02 00:00:00',
  ])('%s is that day, in whatever zone it was written', (text) => expect(value(text, date)).toBe('2026-03-02'))

  test.each(['2026-03-02T', '2026-03-02T25:00', '2026-03-02 14:60', '14:30', '2026-03-02 14', '2026-02-30T10:00', `2026-03-02${' 1:00'.repeat(30)}`])(
    '%s is none', (text) => expect(value(text, date)).toMatch(/^! (not-a-date|no-such-day)$/),
  )

  test('the month comes first where the column says so', () => {
    expect(value('2/3/2026', { ...date, dateOrder: 'month' })).toBe('2026-02-03')
  })
  test.each([
    ['29.02.2026', 'no-such-day'], ['31/4/2026', 'no-such-day'], ['1/13/2026', 'no-such-day'], ['2/3/26', 'short-year'],
    ['soon', 'not-a-date'], ['2 Foo 2026', 'not-a-date'],
  ])('%s is unreadable: %s', (text, reason) => expect(value(text, date)).toBe(`! ${reason}`))
})

test('text is trimmed and brought to NFC', () => {
  expect(value(' Cafe\u0301 ', { ...number, type: 'text' })).toBe('Caf\u00e9')
})

test('booleans are words, and figures are not booleans', () => {
  const boolean = { ...number, type: 'boolean' as const }
  expect(['Yes', 'false', 'N', '1'].map((text) => value(text, boolean))).toEqual(['true', 'false', 'false', '! not-a-boolean'])
})

describe('figures as ledgers have them', () => {
  const number = (text: string, decimalMark: 'point' | 'comma' = 'point') => {
    const cell = readCell(text, { type: 'number', decimalMark, dateOrder: 'day', fraction: false })
    return cell.state === 'readable' ? cell.value : cell.state
  }
  test.each([
    ['€ 90.50', '90.50'], ['€90.50', '90.50'], ['90.50 €', '90.50'], ['$1,240', '1240'], ['-£5', '-5'], ['£ -5', '-5'], ['(35)', '-35'], ['(1,240.50)', '-1240.50'], ['($35)', '-35'], ['12\u00a0€', '12'],
  ])('%s is %s', (text, value) => expect(number(text)).toBe(value))
  test('under a decimal comma too', () => expect([number('€ 1.240,00', 'comma'), number('(35,5)', 'comma')]).toEqual(['1240.00', '-35.5']))
  test.each(['€', '()', '(-5)', '(+5)', '35 cm', '5 € 5', '((5))', '(5', '€ € 5', '5)'])('%s is none', (text) => expect(number(text)).toBe('unreadable'))
})
