import fc from 'fast-check'
import { COLUMN_TYPES, type ColumnReading, readCell } from '@dime-gate/core/value/read-cell'
import { BinaryRows } from '../database/copy-binary'
import { cellEncoder } from './cell-encoder'

const number: ColumnReading = { type: 'number', decimalMark: 'point', dateOrder: 'day', fraction: false }
const utf8 = new TextEncoder()
const [AS_WRITTEN, OTHERWISE] = [{ state: 'readable', isKept: false }, { state: 'readable', isKept: true }]

/** What becomes of texts, one after the other, with the bytes of each. */
function encoded(reading: ColumnReading, texts: readonly string[]): [object, string][] {
  const [encode, rows] = [cellEncoder(reading), new BinaryRows()]
  return texts.map((text) => {
    const place = rows.place
    return [encode(utf8.encode(text), 0, utf8.encode(text).length, rows), Buffer.from(rows.since(place)).toString('hex')]
  })
}
const fates = (texts: string[]) => encoded(number, texts).map(([fate]) => fate)

test('a value written as it would be written anew is kept once', () => {
  expect(fates(['35.0', '0', '-0.50', '1240'])).toEqual(Array(4).fill(AS_WRITTEN))
})

test('a value written otherwise is kept both ways', () => {
  expect(fates([' 1,240 ', '007', '00.5', '-0', '-0.00', '+3', '.5', '5.', '1e3', '\u22124'])).toEqual(Array(10).fill(OTHERWISE))
})

test('unreadable text and white space have no value, and stay as written', () => {
  expect(encoded(number, ['35 cm', '  ', ''])).toEqual([
    [{ state: 'unreadable', isKept: true }, 'ffffffff'], [{ state: 'blank', isKept: true }, 'ffffffff'], [{ state: 'blank', isKept: false }, 'ffffffff'],
  ])
})

const digits = fc.array(fc.constantFrom(...'0123456789'), { maxLength: 18 }).map((all) => all.join(''))
const written = fc.oneof(
  fc.tuple(fc.constantFrom('', '-', '+', ' '), digits, fc.constantFrom('', '.', ','), digits, fc.constantFrom('', '%', ' ')).map((parts) => parts.join('')),
  fc.tuple(fc.constantFrom('2026', '0000', '1900', '2024', '20x6', '26'), fc.constantFrom('02', '2', '13', '00', '12'), fc.constantFrom('28', '29', '31', '00', '9')).chain((parts) => fc.constantFrom('-', '.', '/').map((sign) => parts.join(sign))),
  fc.constantFrom('yes', 'No', 'true', ' false', '\u00a0', '\ufeff', '\x7f', '\x1f'), fc.string({ unit: 'binary', maxLength: 9 }), fc.string({ maxLength: 70 }),
).map((text) => text.replaceAll('\0', ''))
const readings = fc.record<ColumnReading>({
  type: fc.constantFrom(...COLUMN_TYPES), decimalMark: fc.constantFrom('point', 'comma'), dateOrder: fc.constantFrom('day', 'month', 'year'), fraction: fc.boolean(),
})

test('every cell is what reading it says, however many were written before it', () => fc.assert(fc.property(readings, fc.array(written, { maxLength: 40 }), (reading, texts) => {
  const expected = (text: string): [object, string] => {
    const [cell, rows] = [readCell(text, reading), new BinaryRows()]
    const place = rows.place
    if (cell.state !== 'readable') rows.null()
    else if (reading.type === 'date') rows.date(cell.value)
    else if (reading.type === 'boolean') rows.boolean(cell.value === 'true')
    else if (reading.type === 'text') rows.text(cell.value)
    else rows.numeric(cell.value)
    const isKept = cell.state === 'readable' ? cell.value !== text : text !== ''
    return [{ state: cell.state, isKept }, Buffer.from(rows.since(place)).toString('hex')]
  }
  const again = [...texts, ...texts]
  expect(encoded(reading, again)).toEqual(again.map(expected))
}), { numRuns: 2000 }))
