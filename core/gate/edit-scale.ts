/** The changes that can be made to a scale. Each gives a new gate, or says why it cannot be. */
import { compareDecimals, Decimal, type DecimalText } from '../value/number'
import { type Bound, isEmptyInterval } from './interval'
import { markFor, MARKS } from './mark'
import { isFromPalette, paletteColours, type PaletteName, PALETTE_NAMES } from './palette'
import type { Entry, ScaleGate } from './document'
import { bandInterval } from './form'
import { type Band, bandsOf, withBands } from './scale-gate'

export type Refusal =
  | { code: 'out-of-order'; low: Bound | null; high: Bound | null }
  | { code: 'beyond-cuts'; end: End; cut: DecimalText }

export type End = 'floor' | 'ceiling'
export type Edit = { gate: ScaleGate } | { refused: Refusal }

/** Splits the band that `at` lies in; the new band is the upper part. Refused on or beyond an existing bound. */
export function addCut(gate: ScaleGate, at: DecimalText): Edit {
  const index = gate.cuts.filter((cut) => compareDecimals(cut.at, at) < 0).length
  const cuts = gate.cuts.toSpliced(index, 0, { at, owner: 'above' as const })
  const refused = orderProblem(gate, cuts, index)
  if (refused) return { refused }
  const bands = bandsOf(gate).toSpliced(index + 1, 0, newBand(gate, index))
  const others = othersOf(gate).toSpliced(index + 1, 0, othersOf(gate)[index]!)
  return { gate: withColours(withBands({ ...gate, cuts }, bands, others), gate) }
}

export function moveCut(gate: ScaleGate, index: number, at: DecimalText): Edit {
  const cuts = gate.cuts.with(index, { ...gate.cuts[index]!, at })
  const refused = orderProblem(gate, cuts, index)
  return refused ? { refused } : { gate: { ...gate, cuts } }
}

/** Joins the two bands beside a cut; `keep` says which of them takes the values of both. */
export function removeCut(gate: ScaleGate, index: number, keep: 'below' | 'above'): ScaleGate {
  const lost = keep === 'below' ? index + 1 : index
  const changed = { ...gate, cuts: gate.cuts.toSpliced(index, 1) }
  return withColours(withBands(changed, bandsOf(gate).toSpliced(lost, 1), othersOf(gate).toSpliced(lost, 1)), gate)
}

export function setOwner(gate: ScaleGate, index: number, owner: 'below' | 'above'): ScaleGate {
  return { ...gate, cuts: gate.cuts.with(index, { ...gate.cuts[index]!, owner }) }
}

/** Ends the scale at a floor or ceiling, or with null opens it again. The end must lie beyond every cut. */
export function setEnd(gate: ScaleGate, end: End, bound: Bound | null): Edit {
  const changed = { ...gate, [end]: bound }
  const outermost = end === 'floor' ? 0 : gate.bands.length - 1
  if (!isEmptyInterval(bandInterval(changed, outermost))) return { gate: changed }
  const cut = gate.cuts.at(end === 'floor' ? 0 : -1)
  const other = end === 'floor' ? gate.ceiling : gate.floor
  return { refused: { code: 'beyond-cuts', end, cut: (cut ?? other)!.at } }
}

/** How near to a cut a value still asks for a look; null where only values on a cut do. */
export function setTolerance(gate: ScaleGate, tolerance: DecimalText | null): ScaleGate {
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

function orderProblem(gate: ScaleGate, cuts: ScaleGate['cuts'], index: number): Refusal | null {
  const before = index > 0 ? { at: cuts[index - 1]!.at, included: false } : gate.floor
  const after = index < cuts.length - 1 ? { at: cuts[index + 1]!.at, included: false } : gate.ceiling
  const at = new Decimal(cuts[index]!.at)
  const fits = (!before || at.gt(before.at)) && (!after || at.lt(after.at))
  return fits ? null : { code: 'out-of-order', low: before, high: after }
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
