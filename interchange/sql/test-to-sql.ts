/** A test as SQL, and how it stands with blanks. */
import { freeNames, type Node } from '@dime-gate/core/expression/tree'
import { isGenerous, isPositive, type Question } from '../ladder/ask'
import { conjunction, disjunction, is, negation, type Sql } from './sql-text'

export interface TestSql {
  /** True, false, or null. */
  value: Sql
  /** When it is open: exactly where `value` is null, never, or where this says. */
  open: 'where null' | 'never' | Sql
}

/** A condition for WHEN, which takes what is true and nothing else. */
export function answer({ value, open }: TestSql, question: Question): Sql {
  const plain = isPositive(question) ? value : negation(value)
  if (open === 'never' || (open === 'where null' && !isGenerous(question))) return plain
  if (open === 'where null') return is(value, isPositive(question) ? 'NOT FALSE' : 'NOT TRUE')
  return isGenerous(question) ? disjunction([open, plain]) : conjunction([negation(open), plain])
}

/** Whether a blank that passes, and is null, comes out of it as SQL's own null does: nothing in it makes more of a null than null. */
export function isStrict(tree: Node): boolean {
  switch (tree.kind) {
    case 'in':
      // With one thing and constants there is one null to meet.
      return isStrict(tree.of) && tree.tests.every((test) => freeNames(test).length === 0)
    case 'and': case 'or': case 'if': case 'null': case 'quantified': case 'filter': case 'for': case 'function': case 'instance of': case 'list':
      return false
    case 'between':
      return isStrict(tree.of) && freeNames(tree.low).length === 0 && freeNames(tree.high).length === 0
    case 'comparison': case 'arithmetic':
      return isStrict(tree.left) && isStrict(tree.right)
    case 'negate': case 'path':
      return isStrict(tree.of)
    case 'call':
      // A list written out as an argument is null as soon as one of its items is.
      return tree.args.every((arg) => (arg.kind === 'list' ? arg.items.every(isStrict) : isStrict(arg)))
    default:
      return true
  }
}

