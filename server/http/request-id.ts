import { randomBytes } from 'node:crypto'
import type { Middleware } from 'koa'

/** Names every request, so that what a person is told of a fault can be found in the log. */
export const requestId: Middleware = async (context, next) => {
  context.state.request = randomBytes(6).toString('hex')
  context.set('X-Request-Id', context.state.request as string)
  await next()
}
