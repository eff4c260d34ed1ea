/** All findings of a gate. */
import type { Lowered } from '../gate/rules'
import type { DateValue } from '../value/value'
import { BudgetSpent, type Budget } from './coverage'
import type { Finding, FindingKind, Findings } from './finding'
import { gapFindings } from './gaps'
import { blankFindings, labelFindings, rangeFindings } from './inputs-and-labels'
import { neverReached, noEffect, overlaps } from './reach'
import { studyOf } from './study'
import { stretchFindings } from './stretches'

/** Looks of one box at another: some tenths of a second. */
const BUDGET = 1_500_000
/** Of one kind, as many as anybody reads; the rest are counted. */
const MOST_OF_A_KIND = 50

/**
 * What can be said of a gate before it meets any data. Its examples are always right: each was decided.
 * @param today the date that counts as today, for tests that speak of it
 */
export function findingsOf(gate: Lowered, today: DateValue): Findings {
  const study = studyOf(gate, today)
  const budget = { left: BUDGET }
  const gaps = within(budget, 1 / 3, (part) => gapFindings(study, part))
  const unproven = new Set<number>(study.rules.flatMap((boxes, rule) => (boxes ? [] : [rule])))
  const found: Finding[] = [...(gaps?.findings ?? []), ...overlaps(study)]
  for (let rule = 0; rule < gate.rules.length; rule++) {
    // What earlier rules left over is shared out anew for each, so that one intricate rule does not use up all.
    const share = 1 / Math.max(1, (gate.rules.length - rule) / 8)
    const never = within(budget, share, (part) => neverReached(study, rule, part))
    if (never === undefined) unproven.add(rule)
    else if (never) found.push(never)
    const idle = never ? null : within(budget, share, (part) => noEffect(study, rule, part))
    if (idle === undefined) unproven.add(rule)
    else if (idle) found.push(idle)
  }
  found.push(...stretchFindings(study), ...rangeFindings(study), ...labelFindings(study), ...blankFindings(study))
  return { ...limited(found), unproven: [...unproven].toSorted((a, b) => a - b), areGapsProven: gaps?.isComplete ?? false }
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

function limited(found: readonly Finding[]): Pick<Findings, 'findings' | 'more'> {
  const counts = new Map<FindingKind, number>()
  const more: Findings['more'] = {}
  const findings = found.filter(({ kind }) => {
    const count = (counts.get(kind) ?? 0) + 1
    counts.set(kind, count)
    if (count > MOST_OF_A_KIND) more[kind] = count - MOST_OF_A_KIND
    return count <= MOST_OF_A_KIND
  })
  return { findings, more }
}
