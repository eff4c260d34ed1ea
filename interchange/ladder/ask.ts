/**
 * What a condition comes to, in another language. A test is true, false, unknown for good, or still open because of a
 * blank that holds (see core's `verdict`). Four questions tell them apart, each with a plain yes or no.
 */
import type { Condition, Test } from '@dime-gate/core/rule/condition'
import type { Language, Piece } from './language'

export type Question =
  /** True whatever the blanks are. */
  | 'certain'
  /** True, or open. */
  | 'possible'
  /** False whatever the blanks are. */
  | 'surely not'
  /** False, or open. */
  | 'possibly not'

const OPPOSITE: Record<Question, Question> = { certain: 'surely not', 'surely not': 'certain', possible: 'possibly not', 'possibly not': 'possible' }

/** @param answer to the question about one test */
export function ask<P extends Piece>(language: Language<P>, condition: Condition, question: Question, answer: (test: Test, question: Question) => P): P {
  if (condition.kind === 'test') return answer(condition, question)
  if (condition.kind === 'not') return ask(language, condition.of, OPPOSITE[question], answer)
  const parts = condition.of.map((part) => ask(language, part, question, answer))
  return (condition.kind === 'all') === isPositive(question) ? language.all(parts) : language.any(parts)
}

/** Whether it asks for what is true. */
export function isPositive(question: Question): boolean {
  return question === 'certain' || question === 'possible'
}

/** Whether it counts what is open in. */
export function isGenerous(question: Question): boolean {
  return question === 'possible' || question === 'possibly not'
}
