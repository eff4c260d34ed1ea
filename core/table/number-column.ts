/** A column of numbers, laid out for work on all of its values at once. */
import { type DecimalText, decimalTextOf, isExactAsDouble } from '../value/number'
import { type Bitmap, emptyBitmap, hasBit, setBit } from './bitmap'
import { type Cell, fillColumn } from './cells'

export interface NumberColumn {
  readonly kind: 'number'
  readonly length: number
  /** The double nearest to each value; meaningless where `valid` says no. */
  readonly doubles: Float64Array
  /** Set where the record has a value: neither blank nor unreadable. */
  readonly valid: Bitmap
  /** The decimals that their doubles do not stand for exactly, by place; few or none. */
  readonly exact: ReadonlyMap<number, DecimalText>
  /** The texts that could not be read as numbers, by place. */
  readonly unreadable: ReadonlyMap<number, string>
}

/** @param cells decimals, blanks, and texts that could not be read */
export function numberColumn(cells: readonly Cell[]): NumberColumn {
  const doubles = new Float64Array(cells.length)
  const valid = emptyBitmap(cells.length)
  const exact = new Map<number, DecimalText>()
  const unreadable = fillColumn(cells, (at, text) => {
    doubles[at] = Number(text)
    setBit(valid, at)
    if (!isExactAsDouble(text)) exact.set(at, text)
  })
  return { kind: 'number', length: cells.length, doubles, valid, exact, unreadable }
}

/** The exact value of the record at place `at`, or null where it has none. */
export function decimalAt(column: NumberColumn, at: number): DecimalText | null {
  if (!hasBit(column.valid, at)) return null
  return column.exact.get(at) ?? decimalTextOf(column.doubles[at]!)
}
