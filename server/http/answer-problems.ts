/** Turns whatever went wrong into an answer that says so. */
import type { Middleware } from 'koa'
import type { Logger } from 'pino'
import { z } from 'zod'
import type { Problem } from '@dime-gate/contract/problem'
import { FileError } from '@dime-gate/interchange/table/problem'
import { Refusal } from './refusal'

export function answerProblems(log: Logger): Middleware {
  return async (context, next) => {
    try {
      await next()
      if (context.status === 404 && context.body === undefined && context.path.startsWith('/api/')) {
        answer(404, { code: 'not-found', message: `There is nothing at ${context.path}.` })
      }
    } catch (error) {
      if (error instanceof Refusal) answer(error.status, error.problem)
      else if (error instanceof FileError) answer(422, error.problem)
      else if (error instanceof z.ZodError) answer(400, { code: 'malformed', message: `The request is not as it should be: ${z.prettifyError(error)}` })
      else if (isCutOff(error)) answer(400, { code: 'cut-off', message: 'The file did not arrive in whole. Nothing was imported; send it again.' })
      else {
        log.error({ error, path: context.path }, 'request failed')
        answer(500, { code: 'failed', message: 'Something went wrong in the program, and nothing was changed. Try again; if it stays, look at the log of the start command.' })
      }
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
