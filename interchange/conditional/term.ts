/** Nested conditionals of any language, as one tree. */
import type { ComparisonOperator, Node, Span } from '@dime-gate/core/expression/tree'

/**
 * What a conditional is made of. Truth is three-valued, as in SQL: a comparison with nothing is unknown, and a choice
 * takes what is true and nothing else. Languages of two values never make an unknown.
 */
export type Term = { span: Span } & (
  | { kind: 'value'; node: Node }
  | { kind: 'comparison'; operator: ComparisonOperator; left: Term; right: Term }
  | { kind: 'and' | 'or'; of: Term[] }
  | { kind: 'not'; of: Term }
  /** Whether there is no value. */
  | { kind: 'is null'; of: Term }
  /** Whether the truth of a term is this; never unknown itself. */
  | { kind: 'is'; of: Term; truth: boolean }
  /** Of two values that may both be nothing; never unknown. */
  | { kind: 'is distinct'; left: Term; right: Term }
  /** Several values in rows: a list in braces, or a range of cells. Only functions that take lists know what to do with one. */
  | { kind: 'array'; rows: Term[][] }
  | { kind: 'choice'; whens: { when: Term; then: Term }[]; otherwise: Term | null }
)

/** What was not understood of a text, and where. */
export interface ConditionalProblem extends Span {
  message: string
}

/** The first thing that is not understood ends the reading. */
export class ConditionalError extends Error {
  constructor(readonly problem: ConditionalProblem) {
    super(problem.message)
  }
}

export function notUnderstood(message: string, { from, to }: Span): ConditionalError {
  return new ConditionalError({ message, from, to })
}
