/** Comparisons as formulas have them. */
import type { ComparisonOperator, Node, Span } from '@dime-gate/core/expression/tree'
import { value } from './nodes'
import type { Term } from './term'

export function comparisonTerm(operator: ComparisonOperator, left: Term, right: Term, span: Span): Term {
  const isNull = (term: Term) => term.kind === 'value' && term.node.kind === 'null'
  // Against "" is how formulas ask for a blank; a length above nought likewise.
  if (isNull(right) || isNull(left)) {
    const of: Term = { kind: 'is null', of: isNull(right) ? left : right, span }
    if (operator === '=') return of
    if (operator === '!=') return { kind: 'not', of, span }
  }
  const isLength = left.kind === 'value' && left.node.kind === 'call' && left.node.name === 'string length'
  if (isLength && operator === '>' && right.kind === 'value' && right.node.kind === 'number' && right.node.number === '0') {
    const { node } = left as Extract<Term, { kind: 'value' }>
    return { kind: 'not', of: { kind: 'is null', of: value((node as Extract<Node, { kind: 'call' }>).args[0]!), span }, span }
  }
  // In a formula either two values are the same or they are not; nothing is never unknown.
  const isDistinct: Term = { kind: 'is distinct', left, right, span }
  if (operator === '=') return { kind: 'not', of: isDistinct, span }
  return operator === '!=' ? isDistinct : { kind: 'comparison', operator, left, right, span }
}
