/** The start of a file, looked at before it is read in whole: its format, its columns, its first records. */
import { readCell } from '@dime-gate/core/value/read-cell'
import { readHeader, suggestDateOrder, suggestDecimalMark, suggestReading } from '@dime-gate/core/table/suggest-column'
import { detectEncoding, textDecoding } from './decode'
import { FileError, fileError, type FileProblem } from './problem'
import { DELIMITERS, type Delimiter, recordsOfText } from './read-records'
import { checkColumns, type ColumnPlan, type FileFormat, type TableSettings } from './settings'

/** How much of a file is looked at, in bytes. */
export const PREVIEW_BYTES = 512 * 1024
const SHOWN_RECORDS = 20
/** Delimiters are told by so many lines, types by so many records. */
const PROBED_LINES = 40
const PROBED_RECORDS = 2000

export interface TablePreview {
  settings: TableSettings
  /** The first records, each value as written. */
  records: string[][]
  /** What already stands in the way of reading the file; null where nothing does. */
  problem: FileProblem | null
}

/**
 * @param start the file's first bytes, at most PREVIEW_BYTES
 * @param whole whether they are all of it
 * @param chosen what the reader has already decided; the rest is detected
 * @throws FileError where nothing can be shown: `empty`, `binary`, `encoding`, `no-columns`
 */
export function previewTable(start: Uint8Array, whole: boolean, chosen: Partial<FileFormat> = {}): TablePreview {
  const encoding = chosen.encoding ?? detectEncoding(start)
  const decoding = textDecoding(encoding)
  const text = decoding.decode(start) + (whole ? decoding.end() : '')
  if (text.length === 0) throw fileError('empty', 'The file is empty: it has no line at all. Choose a file with a line of column names and records below it.', 1, 1)
  if (text.trim() === '') throw fileError('no-columns', 'The file has lines, but no columns: every line is empty. Choose a file with a line of column names and records below it.', 1, 1)

  const delimiter = chosen.delimiter ?? detectDelimiter(text)
  const { records, problem } = recordsOfText(text, delimiter, whole)
  const [first, ...others] = records
  if (!first) throw new FileError(problem ?? { code: 'open-quote', message: 'The first line does not end. A quotation mark in it is probably never closed.', line: 1, column: 1 })

  const hasHeader = chosen.hasHeader ?? looksLikeHeader(first, others)
  const body = hasHeader ? others : records
  const probed = body.slice(0, PROBED_RECORDS)
  const texts = probed.flat()
  const decimalMark = chosen.decimalMark ?? suggestDecimalMark(texts)
  const dateOrder = chosen.dateOrder ?? suggestDateOrder(texts)
  const columns = first.map((written, index): ColumnPlan => {
    const header = hasHeader ? written : ''
    const { name, unit } = readHeader(header)
    const { type, fraction } = suggestReading(probed.map((record) => record[index] ?? ''), unit, decimalMark, dateOrder)
    return { header, name: name || `Column ${index + 1}`, unit, type, fraction }
  })
  return {
    settings: { encoding, delimiter, hasHeader, decimalMark, dateOrder, columns },
    records: body.slice(0, SHOWN_RECORDS),
    problem: problem ?? columnProblem(columns),
  }
}

function columnProblem(columns: ColumnPlan[]): FileProblem | null {
  try {
    checkColumns(columns)
    return null
  } catch (error) {
    if (error instanceof FileError) return error.problem
    throw error
  }
}

/** The delimiter that cuts the first lines into the most columns, all lines alike. */
function detectDelimiter(text: string): Delimiter {
  const probe = text.split(/\r\n|\r|\n/, PROBED_LINES).join('\n')
  let best: { delimiter: Delimiter; score: number } = { delimiter: ',', score: 0 }
  for (const delimiter of DELIMITERS) {
    const { records, problem } = recordsOfText(probe, delimiter)
    const width = records[0]?.length ?? 0
    // A delimiter that soon leaves lines ragged is likelier to be part of the values.
    const score = width > 1 ? (problem?.code === 'ragged' ? records.length / PROBED_LINES : width) : 0
    if (score > best.score) best = { delimiter, score }
  }
  return best.delimiter
}

/** A first record of names: all filled, none of them a number or date, unless the records below are no different. */
function looksLikeHeader(first: string[], others: string[][]): boolean {
  const isFigure = (text: string) =>
    (['number', 'date', 'percent'] as const).some((type) =>
      readCell(text, { type, decimalMark: 'point', dateOrder: 'day', fraction: false }).state === 'readable')
  if (first.every((text) => text.trim() === '')) return false
  const figures = first.filter(isFigure).length
  if (figures === 0) return true
  // Years and codes may be column names, as long as some name is none and its column holds figures.
  return first.some((text, index) => text.trim() !== '' && !isFigure(text) && others.length > 0 && others.every((record) => isFigure(record[index] ?? '')))
}
