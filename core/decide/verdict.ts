/**
 * What a test or condition can still turn out to be: any of true, false and null (FEEL's unknown), as bits.
 * A blank that holds leaves a test true or false; one that passes makes it null for good (see `BlankPolicy`).
 */
import type { Condition, Test } from '../rule/condition'

export type Verdict = number
export const TRUE = 1
export const FALSE = 2
export const NULL = 4
/** A value would make it one or the other. */
export const EITHER = TRUE | FALSE

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

export function isPossible(verdict: Verdict): boolean {
  return (verdict & TRUE) !== 0
}

function negated(verdict: Verdict): Verdict {
  return (verdict & TRUE ? FALSE : 0) | (verdict & FALSE ? TRUE : 0) | (verdict & NULL)
}

/** All that `and` can come to, DMN 1.5 table 49. */
function both(a: Verdict, b: Verdict): Verdict {
  const isFalse = (a | b) & FALSE
  const isTrue = a & b & TRUE
  const isNull = (a & NULL && b & (TRUE | NULL)) || (b & NULL && a & (TRUE | NULL))
  return isFalse | isTrue | (isNull ? NULL : 0)
}
