/**
 * The commonest cells, written straight from their bytes: plain numbers, ISO 8601 dates, ASCII text without white space
 * around it, or an apostrophe before it. They mean what `readCell` says they mean; whatever else there is, is left to it.
 */
import type { ColumnReading } from '@dime-gate/core/value/read-cell'
import { dayNumber, isCalendarDay } from '@dime-gate/core/value/calendar'
import type { BinaryRows } from '../database/copy-binary'

/** @returns whether the cell was plain, and is written now */
export type PlainWriter = (bytes: Uint8Array, start: number, end: number, into: BinaryRows) => boolean

const [SPACE, APOSTROPHE, MINUS, POINT, ZERO, NINE, DELETE] = [0x20, 0x27, 0x2d, 0x2e, 0x30, 0x39, 0x7f]
/** Digits that a double holds exactly, with a sign and a point. */
const LONGEST_NUMBER = 15
const DATE = '2026-03-02'.length

export function plainWriter({ type, decimalMark, fraction }: ColumnReading): PlainWriter {
  switch (type) {
    case 'number':
      return decimalMark === 'point' ? writeNumber : never
    case 'percent':
      return decimalMark === 'point' && !fraction ? writeNumber : never
    case 'date':
      return writeDate
    case 'text':
      return writeText
    case 'boolean':
      return never
  }
}

function never(): boolean {
  return false
}

/** No sign but a minus, no zero before other digits, digits on both sides of a point. */
function writeNumber(bytes: Uint8Array, start: number, end: number, into: BinaryRows): boolean {
  if (end - start > LONGEST_NUMBER) return false
  const isNegative = bytes[start] === MINUS
  const first = isNegative ? start + 1 : start
  let [point, isZero] = [end, true]
  for (let at = first; at < end; at++) {
    const byte = bytes[at]!
    if (byte === POINT && point === end) point = at
    else if (byte < ZERO || byte > NINE) return false
    else if (byte !== ZERO) isZero = false
  }
  if (point === first || first === end || point === end - 1) return false
  if ((bytes[first] === ZERO && point > first + 1) || (isNegative && isZero)) return false
  into.plainNumber(bytes, start, point, end)
  return true
}

function writeDate(bytes: Uint8Array, start: number, end: number, into: BinaryRows): boolean {
  if (end - start !== DATE || bytes[start + 4] !== MINUS || bytes[start + 7] !== MINUS) return false
  const day = { year: digits(bytes, start, start + 4), month: digits(bytes, start + 5, start + 7), day: digits(bytes, start + 8, end) }
  if (!(day.year >= 1) || !isCalendarDay(day)) return false
  into.day(dayNumber(day))
  return true
}

function writeText(bytes: Uint8Array, start: number, end: number, into: BinaryRows): boolean {
  if (bytes[start]! <= SPACE || bytes[end - 1]! <= SPACE || bytes[start] === APOSTROPHE) return false
  for (let at = start; at < end; at++) if (bytes[at]! >= DELETE) return false
  into.utf8(bytes, start, end)
  return true
}

/** Not a number where one of them is no digit. */
function digits(bytes: Uint8Array, start: number, end: number): number {
  let number = 0
  for (let at = start; at < end; at++) {
    const byte = bytes[at]!
    if (byte < ZERO || byte > NINE) return NaN
    number = number * 10 + byte - ZERO
  }
  return number
}
