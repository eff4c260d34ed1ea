import fc from 'fast-check'
import { KeyedRows } from './keyed-rows'

/** What a column of one value is declared as, and how it is written. @param write puts the value into its record */
function read(write: (rows: KeyedRows, place: number) => void): { written: string; declared: unknown } {
  const pieces: string[] = []
  const rows = new KeyedRows((piece) => void pieces.push(new TextDecoder().decode(piece)), () => undefined)
  write(rows, rows.place('a'))
  rows.endRecord()
  const { declared } = rows.finish()
  return { written: pieces.join(''), declared }
}

const text = fc.oneof(
  fc.string({ unit: fc.constantFrom('1', '9', '0', '-', '.', '/', ' ', '\t', 'a', ',', '"', '\n'), maxLength: 12 }),
  fc.constantFrom('2026-03-02', ' 2.3.26', '12345-1-1', '1-123-1', '1-1-', '2026-03-02T10:00', '/1-1-1', '0000001'),
)

test('a text is the same, and of the same kind, whether it comes as bytes or as a text', () => {
  fc.assert(fc.property(text, fc.string({ maxLength: 3 }), (value, before) => {
    const around = new TextEncoder().encode(`${before}${value}7-7-7`)
    const start = new TextEncoder().encode(before).length
    const bytes = read((rows, place) => rows.span(place, around, start, start + new TextEncoder().encode(value).length, 'text'))
    expect(bytes).toEqual(read((rows, place) => rows.text(place, value, 'text')))
  }), { numRuns: 1000 })
})

test('what one record has, the next does not have by itself', () => {
  const pieces: string[] = []
  const rows = new KeyedRows((piece) => void pieces.push(new TextDecoder().decode(piece)), () => undefined)
  const [a, b] = [rows.place('a'), rows.place('b')]
  rows.span(a, new TextEncoder().encode('xyz'), 1, 2, 'text')
  rows.text(b, 'q', 'text')
  rows.endRecord()
  rows.text(b, 'r', 'text')
  rows.endRecord()
  rows.endRecord()
  rows.finish()
  expect(pieces.join('')).toBe('y,q\n,r\n""\n')
})
