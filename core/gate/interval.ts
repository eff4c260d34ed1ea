/** A stretch of the number line: the unary test of a band (DMN 1.5 clause 7.3.2, intervals of FEEL clause 10.3.2.5). */
import { compareDecimals, Decimal, type DecimalText, plain } from '../value/number'

export interface Bound {
  /** A value in canonical text; here, and wherever a scale is edited by hand, a decimal. */
  at: DecimalText
  /** Whether the value `at` itself lies inside. */
  included: boolean
}

/** A null bound leaves that side open. */
export interface Interval {
  low: Bound | null
  high: Bound | null
}

/** Whether `value` lies in `interval`; exact. */
export function isInside(value: DecimalText, { low, high }: Interval): boolean {
  const number = new Decimal(value)
  if (low && !(low.included ? number.gte(low.at) : number.gt(low.at))) return false
  return !high || (high.included ? number.lte(high.at) : number.lt(high.at))
}

/** Whether no number at all lies in `interval`. */
export function isEmptyInterval({ low, high }: Interval): boolean {
  if (!low || !high) return false
  const order = compareDecimals(low.at, high.at)
  return order > 0 || (order === 0 && !(low.included && high.included))
}

/** The interval as a FEEL unary test: `[12..25)`, `< 12`, `>= 40`, or `-` where every value passes. */
export function intervalText({ low, high }: Interval): string {
  if (low && high) {
    return `${low.included ? '[' : '('}${plain(low.at)}..${plain(high.at)}${high.included ? ']' : ')'}`
  }
  if (low) return `${low.included ? '>=' : '>'} ${plain(low.at)}`
  if (high) return `${high.included ? '<=' : '<'} ${plain(high.at)}`
  return '-'
}
