/** An end of a range, as somebody types it. */
import { type ColumnType, isNumeric } from '@dime-gate/core/value/read-cell'
import { readDate } from '@dime-gate/core/value/read-date'
import { typedNumber } from '../shared/format'

/** @returns canonical text; null where that end is left open, undefined where it is no value of the type */
export function typedEnd(typed: string, type: ColumnType): string | null | undefined {
  if (typed.trim() === '') return null
  if (isNumeric(type)) return typedNumber(typed.replace('\u2212', '-')) ?? undefined
  const read = readDate(typed.trim(), 'day')
  return read.state === 'readable' ? read.value : undefined
}

/** What is said of one that is none. */
export function noEndWords(typed: string, type: ColumnType): string {
  return `“${typed}” is no ${type === 'date' ? 'date, as 2 Mar 2026' : 'number'}.`
}
