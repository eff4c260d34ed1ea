/** How a file is to be read as a table: detected from its start, and the reader's to change. */
import type { ColumnReading, ColumnType } from '@dime-gate/core/value/read-cell'
import type { DateOrder } from '@dime-gate/core/value/read-date'
import type { DecimalMark } from '@dime-gate/core/value/read-number'
import type { Encoding } from './decode'
import { fileError } from './problem'
import type { Delimiter } from './read-records'

/** What is said of the file as a whole. */
export interface FileFormat {
  encoding: Encoding
  delimiter: Delimiter
  /** Whether the first record names the columns. */
  hasHeader: boolean
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
}

export interface TableSettings extends FileFormat {
  columns: ColumnPlan[]
}

/** A relation of the database holds at most 1,600 columns. */
export const MOST_COLUMNS = 1200

export function readingOf({ decimalMark, dateOrder }: FileFormat, { type, fraction }: ColumnPlan): ColumnReading {
  return { type, decimalMark, dateOrder, fraction }
}

/** @throws FileError `same-name`, `no-columns` or `too-many-columns` */
export function checkColumns(columns: readonly Pick<ColumnPlan, 'name'>[]): void {
  if (columns.length === 0) throw fileError('no-columns', 'The file has lines, but no columns. Its first line should name the columns.', 1, null)
  if (columns.length > MOST_COLUMNS) {
    throw fileError('too-many-columns', `The file has ${columns.length} columns; a table holds at most ${MOST_COLUMNS}. Choose another delimiter, or split the file.`, 1, MOST_COLUMNS + 1)
  }
  const seen = new Map<string, number>()
  columns.forEach(({ name }, index) => {
    const before = seen.get(name)
    if (before !== undefined) {
      throw fileError('same-name', `Columns ${before + 1} and ${index + 1} are both named “${name}” (line 1). Give one of them another name.`, 1, index + 1)
    }
    seen.set(name, index)
  })
}
