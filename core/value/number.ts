/**
 * Decimal numbers: IEEE 754-2008 decimal128 arithmetic (34 significant digits, half-even),
 * as DMN 1.5 clause 10.3.2.3.1 asks of FEEL numbers.
 *
 * A number travels between parts of the program as its decimal text; `Decimal` objects live
 * only inside a calculation.
 */
import { Decimal as Library } from 'decimal.js'

export const Decimal = Library.clone({
  precision: 34,
  rounding: Library.ROUND_HALF_EVEN,
  minE: -6143,
  maxE: 6144,
  toExpNeg: -40,
  toExpPos: 40,
})
export type Decimal = Library
export type Rounding = Library.Rounding

/** A number as decimal text, for example `12`, `-0.5` or `1e-7`. */
export type DecimalText = string

/** Up to this many significant digits, decimal text survives the way through a double unchanged. */
const SAFE_DIGITS = 15

/**
 * Whether the double nearest to `text` stands for exactly that decimal: reading the double back
 * as its shortest text gives the same number.
 */
export function isExactAsDouble(text: DecimalText): boolean {
  if (text.length <= SAFE_DIGITS) return true
  return new Decimal(String(Number(text))).eq(text)
}

/** The decimal text of a double that stands for exactly one decimal (see `isExactAsDouble`). */
export function decimalTextOf(double: number): DecimalText {
  // A double's own text is its decimal, unless it has an exponent.
  const text = String(double)
  return text.includes('e') ? plain(new Decimal(double)) : text
}

/** Decimal text without an exponent, trailing zeros or a sign on zero: one text for one number. */
export function plain(value: Decimal | DecimalText): DecimalText {
  const decimal = new Decimal(value)
  return decimal.isZero() ? '0' : decimal.toFixed()
}

/** Below 0, 0 or above 0, as `a` is less than, equal to or greater than `b`; exact. */
export function compareDecimals(a: DecimalText, b: DecimalText): number {
  return new Decimal(a).cmp(b)
}

/** How many digits stand after the decimal point of `text`; 0 for a whole number. */
export function decimalPlaces(text: DecimalText): number {
  return new Decimal(text).decimalPlaces()
}
