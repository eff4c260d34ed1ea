/** Whether a file that was asked for waits for others first: a download cannot tell that by itself. */
import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import type { Wait } from '@dime-gate/contract/wait'
import type { Database } from '../database/database'
import type { Jobs } from '../jobs'

export function waitRoutes(_: Database, { answers }: Jobs): Router {
  return new Router({ prefix: API }).get('/waits/:ticket', (context) => {
    context.body = { isWaiting: answers.isWaiting(context.params.ticket!) } satisfies Wait
  })
}
