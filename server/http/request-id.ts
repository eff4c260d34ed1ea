import { randomUUID } from 'node:crypto'
import type { Middleware } from 'koa'

/** Hexadecimal digits at the end of a random UUID, all of them random (RFC 9562 clause 5.4). */
const ID_LENGTH = 12

/** Names every request, so that what a person is told of a fault can be found in the log. */
export const requestId: Middleware = async (context, next) => {
  context.state.request = randomUUID().slice(-ID_LENGTH)
  context.set('X-Request-Id', context.state.request as string)
  await next()
}
