/** Why a file cannot be read as a table. */
export const FILE_PROBLEM_CODES = ['empty', 'no-columns', 'binary', 'encoding', 'ragged', 'open-quote', 'same-name', 'too-many-columns', 'long-value', 'damaged', 'encrypted', 'too-large', 'no-sheet', 'not-records'] as const

/** A code, the place, and what to do about it. */
export interface FileProblem {
  code: (typeof FILE_PROBLEM_CODES)[number]
  message: string
  /** Lines and columns count from 1. A column is a column of the table, or for `encoding` and `binary` a character in the line. */
  line: number | null
  column: number | null
}

export class FileError extends Error {
  constructor(readonly problem: FileProblem) {
    super(problem.message)
  }
}

export function fileProblem(code: FileProblem['code'], message: string, line: number | null = null, column: number | null = null): FileProblem {
  return { code, message, line, column }
}

export function fileError(...problem: Parameters<typeof fileProblem>): FileError {
  return new FileError(fileProblem(...problem))
}
