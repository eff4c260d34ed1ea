/** Turns whatever went wrong into an answer that says so. */
import type { Middleware } from 'koa'
import type { Logger } from 'pino'
import { z } from 'zod'
import type { Problem } from '@dime-gate/contract/problem'
import { FileError } from '@dime-gate/interchange/table/problem'
import { type Refusal, refusals } from './refusal'
import { refusalFor } from './refusal-for'

export function answerProblems(log: Logger): Middleware {
  return async (context, next) => {
    try {
      await next()
      if (context.status === 404 && context.body === undefined && context.path.startsWith('/api/')) {
        refuse(refusals.nothingAt(context.path))
      }
    } catch (error) {
      const refusal = refusalFor(error)
      if (error instanceof FileError) answer(422, error.problem)
      else if (error instanceof z.ZodError) refuse(refusals.malformed(z.prettifyError(error)))
      else if (!context.req.complete && isCutOff(error)) refuse(refusals.cutOff())
      else if (refusal) refuse(refusal)
      // An address that cannot be read, or leads out of where pages lie.
      else if (isHttpError(error) && error.status < 500) refuse(refusals.nothingAt(context.path))
      else {
        log.error({ error, request: context.state.request, method: context.method, path: context.path }, 'request failed')
        refuse(refusals.failed(String(context.state.request)))
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

function isHttpError(error: unknown): error is Error & { status: number } {
  return error instanceof Error && typeof (error as { status?: unknown }).status === 'number'
}

function isCutOff(error: unknown): boolean {
  return error instanceof Error && ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE'].includes((error as NodeJS.ErrnoException).code ?? '')
}
