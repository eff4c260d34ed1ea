/** Sheets of an XLSX workbook (ISO/IEC 29500-1, transitional or strict): what its cells hold, formulas by their stored values. */
import { fileError } from '../table/problem'
import { scanXml } from './scan-xml'
import { dateText, figureText, type FigureLook, lookOfFormat, percentText } from './sheet-figures'
import type { SheetCell, SheetRows } from './sheet-rows'
import type { Archive } from './zip'

export interface XlsxBook {
  /** In their order; hidden ones last. */
  sheets: string[]
  read(sheet: string, rows: SheetRows): Promise<void>
}

const MOST_SMALL = 50_000_000
const MOST_TEXTS = 400_000_000
const MOST_SHEET = 4_000_000_000

/** @throws FileError where the archive is no workbook */
export async function openXlsx(archive: Archive): Promise<XlsxBook> {
  const main = (await related(archive, '')).find(({ type }) => type.endsWith('/officeDocument'))?.target
  if (!main) throw fileError('damaged', 'This is a ZIP archive, but no workbook that can be read. Choose an XLSX, an ODS or a text file.')
  const parts = await related(archive, main)
  const sheets: { name: string; id: string; isHidden: boolean }[] = []
  let from1904 = false
  await scanXml(archive.pieces(main, MOST_SMALL), main, {
    open(name, attributes) {
      if (name === 'workbookPr') from1904 = isTrue(attributes.date1904)
      if (name !== 'sheet') return
      const [, id] = Object.entries(attributes).find(([key]) => key.endsWith(':id')) ?? []
      sheets.push({ name: attributes.name ?? '', id: id ?? '', isHidden: (attributes.state ?? 'visible') !== 'visible' })
    },
  })
  const partOf = (ending: string) => parts.find(({ type }) => type.endsWith(ending))?.target
  let common: Promise<{ texts: string[]; looks: FigureLook[] }> | null = null
  const readCommon = async () => ({
    texts: await readTexts(archive, partOf('/sharedStrings')),
    looks: await readLooks(archive, partOf('/styles')),
  })
  // Charts have sheets of their own, without cells.
  const withCells = sheets.filter(({ id }) => parts.some((part) => part.id === id && part.type.endsWith('/worksheet')))
  return {
    sheets: [...withCells.filter(({ isHidden }) => !isHidden), ...withCells.filter(({ isHidden }) => isHidden)].map(({ name }) => name),
    async read(sheet, rows) {
      const found = withCells.find(({ name }) => name === sheet)
      if (!found) throw fileError('no-sheet', `The workbook has no sheet named “${sheet}”. Choose one of those it has.`)
      const { texts, looks } = await (common ??= readCommon())
      await readSheet(archive, parts.find(({ id }) => id === found.id)!.target, { texts, looks, from1904 }, rows)
    },
  }
}

interface Relationship {
  id: string
  type: string
  /** A path in the archive. */
  target: string
}

/** What a part stands in relation to (ISO/IEC 29500-2, 8.5). @param part the empty text for the archive itself */
async function related(archive: Archive, part: string): Promise<Relationship[]> {
  const folder = part.slice(0, part.lastIndexOf('/') + 1)
  const path = `${folder}_rels/${part.slice(folder.length)}.rels`
  const found: Relationship[] = []
  if (!archive.has(path)) return found
  await scanXml(archive.pieces(path, MOST_SMALL), path, {
    open(name, { Id = '', Type = '', Target = '', TargetMode }) {
      if (name === 'Relationship' && TargetMode !== 'External') found.push({ id: Id, type: Type, target: resolved(folder, Target) })
    },
  })
  return found
}

function resolved(folder: string, target: string): string {
  return new URL(target, `zip:///${folder}`).pathname.slice(1)
}

async function readTexts(archive: Archive, part: string | undefined): Promise<string[]> {
  const texts: string[] = []
  if (!part) return texts
  const reader = textReader()
  let text: string | null = null
  await scanXml(archive.pieces(part, MOST_TEXTS), part, {
    open(name) {
      if (name === 'si') text = ''
      reader.open(name)
    },
    close(name) {
      reader.close(name)
      if (name !== 'si') return
      texts.push(unescaped(text!))
      text = null
    },
    text(piece) {
      if (text !== null && reader.isText()) text += piece
    },
  })
  return texts
}

/** What is between `t` is text, unless it tells how to say another (18.4.6). */
function textReader() {
  let [inText, inPhonetic] = [false, false]
  return {
    open(name: string) {
      if (name === 't') inText = true
      if (name === 'rPh') inPhonetic = true
    },
    close(name: string) {
      if (name === 't') inText = false
      if (name === 'rPh') inPhonetic = false
    },
    isText: () => inText && !inPhonetic,
  }
}

/** By the number of a cell's format its look. */
async function readLooks(archive: Archive, part: string | undefined): Promise<FigureLook[]> {
  const looks: FigureLook[] = []
  if (!part) return looks
  const codes = new Map<number, string>()
  let inCells = false
  await scanXml(archive.pieces(part, MOST_SMALL), part, {
    open(name, { numFmtId, formatCode }) {
      if (name === 'numFmt') codes.set(Number(numFmtId), formatCode ?? '')
      if (name === 'cellXfs') inCells = true
      if (name === 'xf' && inCells) looks.push(lookOfFormat(Number(numFmtId ?? 0), codes.get(Number(numFmtId)) ?? null))
    },
    close(name) {
      if (name === 'cellXfs') inCells = false
    },
  })
  return looks
}

interface Common {
  texts: readonly string[]
  looks: readonly FigureLook[]
  from1904: boolean
}

/** Rows and cells say where they are, or follow the one before (18.3.1.4, 18.3.1.73). */
async function readSheet(archive: Archive, part: string, common: Common, rows: SheetRows): Promise<void> {
  const reader = textReader()
  let [row, column] = [-1, -1]
  let cells: (SheetCell | undefined)[] = []
  let [type, style] = ['n', 0]
  let [value, text] = ['', '']
  let inValue = false
  await scanXml(archive.pieces(part, MOST_SHEET), part, {
    open(name, attributes) {
      switch (name) {
        case 'row':
          row = attributes.r === undefined ? row + 1 : Number(attributes.r) - 1
          column = -1
          cells = []
          return
        case 'c':
          column = attributes.r === undefined ? column + 1 : columnOf(attributes.r)
          type = attributes.t ?? 'n'
          style = Number(attributes.s ?? 0)
          value = text = ''
          return
        case 'v':
          inValue = true
          return
        case 'mergeCell': {
          const [first, last] = (attributes.ref ?? '').split(':')
          if (first && last) rows.merge(rowOf(first), columnOf(first), rowOf(last), columnOf(last))
          return
        }
        default:
          reader.open(name)
      }
    },
    text(piece) {
      if (inValue) value += piece
      else if (reader.isText()) text += piece
    },
    close(name) {
      if (name === 'v') inValue = false
      else if (name === 'c')
        cells[column] = cellOf(type, type === 'inlineStr' ? unescaped(text) : value, common.looks[style] ?? 'figure', common)
      else if (name === 'row') rows.add(row, cells)
      else reader.close(name)
    },
  })
}

function cellOf(type: string, value: string, look: FigureLook, { texts, from1904 }: Common): SheetCell | undefined {
  const textCell = (text: string): SheetCell => ({ text, kind: look === 'text' ? 'kept text' : 'text' })
  switch (type) {
    case 's':
      return textCell(texts[Number(value)] ?? '')
    case 'str':
      return textCell(unescaped(value))
    case 'inlineStr':
    case 'e':
      return textCell(value)
    case 'b':
      return { text: value === '' ? '' : isTrue(value) ? 'true' : 'false', kind: 'figure' }
    case 'd':
      return { text: value.replace(/T00:00(:00(\.0+)?)?Z?$/, ''), kind: 'figure' }
    default:
      if (value === '') return undefined
      if (look === 'percent') return { text: percentText(value), kind: 'figure' }
      return { text: look === 'date' ? dateText(value, from1904) : figureText(value), kind: 'figure' }
  }
}

/** `_x000D_` and its kin stand for characters that XML cannot hold (22.9.2.19). */
function unescaped(text: string): string {
  return text.includes('_x') ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) => String.fromCharCode(parseInt(code, 16))) : text
}

function isTrue(text: string | undefined): boolean {
  return text === '1' || text === 'true'
}

/** Counted from 0, of a reference such as `AB12`. */
function columnOf(reference: string): number {
  let column = 0
  for (let at = 0; at < reference.length; at++) {
    const letter = (reference.charCodeAt(at) & 0xdf) - 0x40
    if (letter < 1 || letter > 26) break
    column = column * 26 + letter
  }
  return column - 1
}

function rowOf(reference: string): number {
  return Number(/\d+/.exec(reference)?.[0] ?? 1) - 1
}
