import fc from 'fast-check'
import { plainRows } from './plain-rows'
import { recordsOfText } from './read-records'

const value = fc
  .oneof(fc.constantFrom('', ' ', '"', '""', ',', 'a,b', '\r\n', ' a ', 'ä€🌳'), fc.string({ unit: 'grapheme', maxLength: 80 }))
  .map((text) => text.replaceAll('\ufeff', ''))
const table = fc
  .integer({ min: 1, max: 4 })
  .chain((width) => fc.array(fc.array(value, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 8 }))

test('what was written as rows is read as records, whichever way each value was given, and however often it was taken', () => {
  fc.assert(
    fc.property(table, fc.infiniteStream(fc.boolean()), (rows, choices) => {
      const plain = plainRows()
      let text = ''
      const taken = () => (text += new TextDecoder('utf-8', { ignoreBOM: true }).decode(plain.take().slice()))
      for (const row of rows) {
        for (const one of row) {
          const bytes = new TextEncoder().encode(`<${one}>`)
          if (choices.next().value) plain.text(one)
          else plain.bytes(bytes, 1, bytes.length - 1)
        }
        plain.endRow()
        if (choices.next().value) taken()
      }
      taken()
      expect(recordsOfText(text, ',')).toEqual({ records: rows, problem: null })
    }),
    { numRuns: 1000 },
  )
})
