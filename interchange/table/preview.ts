/** The start of a file, looked at before it is read in whole: its format, its columns, its first records. */
import { COLUMN_TYPES, readCell } from '@dime-gate/core/value/read-cell'
import { readHeader, suggestDateOrder, suggestDecimalMark, suggestReading } from '@dime-gate/core/table/suggest-column'
import { detectEncoding, textDecoding } from './decode'
import { detectDelimiter, detectSkip, detectWidth, probedRows } from './detect-layout'
import { FileError, fileError, type FileProblem } from './problem'
import { recordsOfText } from './read-records'
import { LONGEST_NAME, LONGEST_UNIT, checkColumns, type ColumnPlan, type FileFormat, type FileKind, leadingRecords, type TableSettings } from './settings'

/** How much of a file is looked at, in bytes. */
export const PREVIEW_BYTES = 512 * 1024
const SHOWN_RECORDS = 20
const PROBED_RECORDS = 2000

export interface TablePreview {
  settings: TableSettings
  /** The first records, each value as written. */
  records: string[][]
  /** What already stands in the way of reading the file; null where nothing does. */
  problem: FileProblem | null
}

/** A file that is no delimited text, made into one: UTF-8, commas, points, and dates by their year. */
export interface PlainTable {
  kind: FileKind
  sheet: string | null
  width: number
  /** What the file itself says of its columns: by place, null where it says nothing, and by head. */
  declared: (Partial<ColumnPlan> | null)[]
  named: Readonly<Record<string, Partial<ColumnPlan>>>
  /** Whether its first line names the columns in any case. */
  isKeyed: boolean
}

/** What the reader has decided: of the file as a whole, and of columns by their place. */
export interface PreviewChoice {
  format?: Partial<FileFormat>
  columns?: Readonly<Record<number, Partial<ColumnPlan>>>
}

const PLAIN = { encoding: 'utf-8', delimiter: ',', decimalMark: 'point', dateOrder: 'year' } as const

/**
 * @param start the first bytes, at most PREVIEW_BYTES
 * @param whole whether they are all of it
 * @param chosen what is left open in it is detected
 * @param plain what is known of a file that was no delimited text
 * @throws FileError where nothing can be shown: `empty`, `binary`, `encoding`, `no-columns`
 */
export function previewTable(start: Uint8Array, whole: boolean, { format: chosen = {}, columns: edits = {} }: PreviewChoice = {}, plain: PlainTable | null = null): TablePreview {
  const encoding = plain ? PLAIN.encoding : (chosen.encoding ?? detectEncoding(start))
  const decoding = textDecoding(encoding)
  const text = decoding.decode(start) + (whole ? decoding.end() : '')
  if (text.length === 0) throw fileError('empty', 'The file is empty: it has no line at all. Choose a file with a line of column names and records below it.', 1, 1)
  if (text.trim() === '') throw fileError('no-columns', 'The file has lines, but no columns: every line is empty. Choose a file with a line of column names and records below it.', 1, 1)

  const delimiter = plain ? PLAIN.delimiter : (chosen.delimiter ?? detectDelimiter(text))
  const skip = chosen.skip ?? (plain?.isKeyed ? 0 : detectSkip(probedRows(text, delimiter)))
  const width = plain?.width ?? detectWidth(text, delimiter, skip)
  const { records, problem } = recordsOfText(text, delimiter, whole, { skip, width, isPadded: plain !== null })
  const [first, ...others] = records
  if (!first) throw new FileError(problem ?? (skip > 0
    ? { code: 'no-columns', message: `All of the file is left out: ${skip} lines above the table, and nothing below them. Leave out fewer.`, line: 1, column: 1 }
    : { code: 'open-quote', message: 'The first line does not end. A quotation mark in it is probably never closed.', line: 1, column: 1 }))

  const hasHeader = plain?.isKeyed || (chosen.hasHeader ?? looksLikeHeader(first, others))
  const hasFullMarks = chosen.hasFullMarks ?? (hasHeader && looksLikeFullMarks(others[0]))
  const body = records.slice(leadingRecords({ hasHeader, hasFullMarks } as FileFormat))
  const marks = hasFullMarks ? records[hasHeader ? 1 : 0] : undefined
  const probed = body.slice(0, PROBED_RECORDS)
  const texts = probed.flat()
  const decimalMark = plain ? PLAIN.decimalMark : (chosen.decimalMark ?? suggestDecimalMark(texts))
  const dateOrder = plain && plain.kind !== 'JSON' && plain.kind !== 'JSON Lines' ? (chosen.dateOrder ?? PLAIN.dateOrder) : (chosen.dateOrder ?? suggestDateOrder(texts))
  const columns = first.map((written, index): ColumnPlan => {
    const header = hasHeader ? written : ''
    const { name, unit, fullMarks } = readHeader(header)
    const values = probed.map((record) => record[index] ?? '')
    const { type, fraction } = suggestReading(values, unit, decimalMark, dateOrder)
    const told = marks?.[index] === undefined ? null : readCell(marks[index], { type: 'number', decimalMark, dateOrder, fraction: false })
    return {
      header, name: name.slice(0, LONGEST_NAME).trim() || `Column ${index + 1}`, unit, type, fraction,
      fullMarks: told?.state === 'readable' ? told.value : fullMarks, isIdentity: false, isLeftOut: false,
      ...saidOf(plain, index, header),
    }
  })
  const who = columns.findIndex(({ type }, index) => type === 'text' && areDistinct(probed.map((record) => record[index] ?? '')))
  if (who >= 0 && !columns.some(({ isIdentity }) => isIdentity)) columns[who]!.isIdentity = true
  const edited = columns.map((column, index) => ({ ...column, ...edits[index] }))
  return {
    settings: { kind: plain?.kind ?? 'delimited text', sheet: plain?.sheet ?? null, skip, encoding, delimiter, hasHeader, hasFullMarks, decimalMark, dateOrder, columns: edited },
    records: body.slice(0, SHOWN_RECORDS),
    problem: problem ?? columnProblem(edited),
  }
}

/** What a file says of a column is looked at, as all that comes from outside: nothing but what can be said of a column. */
function saidOf(plain: PlainTable | null, index: number, header: string): Partial<ColumnPlan> {
  const { name, unit, type, fraction, fullMarks, isIdentity } = { ...plain?.declared[index], ...(Object.hasOwn(plain?.named ?? {}, header) ? plain?.named[header] : {}) }
  return {
    ...(typeof name === 'string' && name.trim() !== '' ? { name: name.slice(0, LONGEST_NAME) } : {}), ...(typeof unit === 'string' ? { unit: unit.slice(0, LONGEST_UNIT) } : {}),
    ...(COLUMN_TYPES.includes(type!) ? { type: type! } : {}), ...(typeof fraction === 'boolean' ? { fraction } : {}),
    ...(typeof fullMarks === 'string' && /^\d{1,9}(\.\d{1,9})?$/.test(fullMarks) ? { fullMarks } : {}), ...(typeof isIdentity === 'boolean' ? { isIdentity } : {}),
  }
}

function areDistinct(values: readonly string[]): boolean {
  return values.length > 1 && values.every((value) => value.trim() !== '') && new Set(values).size === values.length
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

/** Of one line below the names: what its first filled value calls it. */
const FULL_MARKS = /^(?:out of|full marks|max(?:imum)?(?: marks| points)?\.?|points possible|possible(?: points)?)$/i

function looksLikeFullMarks(record: readonly string[] | undefined): boolean {
  return FULL_MARKS.test(record?.find((text) => text.trim() !== '')?.trim() ?? '')
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
