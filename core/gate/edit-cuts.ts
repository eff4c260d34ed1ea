/** The changes that can be made to cuts and ends, on a scale of its own or on the side of a grid. Each gives them anew, or says why it cannot be. */
import { compareDecimals, Decimal, type DecimalText } from '../value/number'
import type { Scale } from './document'
import { bandInterval } from './form'
import { type Bound, isEmptyInterval } from './interval'

export type Refusal =
  | { code: 'out-of-order'; low: Bound | null; high: Bound | null }
  | { code: 'beyond-cuts'; end: End; cut: DecimalText }

export type End = 'floor' | 'ceiling'
export type CutEdit = { scale: Scale } | { refused: Refusal }

/** The cuts with one more. Refused on or beyond an existing bound. @returns also its place */
export function withCut(scale: Scale, at: DecimalText): { scale: Scale; index: number } | { refused: Refusal } {
  const index = scale.cuts.filter((cut) => compareDecimals(cut.at, at) < 0).length
  const changed = { ...scale, cuts: scale.cuts.toSpliced(index, 0, { at, owner: 'above' as const }) }
  const refused = orderProblem(changed, index)
  return refused ? { refused } : { scale: changed, index }
}

export function withCutMoved(scale: Scale, index: number, at: DecimalText): CutEdit {
  const changed = { ...scale, cuts: scale.cuts.with(index, { ...scale.cuts[index]!, at }) }
  const refused = orderProblem(changed, index)
  return refused ? { refused } : { scale: changed }
}

/** All cuts anew; one that was there keeps whose its value is. @param cuts strictly ascending */
export function withCuts(scale: Scale, cuts: readonly DecimalText[]): CutEdit {
  const owners = new Map(scale.cuts.map(({ at, owner }) => [new Decimal(at).toString(), owner]))
  const changed = { ...scale, cuts: cuts.map((at) => ({ at, owner: owners.get(new Decimal(at).toString()) ?? ('above' as const) })) }
  const refused = cuts.map((_, index) => orderProblem(changed, index)).find((problem) => problem !== null)
  return refused ? { refused } : { scale: changed }
}

export function withOwner(scale: Scale, index: number, owner: 'below' | 'above'): Scale {
  return { ...scale, cuts: scale.cuts.with(index, { ...scale.cuts[index]!, owner }) }
}

/** All cut values to one side. */
export function withOwners(scale: Scale, owner: 'below' | 'above'): Scale {
  return { ...scale, cuts: scale.cuts.map((cut) => ({ ...cut, owner })) }
}

/** Ends the scale at a floor or ceiling, or with null opens it again. The end must lie beyond every cut. */
export function withEnd(scale: Scale, end: End, bound: Bound | null): CutEdit {
  const changed = { ...scale, [end]: bound }
  const outermost = end === 'floor' ? 0 : scale.cuts.length
  if (!isEmptyInterval(bandInterval(changed, outermost))) return { scale: changed }
  const cut = scale.cuts.at(end === 'floor' ? 0 : -1)
  const other = end === 'floor' ? scale.ceiling : scale.floor
  return { refused: { code: 'beyond-cuts', end, cut: (cut ?? other)!.at } }
}

function orderProblem({ cuts, floor, ceiling }: Scale, index: number): Refusal | null {
  const before = index > 0 ? { at: cuts[index - 1]!.at, included: false } : floor
  const after = index < cuts.length - 1 ? { at: cuts[index + 1]!.at, included: false } : ceiling
  const at = new Decimal(cuts[index]!.at)
  const fits = (!before || at.gt(before.at)) && (!after || at.lt(after.at))
  return fits ? null : { code: 'out-of-order', low: before, high: after }
}
