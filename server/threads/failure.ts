/** Errors on their way from a thread: only plain data crosses. */
import type { Problem } from '@dime-gate/contract/problem'
import { FileError, type FileProblem } from '@dime-gate/interchange/table/problem'
import { Refusal } from '../http/refusal'
import { refusalFor } from '../http/refusal-for'

export type Failure =
  { kind: 'file'; problem: FileProblem } | { kind: 'refused'; status: number; problem: Problem } | { kind: 'other'; message: string }

export function failureOf(error: unknown): Failure {
  if (error instanceof FileError) return { kind: 'file', problem: error.problem }
  const refusal = refusalFor(error)
  if (refusal) return { kind: 'refused', status: refusal.status, problem: refusal.problem }
  return { kind: 'other', message: (error as Error).message }
}

export function errorOf(failure: Failure): Error {
  switch (failure.kind) {
    case 'file':
      return new FileError(failure.problem)
    case 'refused':
      return new Refusal(failure.status, failure.problem.code as never, failure.problem.message)
    case 'other':
      return new Error(failure.message)
  }
}
