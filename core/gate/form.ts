/** Parts of the forms of a gate: the stretch that a band has, the lines of a grid's side, what a folding list overlooks. */
import type { Gate, GridSide, Rule, Scale } from './document'
import type { Interval } from './interval'

/** The stretch of the axis that belongs to band `index`. */
export function bandInterval({ cuts, floor, ceiling }: Scale, index: number): Interval {
  const lower = cuts[index - 1]
  const upper = cuts[index]
  return {
    low: lower ? { at: lower.at, included: lower.owner === 'above' } : floor,
    high: upper ? { at: upper.at, included: upper.owner === 'below' } : ceiling,
  }
}

/** Whether a rule takes nothing as long as it stands so: it is switched off, or its condition is not written yet. */
export function isIdle({ condition, isOff }: Rule): boolean {
  return isOff === true || condition.trim() === ''
}

/** For whoever reads the gate elsewhere: what takes nothing is left out. */
export function withoutIdleRules(gate: Gate): Gate {
  if (gate.form === 'rules' && gate.rules.some(isIdle)) return { ...gate, rules: gate.rules.filter((rule) => !isIdle(rule)) }
  const isEmpty = ({ values }: { values: readonly string[] }) => values.length === 0
  return gate.form === 'match' && gate.lines.some(isEmpty) ? { ...gate, lines: gate.lines.filter((line) => !isEmpty(line)) } : gate
}

/** How many bands or lines a side of a grid has. */
export function sideLength(side: GridSide): number {
  return side.kind === 'scale' ? side.cuts.length + 1 : side.lines.length
}

/** A text without the differences that a folding match list overlooks. */
export function folded(text: string): string {
  return text.replace(/^[ \t\n\r]+|[ \t\n\r]+$/g, '').replace(/[ \t\n\r]+/g, ' ').toLowerCase()
}
