/** A file of any kind, read as a table in whole; for tests. */
import { readCell } from '@dime-gate/core/value/read-cell'
import type { ByteFile } from '../table/byte-file'
import { openFile } from '../table/open-file'
import { previewTable, type PreviewChoice } from '../table/preview'
import { recordsOfText } from '../table/read-records'
import { leadingRecords, readingOf, type TableSettings } from '../table/settings'

export function fileOf(bytes: Uint8Array): ByteFile {
  // In small pieces, so that whatever can be cut in two is.
  return { size: bytes.length, read: async (from, length) => bytes.subarray(from, from + Math.min(length, 1 << 16)) }
}

export interface WholeTable {
  kind: string
  sheets: string[]
  settings: TableSettings
  /** Each value as written. */
  texts: string[][]
  /** Each value as its column reads it: the value, `{ unreadable }`, or null. */
  values: (string | { unreadable: string } | null)[][]
}

export async function readWhole(bytes: Uint8Array, choice: PreviewChoice = {}): Promise<WholeTable> {
  const opened = await openFile(fileOf(bytes))
  const pieces: Uint8Array[] = []
  const plain = await opened.toPlain(
    choice.format?.sheet ?? null,
    (piece) => pieces.push(piece.slice()),
    () => undefined,
  )
  const text = plain ? Buffer.concat([plain.head, ...pieces]) : bytes
  const { settings } = previewTable(text, true, choice, plain)
  const { records, problem } = recordsOfText(new TextDecoder(settings.encoding).decode(text), settings.delimiter, true, {
    skip: settings.skip,
    width: settings.columns.length,
    isPadded: plain !== null,
  })
  if (problem) throw new Error(problem.message)
  const texts = records.slice(leadingRecords(settings))
  const values = texts.map((record) =>
    record.map((one, at) => {
      const cell = readCell(one, readingOf(settings, settings.columns[at]!))
      return cell.state === 'readable' ? cell.value : cell.state === 'blank' ? null : { unreadable: one }
    }),
  )
  return { kind: opened.kind, sheets: opened.sheets, settings, texts, values }
}
