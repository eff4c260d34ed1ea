/** Where things stand on the cut line; all in pixels along its width. */
import { bandInterval } from '@dime-gate/core/gate/form'
import { plain, Decimal, type DecimalText } from '@dime-gate/core/value/number'
import { numberBetween } from '@dime-gate/core/value/number-between'
import type { Scale } from '@dime-gate/core/gate/document'
import type { Histogram } from '@dime-gate/core/table/histogram'
import { scaleLinear, type ScaleLinear } from 'd3-scale'

/** A post further out than this many times the stretch of the values stands at the end of the line: to show it in place would hide them. */
const FAR = 4

/**
 * The stretch drawn: where the values are, stretched to show every cut near them, and only a little past a floor or
 * ceiling. Whatever lies beyond it is drawn at its end.
 */
export function lineScale(gate: Scale, spread: Histogram | null, width: number): ScaleLinear<number, number> {
  const reach = spread ? FAR * (spread.to - spread.from || Math.abs(spread.to) || 1) : Infinity
  const isNear = (post: number) => !spread || (post >= spread.from - reach && post <= spread.to + reach)
  const posts = [...gate.cuts.map(({ at }) => at), gate.floor?.at, gate.ceiling?.at].filter((at) => at !== undefined).map(Number).filter(isNear)
  const shown = spread ? [gate.floor ? null : spread.from, gate.ceiling ? null : spread.to, ...posts].filter((value) => value !== null) : posts
  let [from, to] = shown.length > 0 ? [Math.min(...shown), Math.max(...shown)] : [0, 100]
  if (from === to) [from, to] = [from - 1, to + 1]
  // A post at the very end of the line could not be told from the end.
  const room = (to - from) * 0.03
  if (posts.includes(from)) from -= room
  if (posts.includes(to)) to += room
  return scaleLinear().domain([from, to]).range([0, width]).clamp(true)
}

/** One stretch alone, over the whole width. */
export function stretchScale(stretch: readonly [from: number, to: number], width: number): ScaleLinear<number, number> {
  return scaleLinear().domain(stretch).range([0, width]).clamp(true)
}

/**
 * The value under a pixel, rounded to what the eye can aim at: a step of two pixels or more, and no finer
 * than the column was measured.
 */
export function valueAtPixel(x: ScaleLinear<number, number>, pixel: number, places: number, round?: (value: number, step: number) => number): DecimalText {
  const [from, to] = x.domain() as [number, number]
  const [left, right] = x.range() as [number, number]
  const step = Math.max(aimableStep((2 * (to - from)) / (right - left)), 10 ** -places)
  if (round) return plain(new Decimal(round(x.invert(pixel), step)))
  const value = Math.round(x.invert(pixel) / step) * step
  return plain(new Decimal(value.toFixed(Math.max(0, Math.ceil(-Math.log10(step) - 1e-9)))))
}

function aimableStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 5, 10].map((factor) => factor * power).find((step) => step >= least * (1 - 1e-9))!
}

/** How far a key moves a cut: a round step that can be seen on the line, and no finer than the column was measured. */
export function keyStep(x: ScaleLinear<number, number>, places: number, isFine: boolean): Decimal {
  const [from, to] = x.domain() as [number, number]
  const power = Math.floor(Math.log10((to - from) / 1000) + 1e-9)
  const finest = new Decimal(10).pow(-places)
  const step = new Decimal(10).pow(power - (isFine ? 2 : 0))
  return step.lt(finest) ? finest : step
}

/** A first tolerance: of values with so many places half of the unit before the last of them. */
export function firstTolerance(places: number): DecimalText {
  return places === 0 ? '1' : new Decimal(5).times(new Decimal(10).pow(-places)).toFixed()
}

/** `at` moved by so many steps, onto a whole number of them. */
export function nudged(at: DecimalText, steps: number, step: Decimal): DecimalText {
  const from = new Decimal(at).div(step)
  const whole = steps < 0 ? from.ceil() : from.floor()
  return plain(whole.plus(steps).times(step))
}

/** A cut for the middle of the band that is drawn widest, or of `band` where one is chosen. */
export function middleOfBand(gate: Scale, x: ScaleLinear<number, number>, places: number, band: number | null, round?: (value: number, step: number) => number): DecimalText {
  const edges = [x.range()[0]!, ...gate.cuts.map(({ at }) => x(Number(at))), x.range()[1]!]
  const widths = edges.slice(1).map((_, index) => edges[index + 1]! - edges[index]!)
  const index = band ?? widths.indexOf(Math.max(...widths))
  const aimed = valueAtPixel(x, (edges[index]! + edges[index + 1]!) / 2, places, round)
  const { low, high } = bandInterval(gate, index)
  const [least, most] = [low && new Decimal(low.at), high && new Decimal(high.at)]
  // In a band too narrow to aim at, the value of the fewest digits that lies inside.
  if ((least?.gte(aimed) ?? false) || (most?.lte(aimed) ?? false)) return least && most ? plain(numberBetween(least, most)) : aimed
  return aimed
}

/** The outline of one distribution over the bars of another: where both stand equally high, equal parts of their records lie. @param most the height of the highest bar */
export function outlinePath(other: Histogram, under: Histogram, at: (value: number) => number, bottom: number, most: number): string {
  const density = ({ from, to, bins, below, above }: Histogram) => {
    const records = bins.reduce((sum, one) => sum + one, below + above)
    return bins.map((one) => one / Math.max(1, records) / ((to - from) / bins.length))
  }
  const unit = most / Math.max(...density(under), Number.MIN_VALUE)
  const step = (other.to - other.from) / other.bins.length
  const steps = density(other).map((one, bin) => `V${(bottom - Math.min(most, one * unit)).toFixed(1)}H${at(other.from + (bin + 1) * step).toFixed(1)}`)
  return `M${at(other.from).toFixed(1)} ${bottom}${steps.join('')}V${bottom}`
}

/** Puts labels of one width in as few rows as keep them apart; `centres` ascend. */
export function stagger(centres: number[], width: number): number[] {
  const ends: number[] = []
  return centres.map((centre) => {
    const free = ends.findIndex((end) => end <= centre - width / 2)
    const row = free < 0 ? ends.length : free
    ends[row] = centre + width / 2
    return row
  })
}

