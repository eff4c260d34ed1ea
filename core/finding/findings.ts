/** All findings of a gate. */
import type { Lowered } from '../rule/rules'
import type { DateValue } from '../value/value'
import { BudgetSpent, type Budget } from './coverage'
import type { Draft, Finding, Findings } from './finding'
import { gapFindings } from './gaps'
import { blankFindings, labelFindings, rangeFindings } from './inputs-and-labels'
import { neverReached, noEffect, overlaps } from './reach'
import { studyOf } from './study'
import { stretchFindings } from './stretches'

/** Looks of one box at another: some tenths of a second. */
const BUDGET = 1_500_000
/** Looks that tell an exception before its general rule from an overlap. */
const OVERLAPS = 300_000
/** Of one sort, as many as anybody reads; the rest are counted. */
const MOST_OF_A_GROUP = 60

/**
 * What can be said of a gate before it meets any data. Its examples are always right: each was decided.
 * @param today the date that counts as today, for tests that speak of it
 */
export function findingsOf(gate: Lowered, today: DateValue): Findings {
  const study = studyOf(gate, today)
  const budget = { left: BUDGET }
  const unreached = new Set<number>()
  const unproven = new Set<number>(study.rules.flatMap((boxes, rule) => (boxes ? [] : [rule])))
  const reach: (Draft | null)[] = []
  const share = (rule: number) => 8 / (gate.rules.length - rule)
  for (const [rule, { isIdle }] of gate.rules.entries()) {
    if (isIdle) {
      unreached.add(rule)
      continue
    }
    // What earlier rules left over is shared out anew for each, so that one intricate rule does not use up all.
    const never = within(budget, share(rule) / 2, (part) => neverReached(study, rule, part))
    const idle = never ? null : within(budget, share(rule) / 2, (part) => noEffect(study, rule, part))
    if (never) unreached.add(rule)
    if (never === undefined || idle === undefined) unproven.add(rule)
    reach.push(never ?? null, idle ?? null)
  }
  const gaps = within(budget, 1, (part) => gapFindings(study, part))
  const made = (finding: Finding): Draft => () => finding
  const found: Findings['findings'] = []
  const more: Findings['more'] = {}
  const groups: Draft[][] = [
    gaps?.drafts ?? [], overlaps(study, unreached, { left: OVERLAPS }), reach.filter((draft) => draft !== null),
    [...stretchFindings(study), ...[...rangeFindings(study), ...labelFindings(study), ...blankFindings(study)].map(made)],
  ]
  for (const group of groups) {
    const kept = group.slice(0, MOST_OF_A_GROUP).flatMap((draft) => draft() ?? [])
    found.push(...kept)
    const [first] = kept
    if (first && group.length > MOST_OF_A_GROUP) more[first.kind] = group.length - MOST_OF_A_GROUP
  }
  return { findings: found, more, unproven: [...unproven].toSorted((a, b) => a - b), areGapsProven: gaps?.isComplete ?? false }
}

/** @returns undefined where this part of the budget did not do */
function within<Result>(budget: Budget, share: number, run: (part: Budget) => Result): Result | undefined {
  const given = Math.floor(budget.left * Math.min(1, share))
  const part = { left: given }
  try {
    return run(part)
  } catch (error) {
    if (error instanceof BudgetSpent) return undefined
    throw error
  } finally {
    budget.left -= given - Math.max(0, part.left)
  }
}
