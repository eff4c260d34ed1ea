/** A record for each rule: made, as long as no table has one. */
import { choicesIn } from './box'
import { BudgetSpent, visitLeft } from './coverage'
import { decisionFor, type Example, exampleIn, studyOf } from './study'
import type { Lowered } from '../rule/rules'
import type { DateValue } from '../value/value'

/** Looks of one box at another, for a rule. */
const LOOKS = 20_000
/** Parts in which no record was found. */
const MOST_PARTS = 20

/** @returns a record that the rule decides; null where none was found. It was decided */
export function recordTakenBy(gate: Lowered, rule: number, today: DateValue): Example | null {
  const study = studyOf(gate, today)
  const { rules, boxes, starts, layout } = study
  let found: Example | null = null
  let parts = 0
  try {
    for (const box of rules[rule] ?? []) {
      visitLeft(box, gate.hitPolicy === 'first' ? boxes.slice(0, starts[rule]) : [], layout, { left: LOOKS }, (left) => {
        found = exampleIn(study, choicesIn(left, layout), (given) => {
          const { status, rule: decided } = decisionFor(study, given)
          return status === 'labelled' && decided === rule
        })
        return found !== null || ++parts >= MOST_PARTS
      })
      if (found) return found
    }
  } catch (error) {
    if (!(error instanceof BudgetSpent)) throw error
  }
  return null
}
