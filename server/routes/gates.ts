import Router from '@koa/router'
import { draftChangeSchema, newGateSchema, versionRequestSchema } from '@dime-gate/contract/gate'
import type { Database } from '../database/database'
import { changeDraft, createGate, findGate, setVersion } from '../gate/gates'
import { idOf, jsonBody } from '../http/body'

export function gateRoutes(database: Database): Router {
  return new Router({ prefix: '/api/gates' })
    .post('/', async (context) => {
      context.body = await createGate(database, await jsonBody(context, newGateSchema))
      context.status = 201
    })
    .get('/:id', async (context) => {
      context.body = await findGate(database, idOf(context, 'gate'))
    })
    .put('/:id/draft', async (context) => {
      context.body = await changeDraft(database, idOf(context, 'gate'), await jsonBody(context, draftChangeSchema))
    })
    .post('/:id/versions', async (context) => {
      const { seen } = await jsonBody(context, versionRequestSchema)
      context.body = await setVersion(database, idOf(context, 'gate'), seen)
      context.status = 201
    })
}
