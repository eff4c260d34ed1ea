/** Why a text in an open format cannot be read, and where. */
export interface SourceProblem {
  message: string
  /** Both count from 1. */
  line: number
  column: number
}

export type Place = Pick<SourceProblem, 'line' | 'column'>

export class SourceError extends Error {
  constructor(readonly problem: SourceProblem) {
    super(problem.message)
  }
}

export function sourceError(message: string, { line, column }: Place): SourceError {
  return new SourceError({ message, line, column })
}

/** The line and column of the character at `index`. */
export function placeOf(text: string, index: number): Place {
  const before = text.slice(0, index)
  return { line: before.split('\n').length, column: index - before.lastIndexOf('\n') }
}
