import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import { LONGEST_RECORD, LONGEST_VALUE, type RecordReader, recordReader, recordsOfText } from './read-records'

const bytes = (text: string) => new TextEncoder().encode(text)

/** All records of a text that comes in pieces of so many bytes. */
function readInPieces(reader: RecordReader, written: Uint8Array, size: number): string[][] {
  const records: string[][] = []
  for (let at = 0; at < written.length; at += size) records.push(...reader.push(written.subarray(at, at + size)).texts())
  return [...records, ...reader.end().texts()]
}

const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`
const values = fc.oneof(fc.constantFrom('', 'x', '"', '""', ',', '\r\n', '\n', '\r', ' ', '\u20ac', '\u{1f333}', 'a "b", c', '\ufeff'), fc.string({ maxLength: 40, unit: 'binary' }))
const widths = fc.integer({ min: 2, max: 5 })
const tables = widths.chain((width) => fc.array(fc.array(values, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 12 }))
const lineEnds = fc.constantFrom('\n', '\r\n', '\r')

test('a second reader reads the same, whatever is quoted and however the file is cut', () => {
  const isBare = (text: string) => !/["\r\n,]/.test(text) && text !== ''
  fc.assert(fc.property(tables, lineEnds, fc.boolean(), fc.infiniteStream(fc.boolean()), fc.integer({ min: 1, max: 60 }), (table, lineEnd, endsWithLine, bares, size) => {
    const lines = table.map((record) => record.map((text) => (isBare(text) && bares.next().value ? text : quoted(text))).join(','))
    const written = bytes(lines.join(lineEnd) + (endsWithLine ? lineEnd : ''))
    const reader = recordReader(',')
    const found = readInPieces(reader, written, size)
    expect(reader.problem()).toBeNull()
    expect(found).toEqual(parse(Buffer.from(written), { bom: true, record_delimiter: lineEnd }))
  }), { numRuns: 600 })
})

test('where marks of quotation stand where they should not, pieces make no difference', () => {
  const text = fc.array(fc.constantFrom('"', '""', ',', '\n', '\r', 'a', '1', ' ', '\u20ac')).map((parts) => parts.join(''))
  fc.assert(fc.property(text, fc.integer({ min: 1, max: 7 }), (hostile, size) => {
    const [whole, pieces] = [recordReader(','), recordReader(',')]
    expect(readInPieces(pieces, bytes(hostile), size)).toEqual(readInPieces(whole, bytes(hostile), 1000))
    expect(pieces.problem()).toEqual(whole.problem())
    expect(pieces.push(bytes('more')).length + pieces.end().length).toBeLessThanOrEqual(whole.problem() ? 0 : 1)
  }), { numRuns: 1500 })
})

test.each<[string, string, string[][]]>([
  ['spaces behind a closing mark', '"a" ,b\n', [['a', 'b']]],
  ['a mark within a quoted value', '"a" b",c\n', [['a" b', 'c']]],
  ['a mark within a bare value', 'a"b,"c"\n', [['a"b', 'c']]],
  ['line ends of all kinds in one file', 'a,b\r\n1,2\n3,4\r5,6', [['a', 'b'], ['1', '2'], ['3', '4'], ['5', '6']]],
  ['empty lines', '\n\na,b\n\n1,2\n\n', [['a', 'b'], ['1', '2']]],
  ['empty lines of one column', 'a\n\n1\n', [['a'], [''], ['1']]],
  ['a byte order mark', '\ufeffa,b\n', [['a', 'b']]],
  ['a value left out at the end', 'a,b\n1,', [['a', 'b'], ['1', '']]],
  ['nothing', '', []],
])('%s', (_, text, records) => expect(recordsOfText(text, ',')).toEqual({ records, problem: null }))

test.each<[string, string, object]>([
  ['too few', 'a,b,c\n1,2,3\n"4\n4",5,6\n7,8\n', { code: 'ragged', line: 5, column: 3 }],
  ['too many', 'a,b\n1,2,3\n', { code: 'ragged', line: 2, column: 3 }],
  ['line ends in values count', 'a,b\n"\r\n\r\n\n",2\n3\n', { code: 'ragged', line: 6, column: 2 }],
  ['an open mark', 'a,b\n1,2\n3,"4\n5,6\n', { code: 'open-quote', line: 3, column: 2 }],
])('%s is told with its place', (_, text, problem) => expect(recordsOfText(text, ',').problem).toMatchObject(problem))

describe('what never ends is refused before it fills the memory', () => {
  const endless = (start: string, more: string) => {
    const reader = recordReader(',')
    reader.push(bytes(start))
    const piece = bytes(more.repeat(100_000 / more.length))
    let pieces = 0
    for (; !reader.problem() && pieces < 1000; pieces++) reader.push(piece)
    return { ...reader.problem(), size: pieces * piece.length }
  }
  test('a mark that is never closed', () => expect(endless('a,b\n1,"', 'x')).toMatchObject({ code: 'open-quote', line: 2, column: 2, size: LONGEST_VALUE + 100_000 }))
  test('a value', () => expect(endless('a,b\n1,', 'x')).toMatchObject({ code: 'long-value', line: 2, column: 2 }))
  test('a line of many values', () => expect(endless('a,b\n1', ',2')).toMatchObject({ code: 'too-many-columns', line: 2 }))
  test('a line of long values', () => expect(endless('a\n', `${'x'.repeat(9_999)},`)).toMatchObject({ code: 'long-value', line: 2, size: LONGEST_RECORD + 100_000 }))
})
