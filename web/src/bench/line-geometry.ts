/** Where things stand on the cut line; all in pixels along its width. */
import { plain, Decimal, type DecimalText } from '@dime-gate/core/value/number'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { Histogram } from '@dime-gate/core/table/histogram'
import { scaleLinear, type ScaleLinear } from 'd3-scale'

/** The stretch drawn: where the values are, stretched to show every cut, and only a little past a floor or ceiling. */
export function lineScale(gate: ScaleGate, spread: Histogram | null, width: number): ScaleLinear<number, number> {
  const posts = [...gate.cuts.map(({ at }) => at), gate.floor?.at, gate.ceiling?.at].filter((at) => at !== undefined).map(Number)
  const shown = spread ? [gate.floor ? null : spread.from, gate.ceiling ? null : spread.to, ...posts].filter((value) => value !== null) : posts
  let [from, to] = shown.length > 0 ? [Math.min(...shown), Math.max(...shown)] : [0, 100]
  if (from === to) [from, to] = [from - 1, to + 1]
  // A post at the very end of the line could not be told from the end.
  const room = (to - from) * 0.03
  if (posts.includes(from)) from -= room
  if (posts.includes(to)) to += room
  return scaleLinear().domain([from, to]).range([0, width])
}

/**
 * The value under a pixel, rounded to what the eye can aim at: a step of two pixels or more, and no finer
 * than the column was measured.
 */
export function valueAtPixel(x: ScaleLinear<number, number>, pixel: number, places: number): DecimalText {
  const [from, to] = x.domain() as [number, number]
  const [left, right] = x.range() as [number, number]
  const step = Math.max(aimableStep((2 * (to - from)) / (right - left)), 10 ** -places)
  const value = Math.round(x.invert(pixel) / step) * step
  return plain(new Decimal(value.toFixed(Math.max(0, Math.ceil(-Math.log10(step) - 1e-9)))))
}

function aimableStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 5, 10].map((factor) => factor * power).find((step) => step >= least * (1 - 1e-9))!
}

/** `at` moved by `steps` of the column's finest place. */
export function nudged(at: DecimalText, steps: number, places: number): DecimalText {
  return plain(new Decimal(10).pow(-places).times(steps).plus(at))
}

/** A cut for the middle of the band that is drawn widest, or of `band` where one is chosen. */
export function middleOfBand(gate: ScaleGate, x: ScaleLinear<number, number>, places: number, band: number | null): DecimalText {
  const edges = [x.range()[0]!, ...gate.cuts.map(({ at }) => x(Number(at))), x.range()[1]!]
  const widths = gate.bands.map((_, index) => edges[index + 1]! - edges[index]!)
  const index = band ?? widths.indexOf(Math.max(...widths))
  return valueAtPixel(x, (edges[index]! + edges[index + 1]!) / 2, places)
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

