/** Calls of functions with something open among their arguments. */
import { isList, type Value } from '../value/value'
import { allOf, anyOf, extremeOf, isOpen, ofTruth, OPEN, type Possible, truthOf } from './open'
import type { NodeOf } from './tree'
import { negated } from './truth'

/** Functions that look at how many items there are, and where, but at none of them. */
const OF_PLACES: ReadonlySet<string> = new Set(['count', 'concatenate', 'reverse', 'sublist', 'remove'])

/** What a call comes to with something open among its arguments; undefined where it can be made all the same. */
export function openCall({ name }: NodeOf<'call'>, args: readonly Possible[], areSame: (a: Possible, b: Possible) => Possible): Possible | undefined {
  const [first, second] = args
  const isGathered = args.length === 1 && !isOpen(first) && isList(first as Value)
  const items = isGathered ? (first as readonly Possible[]) : args
  switch (name) {
    case 'not':
      return isOpen(first) ? ofTruth(negated(truthOf(first))) : undefined
    case 'all':
      return args.length === 1 && isOpen(first) ? OPEN : allOf(items)
    case 'any':
      return args.length === 1 && isOpen(first) ? OPEN : anyOf(items)
    case 'max': case 'min':
      return args.length === 1 && isOpen(first) ? OPEN : extremeOf(items, name === 'max' ? 1 : -1)
    case 'list contains':
      return isOpen(first) || !isList(first as Value) ? OPEN : anyOf((first as readonly Possible[]).map((item) => areSame(item, second!)))
    default:
      return OF_PLACES.has(name) && !args.some(isOpen) ? undefined : OPEN
  }
}
