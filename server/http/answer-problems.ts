/** Turns whatever went wrong into an answer that says so. */
import type { Context, Middleware } from 'koa'
import type { Logger } from 'pino'
import { z } from 'zod'
import type { Problem } from '@dime-gate/contract/problem'
import { FileError } from '@dime-gate/interchange/table/problem'
import { type Refusal, refusals } from './refusal'
import { refusalFor } from './refusal-for'

export interface ProblemAnswer {
  status: number
  body: Problem
}

export type ProblemFor = (error: unknown, context: Context) => ProblemAnswer

/** What is answered where a request fails; what is a fault of ours is logged. */
export function problemAnswers(log: Logger): ProblemFor {
  return (error, context) => {
    if (error instanceof FileError) return { status: 422, body: error.problem }
    if (error instanceof z.ZodError) return answer(refusals.malformed(z.prettifyError(error)))
    if (!context.req.complete && isCutOff(error)) return answer(refusals.cutOff())
    const refusal = refusalFor(error)
    if (refusal) return answer(refusal)
    // An address that cannot be read, or leads out of where pages lie.
    if (isHttpError(error) && error.status < 500) return answer(refusals.nothingAt(context.path))
    // Whoever asked has gone, and broke it off with that.
    if (!context.res.writableFinished && context.res.destroyed) return answer(refusals.cutOff())
    log.error({ error, request: context.state.request, method: context.method, path: context.path }, 'request failed')
    return answer(refusals.failed(String(context.state.request)))
  }
}

export function answerProblems(problemFor: ProblemFor): Middleware {
  return async (context, next) => {
    try {
      await next()
      if (context.status === 404 && context.body === undefined && context.path.startsWith('/api/')) throw refusals.nothingAt(context.path)
    } catch (error) {
      const { status, body } = problemFor(error, context)
      context.status = status
      context.body = body
    }
  }
}

function answer({ status, problem }: Refusal): ProblemAnswer {
  return { status, body: problem }
}

function isHttpError(error: unknown): error is Error & { status: number } {
  return error instanceof Error && typeof (error as { status?: unknown }).status === 'number'
}

function isCutOff(error: unknown): boolean {
  return error instanceof Error && ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE'].includes((error as NodeJS.ErrnoException).code ?? '')
}
