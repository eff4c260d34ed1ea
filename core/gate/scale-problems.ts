/** What must hold of a stored scale beyond the shape of its document. */
import { compareDecimals } from '../value/number'
import { isEmptyInterval } from './interval'
import { bandInterval, type ScaleGate } from './scale-gate'

export interface GateProblem {
  code: 'band-count' | 'cut-order' | 'empty-band'
  /** The place in the document, as in `cuts.2`. */
  path: string
}

/** @returns an empty list where the scale can decide. */
export function scaleProblems(gate: ScaleGate): GateProblem[] {
  if (gate.bands.length !== gate.cuts.length + 1) return [{ code: 'band-count', path: 'bands' }]
  const problems: GateProblem[] = []
  gate.cuts.forEach((cut, index) => {
    const before = gate.cuts[index - 1]
    if (before && compareDecimals(before.at, cut.at) >= 0) problems.push({ code: 'cut-order', path: `cuts.${index}` })
  })
  if (problems.length > 0) return problems
  gate.bands.forEach((_, index) => {
    if (isEmptyInterval(bandInterval(gate, index))) problems.push({ code: 'empty-band', path: `bands.${index}` })
  })
  return problems
}
