/** Which records of a column lie in a piece of its axis, found by looking at each once. */
import type { Bitmap } from '../table/bitmap'
import { emptyBitmap } from '../table/bitmap'
import { BLANK_CODE, type DictionaryColumn } from '../table/dictionary-column'
import { decimalAt, type NumberColumn } from '../table/number-column'
import { areEqual, isInRange } from '../value/compare'
import { Decimal, decimalTextOf } from '../value/number'
import type { RangeValue, Value } from '../value/value'
import { isPoint } from './simple-test'

/** Whether `value` lies in `piece`; null where they cannot be compared. */
export function isInPiece(value: Value, piece: RangeValue): boolean | null {
  return isPoint(piece) ? areEqual(value, piece.low) : isInRange(value, piece)
}

/** The records with a value in any of `pieces`, exactly; blanks lie in none. */
export function scanNumbers(column: NumberColumn, pieces: readonly RangeValue[]): Bitmap {
  const found = emptyBitmap(column.length)
  const ends = new Set<number>()
  for (const { low, high, lowIncluded, highIncluded } of pieces) {
    const [from, to] = [low === null ? null : bound(low as Decimal), high === null ? null : bound(high as Decimal)]
    scanDoubles(column.doubles, from ? firstDouble(from, lowIncluded) : -Infinity, to ? firstDouble(to, !highIncluded) : Infinity, found.words)
    for (const end of [from, to]) if (end) ends.add(end.double)
  }
  // Rounding to doubles keeps order, so only decimals that share their double with an end need care.
  for (const at of column.exact.keys()) {
    if (!ends.has(column.doubles[at]!)) continue
    const [value, bit] = [new Decimal(decimalAt(column, at)!), 1 << (at & 31)]
    if (pieces.some((piece) => isInRange(value, piece))) found.words[at >>> 5]! |= bit
    else found.words[at >>> 5]! &= ~bit
  }
  const { words } = column.valid
  for (let i = 0; i < found.words.length; i++) found.words[i]! &= words[i]!
  return found
}

interface DoubleBound {
  double: number
  /** Below 0, 0 or above 0, as the decimal that the double stands for is less than, equal to or greater than the bound. */
  order: number
}

function bound(value: Decimal): DoubleBound {
  const double = value.toNumber()
  return { double, order: Number.isFinite(double) ? new Decimal(decimalTextOf(double)).cmp(value) : 0 }
}

/** The least double whose decimal is at least the bound, or with `included` false greater than it. */
function firstDouble({ double, order }: DoubleBound, included: boolean): number {
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
