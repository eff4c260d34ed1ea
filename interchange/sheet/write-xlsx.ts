/** An XLSX workbook of one sheet (ISO/IEC 29500-1, transitional), written while its records come. */
import { Decimal } from '@dime-gate/core/value/number'
import { headsOf, noteOf, type OutCell, type OutColumn, type OutRow, type OutTable } from '../table/out'
import { NOTES } from './column-notes'
import { NOT_IN_XML, xmlText } from './xml-text'
import { writeZip } from './write-zip'

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006'
const TYPES = 'application/vnd.openxmlformats-officedocument.spreadsheetml'
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'

/** Places in the list of cell formats; those of labels come behind. */
const [GENERAL, HEAD_STYLE, TEXT, DATE, PERCENT, FIRST_LABEL] = [0, 1, 2, 3, 4, 5]
/** Digits that a sheet keeps of a number. */
const DIGITS = 15
const FIRST_DAY = '1900-03-01'
const DAY = 86_400_000

export function writeXlsx(table: OutTable, rows: AsyncIterable<readonly OutRow[]>): AsyncGenerator<Uint8Array> {
  const colours = [...new Set(table.columns.flatMap(({ colours }) => [...(colours?.values() ?? [])]))]
  return writeZip([
    {
      name: '[Content_Types].xml',
      content: `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Default Extension="json" ContentType="application/json"/><Override PartName="/xl/workbook.xml" ContentType="${TYPES}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${TYPES}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${TYPES}.styles+xml"/></Types>`,
    },
    {
      name: '_rels/.rels',
      content: `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${RELATIONS}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    },
    {
      name: 'xl/workbook.xml',
      content: `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS}"><sheets><sheet name="${xmlText(sheetName(table.name))}" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    },
    {
      name: 'xl/_rels/workbook.xml.rels',
      content: `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${RELATIONS}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${RELATIONS}/styles" Target="styles.xml"/></Relationships>`,
    },
    { name: 'xl/styles.xml', content: HEAD + styles(colours) },
    {
      name: NOTES,
      content: JSON.stringify(Object.fromEntries(headsOf(table.columns).map((head, at) => [head, noteOf(table.columns[at]!)]))),
    },
    { name: 'xl/worksheets/sheet1.xml', content: sheet(table, rows, colours) },
  ])
}

/** A sheet's name has up to 31 characters, and some signs mean something in it (18.2.19). */
export function sheetName(name: string): string {
  return (
    name
      .replace(/[[\]:*?/\\]/g, ' ')
      .replace(/^'+|'+$/g, '')
      .slice(0, 31)
      .trim() || 'Table'
  )
}

function styles(colours: readonly string[]): string {
  const fills = colours.map(
    (colour) =>
      `<fill><patternFill patternType="solid"><fgColor rgb="FF${colour.slice(1).toUpperCase()}"/><bgColor indexed="64"/></patternFill></fill>`,
  )
  const formats = colours.map(
    (colour, at) =>
      `<xf numFmtId="0" fontId="${isDark(colour) ? 2 : 0}" fillId="${at + 2}" borderId="0" xfId="0" applyFill="1" applyFont="1"/>`,
  )
  return (
    `<styleSheet xmlns="${MAIN}"><numFmts count="1"><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd"/></numFmts>` +
    '<fonts count="3"><font><sz val="11"/><name val="Arial"/></font><font><b/><sz val="11"/><name val="Arial"/></font><font><sz val="11"/><color rgb="FFFFFFFF"/><name val="Arial"/></font></fonts>' +
    `<fills count="${fills.length + 2}"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill>${fills.join('')}</fills>` +
    '<borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs>' +
    `<cellXfs count="${formats.length + FIRST_LABEL}"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/><xf numFmtId="0" fontId="1" fillId="0" borderId="0" xfId="0" applyFont="1"/>` +
    '<xf numFmtId="49" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/><xf numFmtId="164" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/>' +
    `<xf numFmtId="10" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/>${formats.join('')}</cellXfs></styleSheet>`
  )
}

async function* sheet(
  { columns }: OutTable,
  rows: AsyncIterable<readonly OutRow[]>,
  colours: readonly string[],
): AsyncGenerator<Uint8Array> {
  const letters = columns.map((_, at) => columnLetters(at))
  const frozen = columns.findIndex(({ isIdentity }) => !isIdentity)
  const split = frozen > 0 ? ` xSplit="${frozen}"` : ''
  const widths = columns.map(
    ({ type, name }, at) =>
      `<col min="${at + 1}" max="${at + 1}" width="${Math.min(40, Math.max(type === 'text' ? 16 : 11, name.length + 4))}" customWidth="1"/>`,
  )
  yield Buffer.from(
    `${HEAD}<worksheet xmlns="${MAIN}"><sheetViews><sheetView workbookViewId="0"><pane${split} ySplit="1" topLeftCell="${columnLetters(Math.max(0, frozen))}2" activePane="${frozen > 0 ? 'bottomRight' : 'bottomLeft'}" state="frozen"/></sheetView></sheetViews><cols>${widths.join('')}</cols><sheetData>` +
      `<row r="1">${headsOf(columns)
        .map((head, at) => textCell(`${letters[at]!}1`, head, HEAD_STYLE))
        .join('')}</row>`,
  )
  const writers = columns.map((column) => cellWriter(column, colours))
  let row = 1
  for await (const some of rows) {
    let text = ''
    for (const cells of some) {
      row++
      text += `<row r="${row}">`
      for (let at = 0; at < cells.length; at++) text += writers[at]!(letters[at]! + row, cells[at]!)
      text += '</row>'
    }
    yield Buffer.from(text)
  }
  yield Buffer.from('</sheetData></worksheet>')
}

function cellWriter({ type, colours }: OutColumn, all: readonly string[]): (reference: string, cell: OutCell) => string {
  return (reference, { value, unreadable }) => {
    if (value === null) return unreadable === null ? '' : textCell(reference, unreadable, TEXT)
    switch (type) {
      case 'number':
        return numberCell(reference, value, value, GENERAL)
      case 'percent':
        return numberCell(reference, new Decimal(value).div(100).toFixed(), `${value}%`, PERCENT)
      case 'date':
        return value >= FIRST_DAY
          ? `<c r="${reference}" s="${DATE}"><v>${(Date.parse(value) - Date.UTC(1899, 11, 30)) / DAY}</v></c>`
          : textCell(reference, value, TEXT)
      case 'boolean':
        return `<c r="${reference}" t="b"><v>${value === 'true' ? 1 : 0}</v></c>`
      case 'text': {
        const colour = colours?.get(value)
        return textCell(reference, value, colour === undefined ? TEXT : FIRST_LABEL + all.indexOf(colour))
      }
    }
  }
}

/** A number with more digits than a sheet keeps goes out as text, in whole. */
function numberCell(reference: string, number: string, text: string, style: number): string {
  const digits = number.replace(/^-?0*\.?0*/, '').replace('.', '').length
  return digits <= DIGITS
    ? `<c r="${reference}"${style === GENERAL ? '' : ` s="${style}"`}><v>${number}</v></c>`
    : textCell(reference, text, GENERAL)
}

function textCell(reference: string, text: string, style: number): string {
  return `<c r="${reference}" t="inlineStr" s="${style}"><is><t xml:space="preserve">${xmlText(held(text))}</t></is></c>`
}

/** What XML cannot hold is written in a way of its own (22.9.2.19), and so is what would be read as that. */
function held(text: string): string {
  const escaped = text.includes('_x') ? text.replace(/_(?=x[0-9A-Fa-f]{4}_)/g, '_x005F_') : text
  if (!NOT_IN_XML.test(escaped) && !escaped.includes('\r')) return escaped
  return escaped.replace(
    /[\x00-\x08\x0b-\x1f\ufffe\uffff]/g,
    (sign) => `_x${sign.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}_`,
  )
}

function columnLetters(at: number): string {
  return (at >= 26 ? columnLetters(Math.floor(at / 26) - 1) : '') + String.fromCharCode(65 + (at % 26))
}

/** Whether white reads better on it than black (WCAG 2.2, relative luminance). */
export function isDark(colour: string): boolean {
  const [red, green, blue] = [1, 3, 5].map((at) => {
    const part = parseInt(colour.slice(at, at + 2), 16) / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue < 0.179
}
