/** One cell: its text as written, read as its column's type says. */
import { type DateOrder, readDate } from './read-date'
import { type DecimalMark, readNumber, readPercent } from './read-number'
import type { ValueKind } from './value'
import { unguardText } from './guarded-text'
import { BLANK, type Reading, readable, unreadable } from './reading'

export const COLUMN_TYPES = ['number', 'percent', 'date', 'text', 'boolean'] as const
export type ColumnType = (typeof COLUMN_TYPES)[number]

/** How the texts of a column are read. Only the parts that concern its type count. */
export interface ColumnReading {
  type: ColumnType
  decimalMark: DecimalMark
  dateOrder: DateOrder
  /** Percent columns: bare numbers are fractions of one (0.72 for 72 %), not points. */
  fraction: boolean
}

/** ASCII text is in every normal form already. */
const IS_ASCII = /^[\x00-\x7f]*$/

const TRUE = new Set(['true', 'yes', 'y'])
const FALSE = new Set(['false', 'no', 'n'])

/**
 * Reads a cell. White space around the text does not count; text of white space alone is blank.
 * @returns the value in its canonical text: a decimal, an ISO 8601 date, `true` or `false`,
 *   or trimmed NFC text. Never throws.
 */
export function readCell(written: string, column: ColumnReading): Reading<string> {
  const text = written.trim()
  if (text === '') return BLANK
  switch (column.type) {
    case 'number':
      return readNumber(text, column.decimalMark)
    case 'percent':
      return readPercent(text, column.decimalMark, column.fraction)
    case 'date':
      return readDate(text, column.dateOrder)
    case 'boolean':
      return readBoolean(text)
    case 'text':
      return readText(text)
  }
}

function readText(text: string): Reading<string> {
  const plain = unguardText(text).trim()
  if (plain === '') return BLANK
  return readable(IS_ASCII.test(plain) ? plain : plain.normalize('NFC'))
}

function readBoolean(text: string): Reading<string> {
  const folded = text.toLowerCase()
  if (TRUE.has(folded)) return readable('true')
  return FALSE.has(folded) ? readable('false') : unreadable('not-a-boolean')
}

/** The kind of value that a column of this type holds. */
export function kindOfColumn(type: ColumnType): ValueKind {
  return type === 'percent' ? 'number' : type
}

/** Whether values of this type lie on a number line, so that cuts can be set on them. */
export function isNumeric(type: ColumnType): boolean {
  return type === 'number' || type === 'percent'
}

/** Whether values of this type can be put in order along a line, so that a range of them can be asked for. */
export function isOnLine(type: ColumnType): boolean {
  return isNumeric(type) || type === 'date'
}
