/** The lines of a chart as neighbouring bands, and all that keeps them from being that. */
import type { Cut, ScaleGate } from '@dime-gate/core/gate/document'
import { type Bound, type Interval, intervalText, isEmptyInterval } from '@dime-gate/core/gate/interval'
import { compareDecimals, Decimal, type DecimalText } from '@dime-gate/core/value/number'
import type { Threshold } from './read-threshold'
import { type ChartRemark, remark } from './remark'

export interface ChartLine {
  row: number
  threshold: Threshold
  /** What the line gives, by column. */
  texts: string[]
}

export interface Bands {
  parts: (Pick<ScaleGate, 'cuts' | 'floor' | 'ceiling'> & {
    /** Null where a hole lies between two bands. */
    bands: (string[] | null)[]
  }) | null
  otherwise: string[] | null
  remarks: ChartRemark[]
}

interface Stretch extends Interval {
  row: number
  texts: string[]
}

/** @param isUpper whether bare numbers say where a band ends, instead of where it begins */
export function bandsFrom(lines: readonly ChartLine[], isUpper: boolean, lowest: DecimalText | null): Bands {
  const remarks: ChartRemark[] = []
  const rest = lines.filter(({ threshold }) => threshold.kind === 'otherwise')
  for (const line of rest.slice(1)) remarks.push(remark('repeated', 'error', 'The chart says twice what all others get.', line.row))
  const bare = lines.filter(({ threshold }) => threshold.kind === 'number')
  const isBareChart = bare.length === lines.length - rest.length || (!isUpper && areLowerEnds(lines))
  const stretches = lines.flatMap((line): Stretch[] => {
    const { threshold, row, texts } = line
    if (threshold.kind === 'otherwise') return []
    if (threshold.kind === 'interval') return [{ low: threshold.low, high: threshold.high, row, texts }]
    const at: Bound = { at: threshold.at, included: true }
    if (!isBareChart) return [{ low: at, high: at, row, texts }]
    return [isUpper ? { low: null, high: at, row, texts } : { low: at, high: null, row, texts }]
  })
  const backwards = stretches.filter((stretch) => isEmptyInterval(stretch))
  for (const { row, low, high } of backwards) remarks.push(remark('upside down', 'error', `No value lies from ${low!.at} to ${high!.at}. The lower end comes first.`, row))
  const points = stretches.filter(({ low, high }) => low && high && low.included && high.included && compareDecimals(low.at, high.at) === 0)
  for (const { row, low } of points) remarks.push(remark('single value', 'error', `${low!.at} alone is no band. Say where the band ends, as in ${low!.at}+ or ${low!.at}–${new Decimal(low!.at).plus(1).toFixed()}.`, row))
  const kept = distinct(stretches.filter((stretch) => !backwards.includes(stretch) && !points.includes(stretch)), remarks)
  if (kept.length === 0) {
    remarks.push(remark('no thresholds', 'error', 'No line says which values it is about, as 50, 50–64, 65+ or < 20 do.'))
    return { parts: null, otherwise: null, remarks }
  }
  const sorted = kept.toSorted((a, b) => compareLows(a.low, b.low) || compareHighs(a.high, b.high))
  const isDescending = kept.every((stretch, at) => stretch === sorted[sorted.length - 1 - at])
  if (!isDescending && kept.some((stretch, at) => stretch !== sorted[at])) remarks.push(remark('not in order', 'note', 'The lines are in no order; they were sorted.'))
  const ends = openEnds(sorted)
  const parts = neighbours(ends, rest[0]?.texts ?? null, remarks)
  tellLowest(parts.floor, ends[0]!, lowest, rest.length > 0, remarks)
  return { parts, otherwise: rest[0]?.texts ?? null, remarks }
}

/** Numbers by themselves beside a band below the least of them, or above the greatest, as in `80`, `50`, `below 50`: they begin bands too. */
function areLowerEnds(lines: readonly ChartLine[]): boolean {
  const bare = lines.flatMap(({ threshold }) => (threshold.kind === 'number' ? [threshold.at] : [])).toSorted(compareDecimals)
  const [least, most] = [bare[0], bare.at(-1)]
  return least !== undefined && lines.every(({ threshold }) => {
    if (threshold.kind !== 'interval') return true
    const { low, high } = threshold
    return low === null ? high !== null && compareDecimals(high.at, least) === 0 : high === null && compareDecimals(low.at, most!) > 0
  })
}

/** Of lines about the very same values the first stays. */
function distinct(stretches: readonly Stretch[], remarks: ChartRemark[]): Stretch[] {
  const seen = new Map<string, Stretch>()
  for (const stretch of stretches) {
    const key = intervalText(stretch)
    const before = seen.get(key)
    if (!before) seen.set(key, stretch)
    else if (before.texts.join('\n') === stretch.texts.join('\n')) remarks.push(remark('repeated', 'warning', `This says the same as line ${before.row}, and was left out.`, stretch.row))
    else remarks.push(remark('contradiction', 'error', `Line ${before.row} gives “${before.texts[0]}” to the same values, this one “${stretch.texts[0]}”. Take one of them out.`, stretch.row))
  }
  return [...seen.values()]
}

function compareLows(a: Bound | null, b: Bound | null): number {
  if (!a || !b) return (a ? 1 : 0) - (b ? 1 : 0)
  return compareDecimals(a.at, b.at) || Number(b.included) - Number(a.included)
}

function compareHighs(a: Bound | null, b: Bound | null): number {
  if (!a || !b) return (a ? 0 : 1) - (b ? 0 : 1)
  return compareDecimals(a.at, b.at) || Number(a.included) - Number(b.included)
}

/** Where a line leaves an end open, the next line's beginning, or the end of the one before, closes it. */
function openEnds(sorted: readonly Stretch[]): Stretch[] {
  return sorted.map((stretch, at) => {
    const [before, after] = [sorted[at - 1], sorted[at + 1]]
    const high = stretch.high ?? (after?.low ? { at: after.low.at, included: !after.low.included } : null)
    const low = stretch.low ?? (before?.high && at > 0 ? { at: before.high.at, included: !before.high.included } : null)
    return { ...stretch, low, high }
  })
}

function neighbours(stretches: readonly Stretch[], otherwise: string[] | null, remarks: ChartRemark[]): NonNullable<Bands['parts']> {
  const cuts: Cut[] = []
  const bands: (string[] | null)[] = []
  stretches.forEach((stretch, at) => {
    const before = stretches[at - 1]
    if (before) {
      const [high, low] = [before.high, stretch.low]
      const order = high && low ? compareDecimals(high.at, low.at) : 1
      if (order > 0) {
        remarks.push(remark('overlap', 'error', `These values are also those of line ${before.row}: ${intervalText(before)} and ${intervalText(stretch)}.`, stretch.row))
        return
      }
      if (order === 0) edge(cuts, before, stretch, remarks)
      else if (isStep(high!, low!)) {
        remarks.push(remark('step hole', 'warning', `Nothing is said of values between ${high!.at} and ${low!.at}; they go with those up to ${high!.at}.`, stretch.row))
        cuts.push({ at: low!.at, owner: 'above' })
      } else {
        remarks.push(remark('hole', 'warning', `Nothing is said of values between ${high!.at} and ${low!.at}; ${otherwise ? 'they get no label of their own' : 'they get no label'}.`, stretch.row))
        cuts.push({ at: high!.at, owner: high!.included ? 'below' : 'above' }, { at: low!.at, owner: low!.included ? 'above' : 'below' })
        bands.push(otherwise)
      }
    }
    bands.push(stretch.texts)
  })
  return { cuts, bands, floor: stretches[0]!.low, ceiling: stretches.at(-1)!.high }
}

/** A cut between two lines that meet on one value. */
function edge(cuts: Cut[], before: Stretch, after: Stretch, remarks: ChartRemark[]): void {
  const [isBelow, isAbove] = [before.high!.included, after.low!.included]
  const { at } = after.low!
  if (isBelow && isAbove) remarks.push(remark('shared edge', 'warning', `Line ${before.row} and this one both have ${at}; it goes with the upper.`, after.row))
  if (!isBelow && !isAbove) remarks.push(remark('hole', 'warning', `Neither line ${before.row} nor this one has ${at} itself; it goes with the upper.`, after.row))
  cuts.push({ at, owner: isBelow && !isAbove ? 'below' : 'above' })
}

/** Whether two numbers follow each other when counted in the last place that either has. */
function isStep(high: Bound, low: Bound): boolean {
  const [a, b] = [new Decimal(high.at), new Decimal(low.at)]
  const places = Math.max(a.decimalPlaces(), b.decimalPlaces())
  return high.included && low.included && b.minus(a).eq(new Decimal(10).pow(-places))
}

function tellLowest(floor: Bound | null, first: Stretch, lowest: DecimalText | null, hasOtherwise: boolean, remarks: ChartRemark[]): void {
  if (!floor || hasOtherwise) return
  const isTooHigh = lowest === null ? compareDecimals(floor.at, '0') > 0 : compareDecimals(floor.at, lowest) > 0 || (!floor.included && compareDecimals(floor.at, lowest) === 0)
  if (isTooHigh) remarks.push(remark('not low enough', 'warning', `Values below ${floor.at} get no label: the lowest line begins there${lowest === null ? '' : `, and there are values down to ${lowest}`}.`, first.row))
}
