/** Cuts that the values themselves suggest, each way with the records that its bands would have. */
import { Decimal, type DecimalText, plain } from '../value/number'
import { hasBit } from './bitmap'
import type { NumberColumn } from './number-column'

export type Way =
  /** As many records in each of so many bands, as near as values that repeat allow. */
  | { kind: 'counts'; bands: number }
  /** The highest, or the lowest, part of all records (0 to 1) in a band of its own. */
  | { kind: 'top' | 'bottom'; share: number }
  /** So many bands of one width, from the least value to the greatest. */
  | { kind: 'widths'; bands: number }
  /** In the widest stretches without a value. */
  | { kind: 'gaps'; bands: number }

export interface ProposedCuts {
  /** Ascending; a value on a cut belongs to the band above. Fewer than asked for where the values have no room for more. */
  cuts: DecimalText[]
  /** By band, lowest first. */
  records: number[]
}

type Values = Pick<NumberColumn, 'length' | 'doubles' | 'valid'>

/** A gap is none beside a few stray values: so many records, as a part of all, lie on either side of it. Among few records each counts. */
const FEWEST = 0.01
const FEW = 50

/** @param places decimal places that a cut has at most */
export function proposedCuts(column: Values, way: Way, places: number): ProposedCuts {
  const sorted = sortedValues(column)
  const found = sorted.length === 0 ? [] : cutsOf(sorted, way, places)
  const [least, most] = [sorted[0] ?? 0, sorted.at(-1) ?? 0]
  // A cut at the least value, or beyond the greatest, would leave a band empty.
  const cuts = [...new Set(found)].filter((at) => Number(at) > least && Number(at) <= most).toSorted((a, b) => Number(a) - Number(b))
  return { cuts, records: countsBetween(sorted, cuts.map(Number)) }
}

function cutsOf(sorted: Float64Array, way: Way, places: number): DecimalText[] {
  const rounded = (value: number, up = false) => plain(new Decimal(value).toDecimalPlaces(places, up ? Decimal.ROUND_CEIL : Decimal.ROUND_HALF_UP))
  const [least, most] = [sorted[0]!, sorted.at(-1)!]
  switch (way.kind) {
    case 'counts':
      return between(way.bands).map((part) => rounded(sorted[Math.min(sorted.length - 1, Math.round(part * sorted.length))]!))
    case 'top':
      return [rounded(sorted[Math.min(sorted.length - 1, Math.max(0, sorted.length - Math.round(way.share * sorted.length)))]!)]
    case 'bottom':
      return [rounded(sorted[Math.min(sorted.length - 1, Math.round(way.share * sorted.length))]!)]
    case 'widths':
      return between(way.bands).map((part) => rounded(new Decimal(most).minus(least).times(part).plus(least).toNumber()))
    case 'gaps':
      return widestGaps(sorted, way.bands - 1).map(([low, high]) => roundIn(low, high, places))
  }
}

const between = (bands: number) => Array.from({ length: Math.max(0, bands - 1) }, (_, at) => (at + 1) / bands)

function widestGaps(sorted: Float64Array, most: number): [low: number, high: number][] {
  const beside = sorted.length < FEW ? 1 : Math.max(2, Math.ceil(FEWEST * sorted.length))
  const gaps: [number, number][] = []
  for (let at = beside; at <= sorted.length - beside; at++) {
    if (sorted[at]! > sorted[at - 1]!) gaps.push([sorted[at - 1]!, sorted[at]!])
  }
  return gaps.sort(([a, b], [c, d]) => d - c - (b - a)).slice(0, most)
}

/** The roundest number in the upper part of a gap, so that what lies above it belongs above it. */
function roundIn(low: number, high: number, places: number): DecimalText {
  const [from, to] = [new Decimal(low), new Decimal(high)]
  const middle = from.plus(to).div(2)
  for (let digits = -Math.ceil(Math.log10(high - low)) - 1; digits <= places; digits++) {
    const unit = new Decimal(10).pow(-digits)
    const found = middle.div(unit).round().times(unit)
    if (found.gt(from) && found.lte(to)) return plain(found)
  }
  return plain(to)
}

function sortedValues(column: Values): Float64Array {
  const values = new Float64Array(column.length)
  let count = 0
  for (let at = 0; at < column.length; at++) if (hasBit(column.valid, at)) values[count++] = column.doubles[at]!
  return values.subarray(0, count).sort()
}

function countsBetween(sorted: Float64Array, cuts: readonly number[]): number[] {
  const ends = [...cuts.map((cut) => firstAtLeast(sorted, cut)), sorted.length]
  return ends.map((end, at) => end - (at === 0 ? 0 : ends[at - 1]!))
}

function firstAtLeast(sorted: Float64Array, value: number): number {
  let [from, to] = [0, sorted.length]
  while (from < to) {
    const middle = (from + to) >> 1
    if (sorted[middle]! < value) from = middle + 1
    else to = middle
  }
  return from
}

/** What cuts of one's own would come to. */
export function countedCuts(column: Values, cuts: readonly DecimalText[]): number[] {
  return countsBetween(sortedValues(column), cuts.map(Number))
}
