/** Answers that say how far they are while they come: for whoever accepts lines of JSON, a line each; for others, the last alone. */
import { PassThrough } from 'node:stream'
import type { Context } from 'koa'
import type { Progress } from '@dime-gate/contract/table'
import type { Waiting } from '../threads/thread-pool'

export const LINES = 'application/x-ndjson'

/** What the last line holds; `progress` stands in all others. */
export type LastLine<Body> = { status: number; body: Body }

/**
 * @param work is broken off where whoever asked goes away
 * @param problemFor what is answered where `work` fails
 */
export async function withProgress<Body>(
  context: Context,
  status: number,
  work: (waiting: Waiting<Progress>) => Promise<Body>,
  problemFor: (error: unknown, context: Context) => LastLine<unknown>,
): Promise<void> {
  const left = new AbortController()
  context.res.once('close', () => left.abort())
  if (context.accepts('json', LINES) !== LINES) {
    context.body = await work({ signal: left.signal })
    context.status = status
    return
  }
  const lines = new PassThrough()
  const say = (line: object) => void lines.write(`${JSON.stringify(line)}\n`)
  context.type = LINES
  context.body = lines
  let said = 0
  const heard = (progress: Progress): void => {
    const now = Date.now()
    // Nobody reads faster.
    if (now - said < 100) return
    said = now
    say({ progress })
  }
  work({ signal: left.signal, heard, delayed: () => say({ progress: { records: 0, share: null, isWaiting: true } satisfies Progress }) })
    .then(
      (body) => say({ status, body }),
      (error: unknown) => say(problemFor(error, context)),
    )
    .finally(() => lines.end())
}
