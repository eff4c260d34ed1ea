/** The changes that can be made to a scale. Each gives a new gate, or says why it cannot be. */
import { compareDecimals, Decimal, type DecimalText } from '../value/number'
import { type Bound, isEmptyInterval } from './interval'
import { markFor, MARKS } from './mark'
import { isFromPalette, paletteColours, type PaletteName, PALETTE_NAMES } from './palette'
import { type Band, bandInterval, type ScaleGate } from './scale-gate'

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
  const bands = gate.bands.toSpliced(index + 1, 0, newBand(gate, index))
  return { gate: withColours({ ...gate, cuts, bands }, gate) }
}

export function moveCut(gate: ScaleGate, index: number, at: DecimalText): Edit {
  const cuts = gate.cuts.with(index, { ...gate.cuts[index]!, at })
  const refused = orderProblem(gate, cuts, index)
  return refused ? { refused } : { gate: { ...gate, cuts } }
}

/** Joins the two bands beside a cut; `keep` says which of them takes the values of both. */
export function removeCut(gate: ScaleGate, index: number, keep: 'below' | 'above'): ScaleGate {
  const bands = gate.bands.toSpliced(keep === 'below' ? index + 1 : index, 1)
  return withColours({ ...gate, cuts: gate.cuts.toSpliced(index, 1), bands }, gate)
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

export function editBand(gate: ScaleGate, index: number, change: Partial<Band>): ScaleGate {
  return { ...gate, bands: gate.bands.with(index, { ...gate.bands[index]!, ...change }) }
}

export function recolour(gate: ScaleGate, palette: PaletteName): ScaleGate {
  const colours = paletteColours(palette, gate.bands.length)
  return { ...gate, bands: gate.bands.map((band, index) => ({ ...band, colour: colours[index]! })) }
}

function orderProblem(gate: ScaleGate, cuts: ScaleGate['cuts'], index: number): Refusal | null {
  const before = index > 0 ? { at: cuts[index - 1]!.at, included: false } : gate.floor
  const after = index < cuts.length - 1 ? { at: cuts[index + 1]!.at, included: false } : gate.ceiling
  const at = new Decimal(cuts[index]!.at)
  const fits = (!before || at.gt(before.at)) && (!after || at.lt(after.at))
  return fits ? null : { code: 'out-of-order', low: before, high: after }
}

function newBand(gate: ScaleGate, below: number): Band {
  const labels = new Set(gate.bands.map((band) => band.label))
  let number = gate.bands.length + 1
  while (labels.has(`Band ${number}`)) number++
  const marks = new Set(gate.bands.map((band) => band.mark))
  return {
    label: `Band ${number}`,
    colour: gate.bands[below]!.colour,
    mark: MARKS.find((mark) => !marks.has(mark)) ?? markFor(number),
  }
}

/** Bands that wear a palette go on wearing it, spread anew; colours chosen by hand are left alone. */
function withColours(changed: ScaleGate, before: ScaleGate): ScaleGate {
  const colours = before.bands.map((band) => band.colour)
  const palette = PALETTE_NAMES.find((name) => isFromPalette(name, colours))
  return palette ? recolour(changed, palette) : changed
}
