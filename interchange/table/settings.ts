/** How a file is to be read as a table: detected from its start, and the reader's to change. */
import type { ColumnReading, ColumnType } from '@dime-gate/core/value/read-cell'
import type { DateOrder } from '@dime-gate/core/value/read-date'
import type { DecimalMark } from '@dime-gate/core/value/read-number'
import type { Encoding } from './decode'
import { fileError } from './problem'
import type { Delimiter } from './read-records'

export const FILE_KINDS = ['delimited text', 'XLSX', 'ODS', 'JSON', 'JSON Lines', 'Arrow'] as const
export type FileKind = (typeof FILE_KINDS)[number]

/** What is said of the file as a whole. */
export interface FileFormat {
  kind: FileKind
  /** The sheet of a workbook; null where the file has none. */
  sheet: string | null
  /** Lines above the table, which are no part of it. */
  skip: number
  encoding: Encoding
  delimiter: Delimiter
  /** Whether the first record names the columns. */
  hasHeader: boolean
  /** Whether the first record says what full marks are in each column. */
  hasFullMarks: boolean
  decimalMark: DecimalMark
  dateOrder: DateOrder
}

export interface ColumnPlan {
  /** The header as written; empty where the file has none. */
  header: string
  name: string
  unit: string
  type: ColumnType
  /** Percent columns: bare numbers are fractions of one. */
  fraction: boolean
  /** What a record can reach at most, as a decimal; null where nothing is said. */
  fullMarks: string | null
  /** Whether it tells who the record is. */
  isIdentity: boolean
  isLeftOut: boolean
}

export interface TableSettings extends FileFormat {
  columns: ColumnPlan[]
}

export const LONGEST_NAME = 200
export const LONGEST_UNIT = 40

/** A relation of the database holds at most 1,600 columns. */
export const MOST_COLUMNS = 1200

export function readingOf({ decimalMark, dateOrder }: FileFormat, { type, fraction }: ColumnPlan): ColumnReading {
  return { type, decimalMark, dateOrder, fraction }
}

/** Records before the first one that is kept. */
export function leadingRecords({ hasHeader, hasFullMarks }: FileFormat): number {
  return (hasHeader ? 1 : 0) + (hasFullMarks ? 1 : 0)
}

/** @throws FileError `same-name`, `no-columns` or `too-many-columns` */
export function checkColumns(all: readonly Pick<ColumnPlan, 'name' | 'isLeftOut'>[]): void {
  const columns = all.filter(({ isLeftOut }) => !isLeftOut)
  if (columns.length === 0) throw fileError('no-columns', 'The file has lines, but no columns. Its first line should name the columns.', 1, null)
  if (columns.length > MOST_COLUMNS) {
    throw fileError('too-many-columns', `The file has ${columns.length} columns; a table holds at most ${MOST_COLUMNS}. Choose another delimiter, or split the file.`, 1, MOST_COLUMNS + 1)
  }
  const seen = new Map<string, number>()
  columns.forEach(({ name }, index) => {
    const before = seen.get(name)
    if (before !== undefined) {
      const [first, second] = [columns[before]!, columns[index]!].map((one) => all.indexOf(one) + 1)
      throw fileError('same-name', `Columns ${first} and ${second} are both named “${name}” (line 1). Give one of them another name.`, 1, second!)
    }
    seen.set(name, index)
  })
}
