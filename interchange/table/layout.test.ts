import { previewTable } from './preview'
import { detectDelimiter, detectSkip, probedRows } from './detect-layout'
import { recordsOfText } from './read-records'

const look = (text: string, format = {}) => previewTable(new TextEncoder().encode(text), true, { format })
const names = (text: string) => look(text).settings.columns.map(({ name }) => name)

describe('what stands above a table is left out', () => {
  test.each<[string, string, number, string[]]>([
    ['nothing', 'Tree,Trunk,Ward\nT1,35,N\n', 0, ['Tree', 'Trunk', 'Ward']],
    ['a title', 'Street trees\nTree,Trunk,Ward\nT1,35,N\nT2,12,S\n', 1, ['Tree', 'Trunk', 'Ward']],
    [
      'a title with as many separators as the table',
      'Street trees;;\nof 2026;;\nTree;Trunk;Ward\nT1;35;N\nT2;12;S\n',
      2,
      ['Tree', 'Trunk', 'Ward'],
    ],
    [
      'a title, who made it, and empty lines',
      'Trees\n\nby the office\n\nTree;Trunk;Ward\nT1;3,5;N\nT2;1,2;S\n',
      2,
      ['Tree', 'Trunk', 'Ward'],
    ],
    ['heads that are not all there', 'Tree,,Ward\nT1,35,N\nT2,12,S\n', 0, ['Tree', 'Column 2', 'Ward']],
    ['one column', 'Trees\nT1\nT2\n', 0, ['Trees']],
  ])('%s', (_, text, skip, expected) => {
    const { settings, problem } = look(text)
    expect([settings.skip, settings.columns.map(({ name }) => name), problem]).toEqual([skip, expected, null])
  })

  test('that is the reader’s to say otherwise', () => {
    expect(look('Street trees,,\nTree,Trunk,Ward\nT1,35,N\n', { skip: 0 }).settings.columns.map(({ name }) => name)).toEqual([
      'Street trees',
      'Column 2',
      'Column 3',
    ])
    expect(() => look('a,b\n1,2\n', { skip: 9 })).toThrow(/All of the file is left out/)
  })
})

describe('commas too many at the end', () => {
  test('in heads and lines alike', () => expect(names('Tree,Trunk,\nT1,35,\nT2,12,\n')).toEqual(['Tree', 'Trunk']))
  test('in the heads alone', () =>
    expect(look('Tree,Trunk,,\nT1,35\nT2,12\n')).toMatchObject({
      problem: null,
      records: [
        ['T1', '35'],
        ['T2', '12'],
      ],
    }))
  test('in some lines alone', () =>
    expect(look('Tree,Trunk\nT1,35,,\nT2,12\n')).toMatchObject({
      problem: null,
      records: [
        ['T1', '35'],
        ['T2', '12'],
      ],
    }))
  test('a value behind them is still one too many', () =>
    expect(look('Tree,Trunk\nT1,35,,x\n').problem).toMatchObject({ code: 'ragged', line: 2, column: 3 }))
  test('a column without a head is one where it holds something', () =>
    expect(names('Tree,Trunk,\nT1,35,x\n')).toEqual(['Tree', 'Trunk', 'Column 3']))
})

describe('what is known before records are read', () => {
  test('records above the table may have any width, and do not count', () => {
    expect(recordsOfText('x\ny,z,w\na,b\n1,2\n', ',', true, { skip: 2 })).toEqual({
      records: [
        ['a', 'b'],
        ['1', '2'],
      ],
      problem: null,
    })
  })
  test('records that end early have blanks where that is wanted', () => {
    expect(recordsOfText('a,b,c\n1\n', ',', true, { isPadded: true })).toEqual({
      records: [
        ['a', 'b', 'c'],
        ['1', '', ''],
      ],
      problem: null,
    })
    expect(recordsOfText('a\n', ',', true, { width: 3, isPadded: true }).records).toEqual([['a', '', '']])
  })
  test('a width that is said holds from the first record on', () =>
    expect(recordsOfText('a,b,c\n', ',', true, { width: 2 }).problem).toMatchObject({ code: 'ragged', line: 1, column: 3 }))
})

test('full marks are read from heads, and from a line that begins as one of full marks does', () => {
  const marks = (text: string, format = {}) => look(text, format).settings.columns.map(({ fullMarks }) => fullMarks)
  expect(marks('Name,M1 (out of 5),M2 (/ 12.5)\nA,1,2\n')).toEqual([null, '5', '12.5'])
  for (const word of ['out of', 'Full marks', 'max', 'Points possible'])
    expect(marks(`Name,M1,M2\n${word},5,10\nA,1,2\n`)).toEqual([null, '5', '10'])
  expect(look('Name,M1\nout of,5\nA,1\n').records).toEqual([['A', '1']])
  expect(look('Name,M1\nout of,5\nA,1\n', { hasFullMarks: false }).records).toEqual([
    ['out of', '5'],
    ['A', '1'],
  ])
  expect(marks('Name,M1\nOutis,5\nA,1\n')).toEqual([null, null])
})

test('who the record is is the first column of texts that all differ', () => {
  const who = (text: string) =>
    look(text)
      .settings.columns.filter(({ isIdentity }) => isIdentity)
      .map(({ name }) => name)
  expect([who('No,Ward,Tree\n1,N,T1\n2,N,T2\n'), who('Ward,Size\nN,1\nN,2\n'), who('Tree,Ward\nT1,\nT2,N\n')]).toEqual([
    ['Tree'],
    [],
    ['Tree'],
  ])
})

test('delimiters are told by lines that are alike, whatever stands in values', () => {
  expect([
    detectDelimiter('Trees, all of them\na;b;c\n1,5;2,5;3\n4,5;5,5;6\n'),
    detectDelimiter('a\tb\nx, y, z\tw\n'),
    detectDelimiter('a|b|c\n1|2|3\n'),
    detectDelimiter('one\ntwo\n'),
  ]).toEqual([';', '\t', '|', ','])
  expect(detectSkip(probedRows('t\n\na,b,c\n1,2,3\n4,5,6\n', ','))).toBe(1)
})

describe('files in other programs’ manners', () => {
  const bytes = (text: string) => new TextEncoder().encode(text)
  const utf16 = (text: string, isLittle: boolean) => {
    const all = Buffer.from(`\ufeff${text}`, 'utf16le')
    return new Uint8Array(isLittle ? all : all.swap16())
  }
  const TABLE = 'Baum;Umfang (cm);Gepflanzt\r\n"Eiche; alt";1.240,5;2.3.2004\r\n"Linde\r\nklein";35;13.4.1999\r\n'
  test.each<[string, Uint8Array, object]>([
    ['a byte order mark', bytes(`\ufeff${TABLE}`), {}],
    ['UTF-16, low byte first', utf16(TABLE, true), {}],
    ['UTF-16, high byte first', utf16(TABLE, false), {}],
  ])('%s, semicolons, decimal commas, days first, line ends within quotes', (_, file, format) => {
    const { settings, records } = previewTable(file, true, { format })
    expect(records).toEqual([
      ['Eiche; alt', '1.240,5', '2.3.2004'],
      ['Linde\r\nklein', '35', '13.4.1999'],
    ])
    expect(settings).toMatchObject({
      delimiter: ';',
      decimalMark: 'comma',
      dateOrder: 'day',
      columns: [{ type: 'text' }, { type: 'number', unit: 'cm' }, { type: 'date' }],
    })
  })
})
