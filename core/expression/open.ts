/** What a blank leaves open: something that has a value, which is not known. */
import type { Decimal } from '../value/number'
import { isList, isNumber, type Value } from '../value/value'
import { both, EITHER, either, FALSE, NULL, TRUE, type Truth } from './truth'

export class Open {
  /**
   * @param can what it can turn out to be, where it is true or false at all
   * @param low no number that it can turn out to be is less; null where that is not known
   * @param high no number that it can turn out to be is greater
   */
  constructor(readonly can: Truth = EITHER, readonly low: Decimal | null = null, readonly high: Decimal | null = null) {}
}

/** Nothing is known of it. */
export const OPEN = new Open()

/** A value, or that it is still open. Within lists of an evaluation items can be open too. */
export type Possible = Value | Open

export function isOpen(value: unknown): value is Open {
  return value instanceof Open
}

/** Whether something is open in a value, however deep. */
export function holdsOpen(value: Possible): boolean {
  return isOpen(value) || (isList(value) && value.some(holdsOpen))
}

export function truthOf(value: Possible): Truth {
  if (isOpen(value)) return value.can
  return value === true ? TRUE : value === false ? FALSE : NULL
}

export function ofTruth(truth: Truth): boolean | null | Open {
  if (truth === EITHER) return OPEN
  return truth === TRUE ? true : truth === FALSE ? false : truth === NULL ? null : new Open(truth)
}

export function allOf(verdicts: readonly Possible[]): boolean | null | Open {
  return ofTruth(verdicts.map(truthOf).reduce(both, TRUE))
}

export function anyOf(verdicts: readonly Possible[]): boolean | null | Open {
  return ofTruth(verdicts.map(truthOf).reduce(either, FALSE))
}

/** Either of two ways is taken. */
export function oneOf(a: Possible, b: Possible, areSame: (a: Value, b: Value) => boolean): Possible {
  if (!isOpen(a) && !isOpen(b) && areSame(a, b)) return a
  const isTruth = (value: Possible) => isOpen(value) || typeof value === 'boolean' || value === null
  return isTruth(a) && isTruth(b) ? ofTruth(truthOf(a) | truthOf(b)) : OPEN
}

/** What the greatest, or with `sign` -1 the least, of some numbers can be. */
export function extremeOf(items: readonly Possible[], sign: 1 | -1): Open {
  const far = (end: 'low' | 'high') => items.map((item) => (isOpen(item) ? item[end] : isNumber(item) ? item : null))
  const best = (ends: readonly (Decimal | null)[]) => ends.filter((one) => one !== null).reduce<Decimal | null>((found, one) => (found === null || one.cmp(found) * sign > 0 ? one : found), null)
  const all = (ends: readonly (Decimal | null)[]) => (ends.includes(null) ? null : best(ends))
  return sign === 1 ? new Open(EITHER, best(far('low')), all(far('high'))) : new Open(EITHER, all(far('low')), best(far('high')))
}

/** `open` compared with a number: what comes of it within the bounds that are known. @param operator with `open` on its left */
export function compareOpen(operator: '=' | '!=' | '<' | '<=' | '>' | '>=', { low, high }: Open, number: Decimal): Truth {
  const canBeLess = low === null || low.lt(number)
  const canBeMore = high === null || high.gt(number)
  const canBeSame = (low === null || low.lte(number)) && (high === null || high.gte(number))
  const ways: Record<typeof operator, [yes: boolean, no: boolean]> = {
    '=': [canBeSame, canBeLess || canBeMore],
    '!=': [canBeLess || canBeMore, canBeSame],
    '<': [canBeLess, canBeSame || canBeMore],
    '<=': [canBeLess || canBeSame, canBeMore],
    '>': [canBeMore, canBeSame || canBeLess],
    '>=': [canBeMore || canBeSame, canBeLess],
  }
  const [yes, no] = ways[operator]
  return (yes ? TRUE : 0) | (no ? FALSE : 0)
}
