/**
 * What something can still turn out to be: any of true, false and null (FEEL's unknown), as bits, and how that goes
 * through `and`, `or` and `not` (DMN 1.5 tables 49 to 51).
 */
export type Truth = number
export const TRUE = 1
export const FALSE = 2
export const NULL = 4
/** A value would make it one or the other. */
export const EITHER = TRUE | FALSE

export function negated(truth: Truth): Truth {
  return (truth & TRUE ? FALSE : 0) | (truth & FALSE ? TRUE : 0) | (truth & NULL)
}

/** All that `and` can come to. */
export function both(a: Truth, b: Truth): Truth {
  const isFalse = (a | b) & FALSE
  const isTrue = a & b & TRUE
  const isNull = (a & NULL && b & (TRUE | NULL)) || (b & NULL && a & (TRUE | NULL))
  return isFalse | isTrue | (isNull ? NULL : 0)
}

/** All that `or` can come to. */
export function either(a: Truth, b: Truth): Truth {
  return negated(both(negated(a), negated(b)))
}
