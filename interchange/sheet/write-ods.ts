/** An ODS document of one sheet (OASIS OpenDocument 1.3, part 3), written while its records come. */
import { Decimal } from '@dime-gate/core/value/number'
import { headsOf, noteOf, type OutCell, type OutColumn, type OutRow, type OutTable } from '../table/out'
import { NOTES } from './column-notes'
import { isDark, sheetName } from './write-xlsx'
import { NOT_IN_XML, xmlText } from './xml-text'
import { writeZip } from './write-zip'

const MEDIA = 'application/vnd.oasis.opendocument.spreadsheet'
const NAMES = ['office', 'table', 'text', 'style', 'number', 'fo']
  .map(
    (name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${{ number: 'datastyle', fo: 'xsl-fo-compatible' }[name] ?? name}:1.0"`,
  )
  .join(' ')
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'
/** Digits that a double holds, whatever they are. */
const DIGITS = 15

export function writeOds(table: OutTable, rows: AsyncIterable<readonly OutRow[]>): AsyncGenerator<Uint8Array> {
  return writeZip([
    { name: 'mimetype', content: MEDIA, isStored: true },
    {
      name: 'META-INF/manifest.xml',
      content: `${HEAD}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="${MEDIA}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/><manifest:file-entry manifest:full-path="${NOTES}" manifest:media-type="application/json"/></manifest:manifest>`,
    },
    {
      name: NOTES,
      content: JSON.stringify(Object.fromEntries(headsOf(table.columns).map((head, at) => [head, noteOf(table.columns[at]!)]))),
    },
    { name: 'content.xml', content: content(table, rows) },
  ])
}

async function* content({ name, columns }: OutTable, rows: AsyncIterable<readonly OutRow[]>): AsyncGenerator<Uint8Array> {
  const colours = [...new Set(columns.flatMap(({ colours }) => [...(colours?.values() ?? [])]))]
  const labels = colours.map(
    (colour, at) =>
      `<style:style style:name="label${at}" style:family="table-cell"><style:table-cell-properties fo:background-color="${colour}"/><style:text-properties fo:color="${isDark(colour) ? '#ffffff' : '#000000'}"/></style:style>`,
  )
  yield Buffer.from(
    `${HEAD}<office:document-content ${NAMES} office:version="1.3"><office:automatic-styles>` +
      '<number:date-style style:name="day"><number:year number:style="long"/><number:text>-</number:text><number:month number:style="long"/><number:text>-</number:text><number:day number:style="long"/></number:date-style>' +
      '<number:percentage-style style:name="share"><number:number number:decimal-places="2" number:min-integer-digits="1"/><number:text>%</number:text></number:percentage-style>' +
      '<style:style style:name="head" style:family="table-cell"><style:text-properties fo:font-weight="bold"/></style:style>' +
      '<style:style style:name="date" style:family="table-cell" style:data-style-name="day"/><style:style style:name="percent" style:family="table-cell" style:data-style-name="share"/>' +
      `${labels.join('')}</office:automatic-styles><office:body><office:spreadsheet><table:table table:name="${xmlText(sheetName(name))}"><table:table-column table:number-columns-repeated="${columns.length}"/>` +
      `<table:table-row>${headsOf(columns)
        .map((head) => textCell(head, 'head'))
        .join('')}</table:table-row>`,
  )
  const writers = columns.map((column) => cellWriter(column, colours))
  for await (const some of rows) {
    let text = ''
    for (const cells of some) {
      text += '<table:table-row>'
      for (let at = 0; at < cells.length; at++) text += writers[at]!(cells[at]!)
      text += '</table:table-row>'
    }
    yield Buffer.from(text)
  }
  yield Buffer.from('</table:table></office:spreadsheet></office:body></office:document-content>')
}

function cellWriter({ type, colours }: OutColumn, all: readonly string[]): (cell: OutCell) => string {
  return ({ value, unreadable }) => {
    if (value === null) return unreadable === null ? '<table:table-cell/>' : textCell(unreadable)
    switch (type) {
      case 'number':
        return figure(value)
          ? `<table:table-cell office:value-type="float" office:value="${value}"><text:p>${value}</text:p></table:table-cell>`
          : textCell(value)
      case 'percent':
        return figure(value)
          ? `<table:table-cell table:style-name="percent" office:value-type="percentage" office:value="${new Decimal(value).div(100).toFixed()}"><text:p>${value}%</text:p></table:table-cell>`
          : textCell(`${value}%`)
      case 'date':
        return `<table:table-cell table:style-name="date" office:value-type="date" office:date-value="${value}"><text:p>${value}</text:p></table:table-cell>`
      case 'boolean':
        return `<table:table-cell office:value-type="boolean" office:boolean-value="${value}"><text:p>${value.toUpperCase()}</text:p></table:table-cell>`
      case 'text': {
        const colour = colours?.get(value)
        return textCell(value, colour === undefined ? null : `label${all.indexOf(colour)}`)
      }
    }
  }
}

/** Whether it has no more digits than are kept of a number; another goes out as text, in whole. */
function figure(number: string): boolean {
  return number.replace(/^-?0*\.?0*/, '').replace('.', '').length <= DIGITS
}

function textCell(text: string, style: string | null = null): string {
  // The format has no way to say what XML cannot hold.
  const held = xmlText(NOT_IN_XML.test(text) ? text.replace(new RegExp(NOT_IN_XML.source, 'g'), '\ufffd') : text)
  // White space counts in an attribute, and not in a paragraph.
  const exact = /^\s|\s$|\s\s|[\t\n\r]/.test(text) ? ` office:string-value="${held}"` : ''
  return `<table:table-cell${style === null ? '' : ` table:style-name="${style}"`} office:value-type="string"${exact}><text:p>${held}</text:p></table:table-cell>`
}
