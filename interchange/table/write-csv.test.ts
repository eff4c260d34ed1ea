import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import { DELIMITERS, recordsOfText } from './read-records'
import { csvText } from './write-csv'

const value = fc.oneof(fc.constantFrom('', '"', '\n', '\r', '\r\n', ',', ';', ' ', 'a "b"', '\u20ac'), fc.string({ maxLength: 8 }))
const records = fc.integer({ min: 1, max: 4 }).chain((width) => fc.array(fc.array(value, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 8 }))

test('two readers, this one and another, read back what was written', () => {
  fc.assert(fc.property(records, fc.constantFrom(...DELIMITERS), fc.constantFrom('\n', '\r\n'), (written, delimiter, lineEnd) => {
    const text = csvText(written, { delimiter, lineEnd })
    expect(parse(text, { delimiter, record_delimiter: lineEnd })).toEqual(written)
    expect(recordsOfText(text, delimiter)).toEqual({ records: written, problem: null })
  }), { numRuns: 600 })
})
