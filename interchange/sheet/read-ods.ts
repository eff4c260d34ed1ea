/** Sheets of an ODS document (OASIS OpenDocument 1.3, part 3): what its cells hold, formulas by their stored values. */
import { fileError } from '../table/problem'
import { scanXml } from './scan-xml'
import { figureText, percentText } from './sheet-figures'
import type { SheetCell, SheetRows } from './sheet-rows'
import type { Archive } from './zip'

const CONTENT = 'content.xml'
const MOST_CONTENT = 4_000_000_000
/** A row that is repeated more often is the empty rest of a sheet, or a trick. */
const MOST_REPEATS = 1_048_576
/** Columns further to the right hold nothing that can be brought in; one too many, so that it is told. */
const MOST_CELLS = 1201

export interface OdsBook {
  sheets: string[]
  read(sheet: string, rows: SheetRows): Promise<void>
}

/** @throws FileError where the archive is no such document */
export async function openOds(archive: Archive): Promise<OdsBook> {
  const sheets: string[] = []
  await scanXml(archive.pieces(CONTENT, MOST_CONTENT), CONTENT, {
    open(name, attributes) {
      if (name === 'table') sheets.push(attributes['table:name'] ?? `Sheet ${sheets.length + 1}`)
    },
  })
  return {
    sheets,
    async read(sheet, rows) {
      const wanted = sheets.indexOf(sheet)
      if (wanted < 0) throw fileError('no-sheet', `The document has no sheet named “${sheet}”. Choose one of those it has.`)
      await readSheet(archive, wanted, rows)
    },
  }
}

async function readSheet(archive: Archive, wanted: number, rows: SheetRows): Promise<void> {
  let table = -1
  /** Tables can stand in cells, and are no part of what is counted here. */
  let depth = 0
  let [row, rowRepeats] = [0, 1]
  let cells: (SheetCell | undefined)[] = []
  let column = 0
  let cell: { attributes: Readonly<Record<string, string>>; paragraphs: string[] } | null = null
  let aside = 0
  let inParagraph = 0
  const merges: [top: number, left: number, bottom: number, right: number][] = []
  const isHere = () => table === wanted && depth === 1
  await scanXml(archive.pieces(CONTENT, MOST_CONTENT), CONTENT, {
    open(name, attributes) {
      if (name === 'table') {
        if (++depth === 1) table++
        return
      }
      if (!isHere()) return
      switch (name) {
        case 'table-row':
          rowRepeats = repeats(attributes['table:number-rows-repeated'])
          cells = []
          column = 0
          return
        case 'table-cell':
        case 'covered-table-cell':
          cell = { attributes, paragraphs: [] }
          return
        // Remarks and drawings belong to a cell, and are not what it holds.
        case 'annotation':
        case 'frame':
        case 'shape':
          aside++
          return
        case 'p':
          if (cell && aside === 0 && inParagraph++ === 0) cell.paragraphs.push('')
          return
        case 's':
          return say(' '.repeat(Math.min(10_000, repeats(attributes['text:c']))))
        case 'tab':
          return say('\t')
        case 'line-break':
          return say('\n')
      }
    },
    text: (piece) => say(piece),
    close(name) {
      if (name === 'table') depth--
      if (!isHere()) return
      switch (name) {
        case 'annotation':
        case 'frame':
        case 'shape':
          aside--
          return
        case 'p':
          if (cell && aside === 0) inParagraph--
          return
        case 'table-cell':
        case 'covered-table-cell': {
          const { attributes, paragraphs } = cell!
          cell = null
          const found = cellOf(attributes, paragraphs.join('\n'))
          const times = repeats(attributes['table:number-columns-repeated'])
          if (found.text !== '') for (let at = column; at < Math.min(column + times, MOST_CELLS); at++) cells[at] = found
          const [wide, high] = [repeats(attributes['table:number-columns-spanned']), repeats(attributes['table:number-rows-spanned'])]
          // What is merged counts among the first rows alone.
          if (row < 50 && found.text !== '' && (wide > 1 || high > 1)) merges.push([row, column, row + high - 1, column + wide - 1])
          column += times
          return
        }
        case 'table-row': {
          const isBlank = cells.length === 0
          if (isBlank) rows.add(row, cells)
          else for (let time = 0; time < rowRepeats; time++) rows.add(row + time, cells)
          row += rowRepeats
        }
      }
    },
  })
  for (const [top, left, bottom, right] of merges) rows.merge(top, left, bottom, right)

  function say(text: string): void {
    if (cell && aside === 0 && inParagraph > 0) cell.paragraphs[cell.paragraphs.length - 1] += text
  }
}

function repeats(text: string | undefined): number {
  const times = Number(text ?? 1)
  return Number.isInteger(times) && times > 0 ? Math.min(times, MOST_REPEATS) : 1
}

/** Its value, of the type that it says (19.385), or else its text. */
function cellOf(attributes: Readonly<Record<string, string>>, text: string): SheetCell {
  const value = attributes['office:value'] ?? ''
  switch (attributes['office:value-type'] ?? attributes['calcext:value-type']) {
    case 'float':
    case 'currency':
      return { text: figureText(value), kind: 'figure' }
    case 'percentage':
      return { text: percentText(value), kind: 'figure' }
    case 'date':
      return { text: (attributes['office:date-value'] ?? '').replace(/T00:00(:00([.,]0+)?)?Z?$/, ''), kind: 'figure' }
    case 'boolean':
      return { text: attributes['office:boolean-value'] ?? '', kind: 'figure' }
    case 'time':
      return { text, kind: 'figure' }
    case 'string':
      return { text: attributes['office:string-value'] ?? text, kind: 'text' }
    default:
      return { text, kind: 'text' }
  }
}
