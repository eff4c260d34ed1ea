import type { ColumnReading } from '@dime-gate/core/value/read-cell'
import { cellEncoder } from './cell-encoder'
import { toCopyText } from '../database/copy-text'

const number: ColumnReading = { type: 'number', decimalMark: 'point', dateOrder: 'day', fraction: false }
const NONE = '\\N'

test('a value written as it is read is kept once', () => {
  expect(cellEncoder(number)('35.0')).toEqual({ state: 'readable', value: '35.0', written: null })
})

test('a value written otherwise is kept both ways', () => {
  expect(cellEncoder(number)(' 1,240 ')).toEqual({ state: 'readable', value: '1240', written: ' 1,240 ' })
})

test('unreadable text and white space have no value, and stay as written', () => {
  const encode = cellEncoder(number)
  expect(encode('35 cm')).toEqual({ state: 'unreadable', value: NONE, written: '35 cm' })
  expect(encode('  ')).toEqual({ state: 'blank', value: NONE, written: '  ' })
  expect(encode('')).toEqual({ state: 'blank', value: NONE, written: null })
})

test('what is remembered is what would be read anew, however many different texts there are', () => {
  const [one, many] = [cellEncoder(number), cellEncoder(number)]
  for (let at = 0; at < 30_000; at++) many(String(at))
  for (const text of ['7', '29999', 'x', '0.5', '7']) expect(many(text)).toEqual(one(text))
})

test('tabs, line ends and backslashes are safe in COPY text', () => {
  expect(toCopyText('a\tb\nc\rd\\N')).toBe('a\\tb\\nc\\rd\\\\N')
  expect(toCopyText('plain')).toBe('plain')
})
