/** What is wrong with an expression, as data; `problem-words` puts it in words. */
import type { Span } from './tree'

export type ProblemCode =
  /** The text is longer, or nested deeper, than anybody means. */
  | 'too-long' | 'too-deep'
  /** A character that no expression holds; a text without its closing quote. */
  | 'unknown-character' | 'unclosed-text' | 'bad-escape' | 'bad-number'
  | 'unexpected' | 'unexpected-end'
  | 'unknown-name' | 'unknown-function' | 'unknown-property' | 'unknown-type'
  | 'bad-date' | 'bad-pattern'
  /** `Species > 30`: kinds that do not go together. */
  | 'type-clash' | 'not-a-condition'
  | 'argument-count' | 'argument-type' | 'argument-name'

export interface Problem extends Span {
  code: ProblemCode
  /** The words concerned: what was found, or the kinds that clash. */
  found: string[]
  /** What would be right there: the nearest name, or what was expected. */
  hint: string[]
}

/** Thrown by the parser, whose first problem is its last. */
export class ExpressionError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code)
  }
}

export function problem(code: ProblemCode, { from, to }: Span, found: string[] = [], hint: string[] = []): Problem {
  return { code, from, to, found, hint }
}
