/** The changes that can be made to a scale. Each gives a new gate, or says why it cannot be. */
import type { DecimalText } from '../value/number'
import { type CutEdit, type End, type Refusal, withCut, withCutMoved, withCuts, withEnd, withOwner, withOwners } from './edit-cuts'
import type { Bound } from './interval'
import { markFor, MARKS } from './mark'
import { isFromPalette, paletteColours, type PaletteName, PALETTE_NAMES } from './palette'
import type { Entry, Input, ScaleGate } from './document'
import { type Band, bandsOf, withBands } from './scale-gate'

export type Edit = { gate: ScaleGate } | { refused: Refusal }

/** Splits the band that `at` lies in; the new band is the upper part. Refused on or beyond an existing bound. */
export function addCut(gate: ScaleGate, at: DecimalText): Edit {
  const changed = withCut(gate, at)
  if ('refused' in changed) return changed
  const { scale: { cuts }, index } = changed
  const bands = bandsOf(gate).toSpliced(index + 1, 0, newBand(gate, index))
  const others = othersOf(gate).toSpliced(index + 1, 0, othersOf(gate)[index]!)
  return { gate: withColours(withBands({ ...gate, cuts }, bands, others), gate) }
}

export function moveCut(gate: ScaleGate, index: number, at: DecimalText): Edit {
  return edited(gate, withCutMoved(gate, index, at))
}

/** All cuts anew. Bands keep their order, from the lowest up; new ones come above. @param cuts strictly ascending */
export function setCuts(gate: ScaleGate, cuts: readonly DecimalText[]): Edit {
  const changed = withCuts(gate, cuts)
  if ('refused' in changed) return changed
  let next: ScaleGate = { ...gate, cuts: changed.scale.cuts }
  while (next.bands.length <= cuts.length) next = withBands(next, [...bandsOf(next), newBand(next, next.bands.length - 1)], [...othersOf(next), gate.outcomes.slice(1).map(() => null)])
  return { gate: withColours(withBands(next, bandsOf(next).slice(0, cuts.length + 1), othersOf(next)), gate) }
}

/**
 * What a chart says in place of all cuts, ends and bands. A label that the scale knows keeps its look; what bands give beside
 * the label is kept by it too.
 * @param chart on the same input
 */
export function takeChart(gate: ScaleGate, chart: ScaleGate): ScaleGate {
  const known = new Map(bandsOf(gate).map((band, at) => [band.label, { band, others: othersOf(gate)[at]! }]))
  const read = bandsOf(chart)
  const free = MARKS.filter((mark) => ![...known.values()].some(({ band }) => band.mark === mark))
  let next = 0
  const bands = read.map((band) => known.get(band.label)?.band ?? { ...band, mark: free[next++] ?? band.mark })
  const others = read.map(({ label }) => known.get(label)?.others ?? gate.outcomes.slice(1).map(() => null))
  const made = withBands({ ...gate, cuts: chart.cuts, floor: chart.floor, ceiling: chart.ceiling }, bands, others)
  // Colours in an order are spread anew, unless every label was there before.
  return read.every(({ label }) => known.has(label)) ? made : recolour(made, 'ordered')
}

/** Joins the two bands beside a cut; `keep` says which of them takes the values of both. */
export function removeCut(gate: ScaleGate, index: number, keep: 'below' | 'above'): ScaleGate {
  const lost = keep === 'below' ? index + 1 : index
  const changed = { ...gate, cuts: gate.cuts.toSpliced(index, 1) }
  return withColours(withBands(changed, bandsOf(gate).toSpliced(lost, 1), othersOf(gate).toSpliced(lost, 1)), gate)
}

export function setOwner(gate: ScaleGate, index: number, owner: 'below' | 'above'): ScaleGate {
  return { ...gate, cuts: withOwner(gate, index, owner).cuts }
}

/** All cut values to one side. */
export function setOwners(gate: ScaleGate, owner: 'below' | 'above'): ScaleGate {
  return { ...gate, cuts: withOwners(gate, owner).cuts }
}

/** What a band gives beside its label. */
export function giveBand(gate: ScaleGate, band: number, outcome: number, entry: Entry): ScaleGate {
  return { ...gate, bands: gate.bands.with(band, { entries: gate.bands[band]!.entries.with(outcome, entry) }) }
}

/** Ends the scale at a floor or ceiling, or with null opens it again. The end must lie beyond every cut. */
export function setEnd(gate: ScaleGate, end: End, bound: Bound | null): Edit {
  return edited(gate, withEnd(gate, end, bound))
}

function edited(gate: ScaleGate, change: CutEdit): Edit {
  if ('refused' in change) return change
  const { cuts, floor, ceiling } = change.scale
  return { gate: { ...gate, cuts, floor, ceiling } }
}

/** How near to a cut a value still asks for a look; null where only values on a cut do. */
export function setTolerance(gate: ScaleGate, tolerance: Input['tolerance']): ScaleGate {
  return { ...gate, inputs: gate.inputs.map((input) => (input.name === gate.on ? { ...input, tolerance } : input)) }
}

/** A changed colour or mark is the label's, so all bands of that label change. */
export function editBand(gate: ScaleGate, index: number, change: Partial<Band>): ScaleGate {
  const before = bandsOf(gate)
  const changed = before.with(index, { ...before[index]!, ...change })
  const { label, colour, mark } = changed[index]!
  return withBands(gate, changed.map((band) => (band.label === label && change.label === undefined ? { label, colour, mark } : band)), othersOf(gate))
}

export function recolour(gate: ScaleGate, palette: PaletteName): ScaleGate {
  const colours = paletteColours(palette, gate.bands.length)
  return withBands(gate, bandsOf(gate).map((band, index) => ({ ...band, colour: colours[index]! })), othersOf(gate))
}

/** What each band gives beside its label. */
function othersOf(gate: ScaleGate): Entry[][] {
  return gate.bands.map(({ entries }) => entries.slice(1))
}

function newBand(gate: ScaleGate, below: number): Band {
  const bands = bandsOf(gate)
  const labels = new Set(bands.map((band) => band.label))
  let number = gate.bands.length + 1
  while (labels.has(`Band ${number}`)) number++
  const marks = new Set(bands.map((band) => band.mark))
  return {
    label: `Band ${number}`,
    colour: bands[below]!.colour,
    mark: MARKS.find((mark) => !marks.has(mark)) ?? markFor(number),
  }
}

/** Bands that wear a palette go on wearing it, spread anew; colours chosen by hand are left alone. */
function withColours(changed: ScaleGate, before: ScaleGate): ScaleGate {
  const colours = bandsOf(before).map((band) => band.colour)
  const palette = PALETTE_NAMES.find((name) => isFromPalette(name, colours))
  return palette ? recolour(changed, palette) : changed
}
