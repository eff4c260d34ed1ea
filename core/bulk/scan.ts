/** Which records of a column lie in a piece of its axis, found by looking at each once. */
import { type Bitmap, emptyBitmap, unionOf } from '../table/bitmap'
import { BLANK_CODE, type DictionaryColumn } from '../table/dictionary-column'
import { decimalAt, type NumberColumn } from '../table/number-column'
import { isInRange } from '../value/compare'
import { Decimal, decimalTextOf } from '../value/number'
import type { RangeValue } from '../value/value'

/** The doubles that stand for the decimals of a piece: from the first up to, not including, the second. */
export function stretchOf({ low, high, lowIncluded, highIncluded }: RangeValue): [from: number, to: number] {
  return [low === null ? -Infinity : firstDouble(low as Decimal, lowIncluded), high === null ? Infinity : firstDouble(high as Decimal, !highIncluded)]
}

/**
 * The records with a value in any of `pieces`, exactly. Of records without a value it says nothing.
 * @param quickly may know a quicker way to the records of a piece, by their doubles
 */
export function scanNumbers(column: NumberColumn, pieces: readonly RangeValue[], quickly: (piece: RangeValue) => Bitmap | null): Bitmap {
  const each = pieces.map((piece) => {
    const known = quickly(piece)
    if (known) return known
    const found = emptyBitmap(column.length)
    scanDoubles(column.doubles, ...stretchOf(piece), found.words)
    return found
  })
  const found = each.length === 1 ? each[0]! : unionOf(each, column.length)
  const ends = new Set(pieces.flatMap(({ low, high }) => [low, high]).filter((end) => end !== null).map((end) => (end as Decimal).toNumber()))
  // Rounding to doubles keeps order, so only decimals that share their double with an end need care.
  for (const at of column.exact.keys()) {
    if (!ends.has(column.doubles[at]!)) continue
    const [value, bit] = [new Decimal(decimalAt(column, at)!), 1 << (at & 31)]
    if (pieces.some((piece) => isInRange(value, piece))) found.words[at >>> 5]! |= bit
    else found.words[at >>> 5]! &= ~bit
  }
  return found
}

/** The least double whose decimal is at least the bound, or with `included` false greater than it. */
function firstDouble(bound: Decimal, included: boolean): number {
  const double = bound.toNumber()
  const order = Number.isFinite(double) ? new Decimal(decimalTextOf(double)).cmp(bound) : 0
  return order > 0 || (order === 0 && included) ? double : nextUp(double)
}

const view = new DataView(new ArrayBuffer(8))

/** IEEE 754-2008 clause 5.3.1. */
function nextUp(double: number): number {
  if (double === Infinity) return double
  if (double === 0) return Number.MIN_VALUE
  view.setFloat64(0, double)
  const bits = view.getBigInt64(0)
  view.setBigInt64(0, double > 0 ? bits + 1n : bits - 1n)
  return view.getFloat64(0)
}

/** Sets the bits of the doubles from `from` up to, not including, `to`. */
function scanDoubles(doubles: Float64Array, from: number, to: number, words: Uint32Array): void {
  const { length } = doubles
  const whole = length >>> 5
  // Arithmetic in place of branches, which values in no order would make the processor guess wrongly; one comparison
  // where one is enough, and four at a time.
  if (to === Infinity) {
    for (let i = 0, at = 0; i < whole; i++) {
      let word = 0
      for (let bit = 0; bit < 32; bit += 4, at += 4) {
        word |= (Number(doubles[at]! >= from) | (Number(doubles[at + 1]! >= from) << 1) | (Number(doubles[at + 2]! >= from) << 2) | (Number(doubles[at + 3]! >= from) << 3)) << bit
      }
      words[i]! |= word
    }
  } else if (from === -Infinity) {
    for (let i = 0, at = 0; i < whole; i++) {
      let word = 0
      for (let bit = 0; bit < 32; bit += 4, at += 4) {
        word |= (Number(doubles[at]! < to) | (Number(doubles[at + 1]! < to) << 1) | (Number(doubles[at + 2]! < to) << 2) | (Number(doubles[at + 3]! < to) << 3)) << bit
      }
      words[i]! |= word
    }
  } else {
    for (let i = 0, at = 0; i < whole; i++) {
      let word = 0
      for (let bit = 0; bit < 32; bit++, at++) word |= (Number(doubles[at]! >= from) & Number(doubles[at]! < to)) << bit
      words[i]! |= word
    }
  }
  for (let at = whole << 5; at < length; at++) if (doubles[at]! >= from && doubles[at]! < to) words[at >>> 5]! |= 1 << (at & 31)
}

/** The records whose value's verdict in `wanted` is set, by the code of the value; `blank` speaks for records without one. */
export function scanCodes({ codes }: DictionaryColumn, wanted: Uint8Array, blank: number): Bitmap {
  const found = emptyBitmap(codes.length)
  // One place further, so that the code of a blank has one too.
  const by = new Uint8Array(wanted.length + 1)
  by[0] = blank
  by.set(wanted, 1)
  const { words } = found
  const whole = codes.length >>> 5
  for (let i = 0, at = 0; i < whole; i++) {
    let word = 0
    for (let bit = 0; bit < 32; bit += 4, at += 4) {
      word |= (by[codes[at]! - BLANK_CODE]! | (by[codes[at + 1]! - BLANK_CODE]! << 1) | (by[codes[at + 2]! - BLANK_CODE]! << 2) | (by[codes[at + 3]! - BLANK_CODE]! << 3)) << bit
    }
    words[i] = word
  }
  for (let at = whole << 5; at < codes.length; at++) words[at >>> 5]! |= by[codes[at]! - BLANK_CODE]! << (at & 31)
  return found
}
