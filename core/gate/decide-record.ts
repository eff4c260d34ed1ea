/**
 * One record decided, step by step, in decimals: the reference that deciding a table is held to.
 */
import type { DecimalText } from '../value/number'
import { isInside, isOpen } from './interval'
import { type LabelRule, type LabelRules, NONE, type Status } from './rules'

export interface Decision {
  status: Status
  /** The rule that decided, or NONE. */
  rule: number
  /** The label given, or NONE. */
  label: number
}

/** DMN 1.5 clause 10.3.2.2: a comparison with null is null, told here as `unknown`. */
export type Verdict = 'true' | 'false' | 'unknown'

export function verdictOf(rule: LabelRule, value: DecimalText | null): Verdict {
  if (isOpen(rule.test)) return 'true'
  if (value === null) return 'unknown'
  return isInside(value, rule.test) ? 'true' : 'false'
}

/**
 * Walks down the rules until one is true. A rule that is unknown on the way keeps its label as a
 * possibility; a record whose possibilities disagree is held, whatever the first true rule says.
 * @param value null for a blank or unreadable value
 */
export function decideRecord({ rules }: LabelRules, value: DecimalText | null): Decision {
  const possible = new Set<number>()
  let decided = NONE
  for (const [index, rule] of rules.entries()) {
    const verdict = verdictOf(rule, value)
    if (verdict === 'false') continue
    possible.add(rule.label)
    if (verdict === 'true') {
      decided = index
      break
    }
  }
  if (decided === NONE) possible.add(NONE)
  if (possible.size > 1) return { status: 'held', rule: NONE, label: NONE }
  const [label] = possible as Set<number> & [number]
  return { status: label === NONE ? 'unplaced' : 'labelled', rule: decided, label: label! }
}
