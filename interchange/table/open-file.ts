/** Any file that a table can be in: what kind it is, and its records as plain text. */
import { isArrowFile, isArrowStream, readArrow } from '../keyed/read-arrow'
import { type JsonLayout, jsonLayout, readJson } from '../keyed/read-json'
import { KeyedRows } from '../keyed/keyed-rows'
import { columnNotes } from '../sheet/column-notes'
import { openOds } from '../sheet/read-ods'
import { openXlsx } from '../sheet/read-xlsx'
import { SheetRows } from '../sheet/sheet-rows'
import { openArchive } from '../sheet/zip'
import { type ByteFile, piecesOf } from './byte-file'
import type { PlainTable } from './preview'
import type { FileKind } from './settings'

/** A file made into delimited text: `head` comes before all that was written. */
export interface PlainFile extends PlainTable {
  head: Uint8Array
}

export interface OpenedFile {
  kind: FileKind
  /** None, but for workbooks. */
  sheets: string[]
  /**
   * @param sheet null for the first, or where there are none
   * @param write takes the text, piece by piece, each until the next
   * @param told is told of records, now and then
   * @returns null for delimited text, which is left as it is
   */
  toPlain(sheet: string | null, write: (piece: Uint8Array) => void, told: (records: number) => void): Promise<PlainFile | null>
}

const START = 1 << 16

/** @throws FileError where it looks like a workbook and is none */
export async function openFile(file: ByteFile): Promise<OpenedFile> {
  const start = await file.read(0, START)
  if (isArchive(start)) return openBook(file)
  if (isArrowFile(start) || isArrowStream(start)) {
    return { kind: 'Arrow', sheets: [], toPlain: (_, write, told) => fromKeyed('Arrow', write, told, (rows) => readArrow(file, rows)) }
  }
  const layout = jsonLayout(start)
  if (layout && looksLikeJson(start, layout)) {
    const kind = layout === 'lines' ? 'JSON Lines' : 'JSON'
    return { kind, sheets: [], toPlain: (_, write, told) => fromKeyed(kind, write, told, (rows) => readJson(piecesOf(file), layout, rows)) }
  }
  return { kind: 'delimited text', sheets: [], toPlain: async () => null }
}

async function openBook(file: ByteFile): Promise<OpenedFile> {
  const archive = await openArchive(file)
  const isOds = archive.has('content.xml')
  const book = await (isOds ? openOds(archive) : openXlsx(archive))
  const kind = isOds ? 'ODS' : 'XLSX'
  return {
    kind,
    sheets: book.sheets,
    async toPlain(wanted, write, told) {
      const sheet = wanted ?? book.sheets[0] ?? ''
      const rows = new SheetRows(write, told)
      await book.read(sheet, rows)
      const { head, width, declared } = rows.finish()
      return { kind, sheet, head, width, declared, named: await columnNotes(archive), isKeyed: false }
    },
  }
}

async function fromKeyed(
  kind: FileKind,
  write: (piece: Uint8Array) => void,
  told: (records: number) => void,
  read: (rows: KeyedRows) => Promise<PlainFile['declared'] | void>,
): Promise<PlainFile> {
  const rows = new KeyedRows(write, told)
  const said = await read(rows)
  const { head, width, declared } = rows.finish()
  return { kind, sheet: null, head, width, declared: said ?? declared, named: {}, isKeyed: true }
}

function isArchive(start: Uint8Array): boolean {
  return start[0] === 0x50 && start[1] === 0x4b && (start[2] === 0x03 || start[2] === 0x05)
}

/** A line of delimited text may begin with a bracket too; JSON goes on with a value, or the end of the list. */
function looksLikeJson(start: Uint8Array, layout: JsonLayout): boolean {
  const text = new TextDecoder()
    .decode(start.subarray(0, 200))
    .replace(/^\ufeff/, '')
    .trimStart()
  return layout === 'array' ? /^\[\s*[{\]]/.test(text) : /^\{\s*["}]/.test(text)
}
