import { FileError } from './problem'
import { previewTable } from './preview'
import fc from 'fast-check'

const bytes = (text: string) => new TextEncoder().encode(text)
const preview = (text: string, format = {}) => previewTable(bytes(text), true, { format })
const problemOf = (work: () => unknown) => {
  try {
    work()
  } catch (error) {
    if (error instanceof FileError) return error.problem
    throw error
  }
  throw new Error('nothing was refused')
}

describe('what a file looks like', () => {
  test('delimiter, header, decimal comma, date order and types are detected', () => {
    const { settings, records } = preview('Tree;Trunk (cm);Planted\nA1;35,5;13.4.1999\nA2;1.240,25;2.3.2004\n')
    expect(settings).toMatchObject({ delimiter: ';', hasHeader: true, decimalMark: 'comma', dateOrder: 'day' })
    expect(settings.columns.map(({ name, unit, type }) => [name, unit, type])).toEqual([
      ['Tree', '', 'text'], ['Trunk', 'cm', 'number'], ['Planted', '', 'date']])
    expect(records[0]).toEqual(['A1', '35,5', '13.4.1999'])
  })

  test('tabs', () => expect(preview('a\tb, c\n1\t2\n').settings).toMatchObject({ delimiter: '\t' }))

  test('a first line of figures is a record, and columns get numbers for names', () => {
    const { settings, records } = preview('1,2026-03-02\n2,2026-03-03\n')
    expect(settings.hasHeader).toBe(false)
    expect(settings.columns.map((column) => column.name)).toEqual(['Column 1', 'Column 2'])
    expect(records).toHaveLength(2)
  })

  test('what the reader chose is kept, and the rest follows it', () => {
    const { settings } = preview('a,b\n1,2\n', { hasHeader: false })
    expect(settings.columns.map((column) => column.type)).toEqual(['text', 'text'])
  })

  test('quoted values keep their delimiters and line ends', () => {
    expect(preview('a,b\r\n"x, ""y""\r\nz",2\r\n').records).toEqual([['x, "y"\r\nz', '2']])
  })
})

describe('files that cannot be a table say where and why', () => {
  test('empty', () => expect(problemOf(() => preview(''))).toMatchObject({ code: 'empty', line: 1, column: 1 }))
  test('no columns', () => expect(problemOf(() => preview('\n \n\n'))).toMatchObject({ code: 'no-columns', line: 1 }))
  test('ragged', () => {
    const { problem, records } = preview('a,b,c\n1,2,3\n"4\n4",5,6\n7,8\n')
    expect(problem).toMatchObject({ code: 'ragged', line: 5, column: 3 })
    expect(records).toHaveLength(2)
    expect(preview('a,b\n1,2,3\n').problem).toMatchObject({ code: 'ragged', line: 2, column: 3 })
  })
  test('two columns of one name', () => {
    expect(preview('Lean,Decay,Lean\n1,2,3\n').problem).toMatchObject({ code: 'same-name', line: 1, column: 3 })
  })
  test('an open quotation mark', () => {
    expect(preview('a,b\n1,2\n"3,4\n5,6\n').problem).toMatchObject({ code: 'open-quote', line: 3 })
  })
  test('another encoding', () => {
    const latin = new Uint8Array([...bytes('a,b\n1,caf'), 0xe9, ...bytes('\n')])
    expect(problemOf(() => previewTable(latin, true))).toMatchObject({ code: 'encoding', line: 2, column: 6 })
    expect(previewTable(latin, true, { format: { encoding: 'windows-1252' } }).records).toEqual([['1', 'caf\u00e9']])
  })
  test('a file cut short in the middle of a character', () => {
    expect(problemOf(() => previewTable(bytes('a\n\u20ac').subarray(0, 4), true))).toMatchObject({ code: 'encoding', line: 2 })
  })
  test('binary files', () => {
    expect(problemOf(() => previewTable(new Uint8Array([0x50, 0x4b, 3, 4, 20]), true))).toMatchObject({ code: 'binary', line: 1 })
    expect(problemOf(() => preview('a,b\n1,\0\n'))).toMatchObject({ code: 'binary', line: 2, column: 3 })
  })
})

test('UTF-16 with a byte order mark is read', () => {
  const text = '\ufeffa,b\n1,\u00e9\n'
  const utf16 = new Uint8Array(new Uint16Array([...text].map((c) => c.charCodeAt(0))).buffer)
  expect(previewTable(utf16, true).records).toEqual([['1', '\u00e9']])
})

test('hostile text ends in records or in a problem, never in anything else', () => {
  const text = fc.array(fc.constantFrom('"', ',', '\n', '\r', ';', 'a', '1', ' ', '\ufeff', '""', '\t')).map((parts) => parts.join(''))
  fc.assert(fc.property(text, (hostile) => {
    try {
      previewTable(bytes(hostile), true)
    } catch (error) {
      expect(error).toBeInstanceOf(FileError)
    }
  }), { numRuns: 500 })
})
