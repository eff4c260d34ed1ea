/** Numbers as the database writes them, read without a text for each: what most of a run's time would otherwise go to. */
import { emptyBitmap, setBit } from '@dime-gate/core/table/bitmap'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import { isExactAsDouble, plain } from '@dime-gate/core/value/number'
import type { CopiedRows } from '../database/copy-rows'

const [POINT, MINUS, ZERO, NINE] = [0x2e, 0x2d, 0x30, 0x39]
/** So many digits make a whole number that a double holds exactly, and whose tenths, hundredths … it comes nearest to. */
const SAFE_DIGITS = 15
const POWERS = Array.from({ length: SAFE_DIGITS + 1 }, (_, power) => 10 ** power)

/** @param unreadable the field with the texts that could not be read; null where there are none */
export function numbersFromCopy(rows: CopiedRows, field: number, unreadable: number | null): NumberColumn {
  const { length, bytes } = rows
  const doubles = new Float64Array(length)
  const valid = emptyBitmap(length)
  const exact = new Map<number, string>()
  const texts = new Map<number, string>()
  for (let row = 0; row < length; row++) {
    const [start, end] = [rows.start(row, field), rows.end(row, field)]
    const double = shortDecimal(bytes, start, end)
    if (!Number.isNaN(double)) {
      setBit(valid, row)
      doubles[row] = double
      continue
    }
    if (rows.isNull(row, field)) {
      const text = unreadable === null ? null : rows.text(row, unreadable)
      if (text !== null) texts.set(row, text)
      continue
    }
    setBit(valid, row)
    const text = rows.text(row, field)!
    doubles[row] = Number(text)
    if (!isExactAsDouble(text)) exact.set(row, plain(text))
  }
  return { kind: 'number', length, doubles, valid, exact, unreadable: texts }
}

/** The double of a decimal of no more than SAFE_DIGITS digits, for which it stands exactly; NaN where it is none. */
export function shortDecimal(bytes: Uint8Array, start: number, end: number): number {
  const isNegative = bytes[start] === MINUS
  const first = isNegative ? start + 1 : start
  let whole = 0
  let point = end
  for (let at = first; at < end; at++) {
    const byte = bytes[at]!
    if (byte >= ZERO && byte <= NINE) whole = whole * 10 + byte - ZERO
    else if (byte === POINT && point === end) point = at
    else return NaN
  }
  const digits = point === end ? end - first : end - first - 1
  if (digits === 0 || digits > SAFE_DIGITS) return NaN
  // One division of two whole numbers that doubles hold is rounded once, to the nearest (IEEE 754-2008 clause 5.4.1).
  const size = point < end - 1 ? whole / POWERS[end - point - 1]! : whole
  return isNegative && size !== 0 ? -size : size
}
