import { fileOf, readWhole } from '../testing/read-whole'
import { openFile } from '../table/open-file'
import { FileError } from '../table/problem'
import { writeZip, type ZipPart } from './write-zip'

async function zipped(parts: Record<string, string>): Promise<Uint8Array> {
  const pieces: Uint8Array[] = []
  for await (const piece of writeZip(Object.entries(parts).map(([name, content]): ZipPart => ({ name, content })))) pieces.push(piece)
  return Buffer.concat(pieces)
}

const REL = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'

/** A workbook as other programs write it: shared texts, styles, and sheets by rows of cells. */
function xlsx(
  sheets: Record<string, string>,
  { texts = [] as string[], formats = '', cells = '<xf numFmtId="0"/>', book = '', states = [] as string[] } = {},
): Promise<Uint8Array> {
  const names = Object.keys(sheets)
  return zipped({
    '[Content_Types].xml': '<Types/>',
    '_rels/.rels': `<Relationships><Relationship Id="r1" Type="${REL}/officeDocument" Target="/xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `<x:workbook xmlns:x="main" xmlns:r="${REL}">${book}<x:sheets>${names.map((name, at) => `<x:sheet name="${name}" sheetId="${at + 1}" state="${states[at] ?? 'visible'}" r:id="s${at}"/>`).join('')}</x:sheets></x:workbook>`,
    'xl/_rels/workbook.xml.rels': `<Relationships>${names.map((_, at) => `<Relationship Id="s${at}" Type="${REL}/worksheet" Target="worksheets/sheet${at}.xml"/>`).join('')}<Relationship Id="t" Type="${REL}/sharedStrings" Target="sharedStrings.xml"/><Relationship Id="y" Type="${REL}/styles" Target="styles.xml"/></Relationships>`,
    'xl/sharedStrings.xml': `<sst>${texts.map((text) => `<si>${text}</si>`).join('')}</sst>`,
    'xl/styles.xml': `<styleSheet><numFmts>${formats}</numFmts><cellStyleXfs><xf numFmtId="9"/></cellStyleXfs><cellXfs>${cells}</cellXfs></styleSheet>`,
    ...Object.fromEntries(
      names.map((name, at) => [
        `xl/worksheets/sheet${at}.xml`,
        `<worksheet><sheetData>${sheets[name]!.replace(/<merge.*$/s, '')}</sheetData>${/<merge.*$/s.exec(sheets[name]!)?.[0] ?? ''}</worksheet>`,
      ]),
    ),
  })
}

const inline = (reference: string, text: string) => `<c r="${reference}" t="inlineStr"><is><t>${text}</t></is></c>`
const n = (reference: string, value: string, style = 0) => `<c r="${reference}" s="${style}"><v>${value}</v></c>`

describe('workbooks as spreadsheet programs write them', () => {
  const DATED = {
    formats:
      '<numFmt numFmtId="170" formatCode="[$-809]dd\\/mm\\/yyyy;@"/><numFmt numFmtId="171" formatCode="0.0\\ %"/><numFmt numFmtId="172" formatCode="[Red]0.00&quot; days&quot;"/>',
    cells: '<xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="170"/><xf numFmtId="171"/><xf numFmtId="172"/><xf numFmtId="22"/>',
  }
  const rows = `<row r="1">${inline('A1', 'Tree')}${inline('B1', 'Planted')}${inline('C1', 'Decay')}${inline('D1', 'Wait')}</row>
    <row r="2"><c r="A2" t="s"><v>0</v></c>${n('B2', '45000', 1)}${n('C2', '0.72', 3)}${n('D2', '3.5', 4)}</row>
    <row r="5"><c r="A5" t="s"><v>1</v></c>${n('B5', '45001', 2)}${n('C5', '7.0000000000000007E-2', 3)}${n('D5', '0.30000000000000004', 4)}</row>
    <row r="6"><c r="A6" t="str"><f>A2&amp;"x"</f><v>Ash_x0041_x</v></c>${n('B6', '45000.5', 5)}<c r="C6" t="e"><v>#DIV/0!</v></c><c r="D6"><f>1+1</f></c></row>
    ${[7, 8].map((row) => `<row r="${row}"><c r="A${row}" t="s"><v>0</v></c>${n(`B${row}`, '45002', 1)}${n(`C${row}`, '1', 3)}${n(`D${row}`, '2', 4)}</row>`).join('')}`
  const texts = ['<t xml:space="preserve"> Oak</t>', '<r><t>Black </t></r><r><rPr><b/></rPr><t>poplar</t></r><rPh><t>not this</t></rPh>']

  test('shared and rich texts, dates and percents by their formats, stored values of formulas, errors; empty rows are none', async () => {
    const { texts: found, values, settings } = await readWhole(await xlsx({ Trees: rows }, { texts, ...DATED }))
    expect(found).toEqual([
      [' Oak', '2023-03-15', '72%', '3.5'],
      ['Black poplar', '2023-03-16', '7%', '0.3'],
      ['AshAx', '2023-03-15T12:00:00', '#DIV/0!', ''],
      ...[7, 8].map(() => [' Oak', '2023-03-17', '100%', '2']),
    ])
    expect(settings.columns.map(({ type }) => type)).toEqual(['text', 'date', 'percent', 'number'])
    expect(values[2]).toEqual(['AshAx', '2023-03-15', { unreadable: '#DIV/0!' }, null])
  })

  test('days are counted from either epoch, and the day that never was is not made one', async () => {
    const days = (book: string) =>
      xlsx(
        {
          S: `<row>${inline('A1', 'Day')}</row>${['0', '1', '59', '60', '61', '45000'].map((day, at) => `<row>${n(`A${at + 2}`, day, 1)}</row>`).join('')}`,
        },
        { ...DATED, book },
      )
    expect((await readWhole(await days(''))).texts.flat()).toEqual([
      '00:00:00',
      '1900-01-01',
      '1900-02-28',
      '1900-02-29',
      '1900-03-01',
      '2023-03-15',
    ])
    expect((await readWhole(await days('<x:workbookPr date1904="1"/>'))).texts.flat()).toEqual([
      '1904-01-01',
      '1904-01-02',
      '1904-02-29',
      '1904-03-01',
      '1904-03-02',
      '2027-03-16',
    ])
  })

  test('the sheet is chosen, hidden ones come last, and one that is not there is told', async () => {
    const file = await xlsx(
      {
        Notes: `<row>${inline('A1', 'n')}</row>`,
        Trees: `<row>${inline('A1', 'Tree')}${inline('B1', 'Size')}</row><row>${inline('A2', 'T1')}${n('B2', '5')}</row>`,
      },
      { states: ['hidden'] },
    )
    expect((await readWhole(file)).sheets).toEqual(['Trees', 'Notes'])
    expect((await readWhole(file)).texts).toEqual([['T1', '5']])
    expect((await readWhole(file, { format: { sheet: 'Notes' } })).settings.columns[0]!.name).toBe('n')
    await expect(readWhole(file, { format: { sheet: 'Other' } })).rejects.toMatchObject({ problem: { code: 'no-sheet' } })
  })

  test('a title above the table is left out, and merged heads stand over all their columns', async () => {
    const file = await xlsx({
      S: `<row r="1">${inline('A1', 'Night course')}</row><row r="2">${inline('A2', 'Trainee')}${inline('B2', 'Marks')}</row><row r="3">${inline('B3', 'M1')}${inline('C3', 'M2')}</row><row r="4">${inline('A4', 'Yarlo')}${n('B4', '3')}${n('C4', '4')}</row><row r="5">${inline('A5', 'Tesdry')}${n('B5', '2')}</row><mergeCells><mergeCell ref="A1:C1"/><mergeCell ref="A2:A3"/><mergeCell ref="B2:C2"/></mergeCells>`,
    })
    const { settings, values } = await readWhole(file, { format: { skip: 2 } })
    expect(settings.columns.map(({ name }) => name)).toEqual(['Trainee', 'M1', 'M2'])
    expect(values).toEqual([
      ['Yarlo', '3', '4'],
      ['Tesdry', '2', null],
    ])
  })
})

describe('documents of the open format', () => {
  const ods = (rows: string) =>
    zipped({
      mimetype: 'application/vnd.oasis.opendocument.spreadsheet',
      'content.xml': `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet><table:table table:name="Trees">${rows}</table:table></office:spreadsheet></office:body></office:document-content>`,
    })
  const string = (text: string, more = '') =>
    `<table:table-cell office:value-type="string"${more}><text:p>${text}</text:p></table:table-cell>`

  test('cells and rows that are repeated, dates, percents, money, paragraphs, remarks, and the empty rest of a sheet', async () => {
    const { texts, settings } = await readWhole(
      await ods(`<table:table-row>${['Tree', 'Planted', 'Decay', 'Cost', 'Alive'].map((head) => string(head)).join('')}</table:table-row>
      <table:table-row table:number-rows-repeated="2">${string('Oak<text:s text:c="2"/>tall')}<table:table-cell office:value-type="date" office:date-value="2024-02-29"><text:p>29 Feb</text:p></table:table-cell><table:table-cell office:value-type="percentage" office:value="0.07"><text:p>7 %</text:p></table:table-cell><table:table-cell office:value-type="currency" office:value="12.5"><text:p>12,50 EUR</text:p></table:table-cell><table:table-cell office:value-type="boolean" office:boolean-value="true"/></table:table-row>
      <table:table-row><table:table-cell office:value-type="string"><office:annotation><text:p>a remark</text:p></office:annotation><text:p>Elm</text:p><text:p>old</text:p></table:table-cell><table:table-cell table:number-columns-repeated="3" office:value-type="float" office:value="3"><text:p>3</text:p></table:table-cell><table:covered-table-cell/></table:table-row>
      <table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>`),
    )
    expect(texts).toEqual([
      ['Oak  tall', '2024-02-29', '7%', '12.5', 'true'],
      ['Oak  tall', '2024-02-29', '7%', '12.5', 'true'],
      ['Elm\nold', '3', '3', '3', ''],
    ])
    expect(settings.columns.map(({ name }) => name)).toEqual(['Tree', 'Planted', 'Decay', 'Cost', 'Alive'])
  })
})

describe('files that mean harm are refused, or read as the texts they are', () => {
  const problemOf = async (file: Uint8Array) => {
    try {
      await readWhole(file)
      return null
    } catch (error) {
      if (error instanceof FileError) return error.problem.code
      throw error
    }
  }

  test('entities, whatever they would be', async () => {
    const evil = await zipped({ 'content.xml': '<!DOCTYPE a [<!ENTITY x "lol"><!ENTITY y "&x;&x;">]><a>&y;</a>' })
    expect(await problemOf(evil)).toBe('damaged')
  })

  test('a million columns', async () => {
    expect(await problemOf(await xlsx({ S: `<row r="1">${inline('A1', 'a')}${inline('BDWGO1', 'far')}</row>` }))).toBe('too-many-columns')
    const wide = `<table:table-row><table:table-cell table:number-columns-repeated="1000000" office:value-type="float" office:value="1"/></table:table-row>`
    expect(
      await problemOf(
        await zipped({
          'content.xml': `<o:d xmlns:o="o" xmlns:table="t" xmlns:office="f"><table:table table:name="S">${wide}</table:table></o:d>`,
        }),
      ),
    ).toBe('too-many-columns')
  })

  test('what is no archive, and what was cut short', async () => {
    expect(await problemOf(Buffer.from('PK\x03\x04 and no more'))).toBe('damaged')
    const whole = await xlsx({ S: `<row>${inline('A1', 'a')}</row>` })
    expect(await problemOf(whole.subarray(0, whole.length - 30))).toBe('damaged')
    expect(await problemOf(await zipped({ 'readme.txt': 'no workbook' }))).toBe('damaged')
  })

  test('an archive that unpacks to very much is read a piece at a time, and given up', async () => {
    async function* zeros() {
      const piece = Buffer.alloc(1 << 20, 0x20)
      yield Buffer.from('<sst><si><t>')
      for (let at = 0; at < 420; at++) yield piece
    }
    const pieces: Uint8Array[] = []
    const rest = {
      '_rels/.rels': `<Relationships><Relationship Id="r1" Type="${REL}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
      'xl/workbook.xml': `<workbook xmlns:r="${REL}"><sheets><sheet name="S" r:id="s"/></sheets></workbook>`,
      'xl/_rels/workbook.xml.rels': `<Relationships><Relationship Id="s" Type="${REL}/worksheet" Target="s.xml"/><Relationship Id="t" Type="${REL}/sharedStrings" Target="t.xml"/></Relationships>`,
      'xl/s.xml': '<worksheet/>',
    }
    for await (const piece of writeZip([
      ...Object.entries(rest).map(([name, content]) => ({ name, content })),
      { name: 'xl/t.xml', content: zeros() },
    ]))
      pieces.push(piece)
    const bomb = Buffer.concat(pieces)
    expect(bomb.length).toBeLessThan(3_000_000)
    expect(await problemOf(bomb)).toBe('too-large')
  }, 60_000)

  test('what a spreadsheet program would run is text', async () => {
    const { texts } = await readWhole(await xlsx({ S: `<row>${inline('A1', 'a')}</row><row>${inline('A2', '=cmd|calc')}</row>` }))
    expect(texts).toEqual([['=cmd|calc']])
  })

  test('a file that is opened twice is the same both times', async () => {
    const opened = await openFile(fileOf(await xlsx({ S: `<row>${inline('A1', 'a')}</row><row>${n('A2', '1')}</row>` })))
    const read = async () =>
      (await opened.toPlain(
        null,
        () => undefined,
        () => undefined,
      ))!.head.length
    expect(await read()).toBe(await read())
  })
})
