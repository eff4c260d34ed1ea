/** How the values of a column are spread along the number line. */
import { hasBit } from './bitmap'
import type { NumberColumn } from './number-column'

export interface Histogram {
  /** Ends of the stretch that is drawn. */
  from: number
  to: number
  /** Records in each of the equal bins between them; a bin holds its lower end. */
  bins: number[]
  /** Records with values below `from` and above `to`: few, far out, and not drawn to scale. */
  below: number
  above: number
}

/** A column, or figures reckoned from several. */
type Values = Pick<NumberColumn, 'length' | 'doubles' | 'valid'>

const MOST_BINS = 80
/** Values further out than this many times the spread of the middle 98 % are left off the drawn stretch. */
const FAR = 1.5

/**
 * @param finest no bin is narrower; whole days are in whole bins
 * @param within only this stretch is drawn, and looked at as closely as a whole is
 * @returns null where there is no value at all
 */
export function histogram(column: Values, finest = 0, within: readonly [from: number, to: number] | null = null): Histogram | null {
  const all = sortedValues(column)
  const sorted = within ? all.filter((value) => value >= within[0] && value <= within[1]) : all
  if (sorted.length === 0) return null
  const [least, most] = [sorted[0]!, sorted[sorted.length - 1]!]
  const [low, high] = [quantile(sorted, 0.01), quantile(sorted, 0.99)]
  const reach = FAR * (high - low)
  const step = Math.max(finest, niceStep((reach > 0 ? Math.min(most, high + reach) - Math.max(least, low - reach) : most - least) || Math.abs(most) || 1))
  const from = Math.floor((reach > 0 ? Math.max(least, low - reach) : least) / step) * step
  // A bin holds its lower end, so the greatest value needs a bin that begins at or before it.
  const count = Math.min(MOST_BINS + 2, Math.floor(((reach > 0 ? Math.min(most, high + reach) : most) - from) / step + 1e-9) + 1)
  const to = from + count * step
  const bins = new Array<number>(count).fill(0)
  let below = 0
  let above = 0
  for (const value of sorted) {
    // The nudge puts 0.3 in the bin that begins at 3 × 0.1; a picture may round, a decision may not.
    const bin = Math.floor((value - from) / step + 1e-9)
    if (bin < 0) below++
    else if (bin >= count) above++
    else bins[bin]!++
  }
  const before = within ? all.findIndex((value) => value >= within[0]) : 0
  return { from, to, bins, below: below + before, above: above + all.length - sorted.length - before }
}

function sortedValues(column: Values): Float64Array {
  const values = new Float64Array(column.length)
  let count = 0
  for (let at = 0; at < column.length; at++) {
    if (hasBit(column.valid, at)) values[count++] = column.doubles[at]!
  }
  return values.subarray(0, count).sort()
}

function quantile(sorted: Float64Array, share: number): number {
  return sorted[Math.round((sorted.length - 1) * share)]!
}

/** The smallest of 1, 2, 2.5 or 5 times a power of ten that divides `span` into at most MOST_BINS. */
function niceStep(span: number): number {
  const least = span / MOST_BINS
  const power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 2.5, 5, 10].map((factor) => factor * power).find((step) => step >= least * (1 - 1e-9))!
}
