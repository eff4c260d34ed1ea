import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import type { Database } from '../database/database'
import { listConditions } from '../gate/conditions'

export function conditionRoutes(database: Database): Router {
  return new Router({ prefix: API }).get('/conditions', async (context) => {
    context.body = await listConditions(database)
  })
}
