/** Turns whatever went wrong into an answer that says so. */
import type { Middleware } from 'koa'
import type { Logger } from 'pino'
import { z } from 'zod'
import type { Problem } from '@dime-gate/contract/problem'
import { FileError } from '@dime-gate/interchange/table/problem'
import { Refusal, refusals } from './refusal'

export function answerProblems(log: Logger): Middleware {
  return async (context, next) => {
    try {
      await next()
      if (context.status === 404 && context.body === undefined && context.path.startsWith('/api/')) {
        refuse(refusals.nothingAt(context.path))
      }
    } catch (error) {
      if (error instanceof Refusal) refuse(error)
      else if (error instanceof FileError) answer(422, error.problem)
      else if (error instanceof z.ZodError) refuse(refusals.malformed(z.prettifyError(error)))
      else if (isCutOff(error)) refuse(refusals.cutOff())
      else {
        log.error({ error, path: context.path }, 'request failed')
        refuse(refusals.failed())
      }
    }

    function refuse({ status, problem }: Refusal): void {
      answer(status, problem)
    }

    function answer(status: number, problem: Problem): void {
      context.status = status
      context.body = problem
    }
  }
}

function isCutOff(error: unknown): boolean {
  return error instanceof Error && ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE'].includes((error as NodeJS.ErrnoException).code ?? '')
}
