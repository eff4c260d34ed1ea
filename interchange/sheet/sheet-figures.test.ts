import { dateText, figureText, lookOfFormat, percentText } from './sheet-figures'

test.each([
  ['12', '12'],
  ['0.30000000000000004', '0.3'],
  ['7.0000000000000007E-2', '0.07'],
  ['1E+20', '100000000000000000000'],
  ['-0', '0'],
  ['-1.5', '-1.5'],
  ['123456789012345680', '123456789012346000'],
  ['n/a', 'n/a'],
  ['', ''],
])('the figure %s is written %s', (stored, text) => expect(figureText(stored)).toBe(text))

test.each([
  ['0.72', '72%'],
  ['1', '100%'],
  ['-0.125', '-12.5%'],
  ['0.07', '7%'],
  ['x', 'x'],
])('the percent %s is written %s', (stored, text) => expect(percentText(stored)).toBe(text))

describe('days', () => {
  test.each([
    ['1', '1900-01-01'],
    ['59', '1900-02-28'],
    ['61', '1900-03-01'],
    ['45000', '2023-03-15'],
    ['45000.5', '2023-03-15T12:00:00'],
    ['0.75', '18:00:00'],
    ['2958465', '9999-12-31'],
  ])('from 1900, %s is %s', (stored, text) => expect(dateText(stored, false)).toBe(text))
  test.each([
    ['0', '1904-01-01'],
    ['43538', '2023-03-15'],
  ])('from 1904, %s is %s', (stored, text) => expect(dateText(stored, true)).toBe(text))
  test('what is no day stays what it is', () =>
    expect([dateText('-1', false), dateText('1e9', false), dateText('x', false)]).toEqual(['-1', '1000000000', 'x']))
  test('seconds are not lost to rounding', () =>
    expect(dateText(String(45000 + (3600 * 13 + 59) / 86_400), false)).toBe('2023-03-15T13:00:59'))
})

test.each<[number, string | null, string]>([
  [0, null, 'figure'],
  [9, null, 'percent'],
  [10, null, 'percent'],
  [14, null, 'date'],
  [22, null, 'date'],
  [45, null, 'date'],
  [49, null, 'text'],
  [4, null, 'figure'],
  [170, 'dd\\/mm\\/yyyy', 'date'],
  [170, '[$-409]d-mmm-yy;@', 'date'],
  [170, '[h]:mm', 'date'],
  [170, '0.0%', 'percent'],
  [170, '@', 'text'],
  [170, 'General', 'figure'],
  [170, '0.00" days"', 'figure'],
  [170, '[Red]#,##0', 'figure'],
  [170, '0.0\\d', 'figure'],
  [170, '_-* #,##0.00_-', 'figure'],
  [170, '"Due "d mmmm', 'date'],
])('the format %s %s makes of a number a %s', (id, code, look) => expect(lookOfFormat(id, code)).toBe(look))
