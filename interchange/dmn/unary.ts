/** Cells of a decision table as conditions on what their column looks at (DMN 1.5 clauses 7.3.2 and 8.3.3). */
import { substitute } from '@dime-gate/core/expression/substitute'
import { mentionsTested, type Node, type NodeOf, TESTED } from '@dime-gate/core/expression/tree'

/**
 * The condition that `tests` puts on `subject`, as plain as it can be said; null where it puts none.
 * @param tests a tree of `parseUnaryTests`
 */
export function conditionOn(subject: Node, tests: Node): Node | null {
  if (tests.kind === 'boolean' && tests.value) return null
  if (tests.kind === 'in' && tests.tests.length === 1) {
    const [test] = tests.tests
    const isPlain = !mentionsTested(test!)
    // A column of `true` holds conditions of its own.
    if (subject.kind === 'boolean' && subject.value && isPlain && isCondition(test!)) return test!
    const comparison = isPlain ? comparisonOf(subject, test!) : null
    if (comparison) return comparison
  }
  return substitute(tests, new Map([[TESTED, subject]]))
}

function isCondition({ kind }: Node): boolean {
  return ['comparison', 'between', 'in', 'and', 'or', 'quantified', 'call', 'instance of', 'name'].includes(kind)
}

function comparisonOf(subject: Node, test: Node): Node | null {
  const { span } = test
  if (test.kind === 'number' || test.kind === 'text' || test.kind === 'boolean' || test.kind === 'temporal' || test.kind === 'null') {
    return { kind: 'comparison', operator: '=', left: subject, right: test, span }
  }
  if (test.kind !== 'range') return null
  const { low, high, lowIncluded, highIncluded }: NodeOf<'range'> = test
  if (low && !high) return { kind: 'comparison', operator: lowIncluded ? '>=' : '>', left: subject, right: low, span }
  if (high && !low) return { kind: 'comparison', operator: highIncluded ? '<=' : '<', left: subject, right: high, span }
  return null
}
