/**
 * What a test or condition can still turn out to be: any of true, false and null (FEEL's unknown), as bits.
 * A blank that holds leaves a test true or false; one that passes makes it null for good (see `BlankPolicy`).
 */
import { both, negated, TRUE, type Truth } from '../expression/truth'
import type { Condition, Test } from '../rule/condition'

export { EITHER, FALSE, NULL, TRUE } from '../expression/truth'
export type Verdict = Truth

export function verdictOf(condition: Condition, test: (test: Test) => Verdict): Verdict {
  switch (condition.kind) {
    case 'test':
      return test(condition)
    case 'not':
      return negated(verdictOf(condition.of, test))
    case 'all':
      return condition.of.map((part) => verdictOf(part, test)).reduce(both, TRUE)
    case 'any':
      return negated(condition.of.map((part) => negated(verdictOf(part, test))).reduce(both, TRUE))
  }
}

export function isCertain(verdict: Verdict): boolean {
  return verdict === TRUE
}

/** Whether it can still turn out in more than one way. */
export function isOpenVerdict(verdict: Verdict): boolean {
  return (verdict & (verdict - 1)) !== 0
}

export function isPossible(verdict: Verdict): boolean {
  return (verdict & TRUE) !== 0
}
