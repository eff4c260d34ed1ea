import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { actRequestSchema, exceptionListingSchema, exceptionRequestSchema } from '@dime-gate/contract/review'
import type { Database } from '../database/database'
import { idOf, jsonBody } from '../http/body'
import type { Jobs } from '../jobs'
import { act, takeBack } from '../review/acts'
import { exceptionDetail, lastRuns, overridesOf, someExceptions, standingOverrides } from '../review/exception-list'

export function reviewRoutes(database: Database, jobs: Jobs): Router {
  return new Router({ prefix: `${API}/review` })
    .get('/', async (context) => {
      context.body = await jobs.reviews.read()
    })
    .post('/listings', async (context) => {
      const listing = await jsonBody(context, exceptionListingSchema)
      const runs = listing.filter.runs ?? (await lastRuns(database)).map(({ id }) => id)
      await jobs.reviews.lookThrough(runs)
      context.type = 'application/octet-stream'
      await jobs.answers.send(context, { kind: 'exceptions', runs, listing })
    })
    .post('/exceptions', async (context) => {
      context.body = await someExceptions(database, await jsonBody(context, exceptionRequestSchema))
    })
    .get('/runs/:id/overrides', async (context) => {
      context.body = await overridesOf(database, idOf(context, 'run'))
    })
    .get('/gates/:id/tables/:table/overrides', async (context) => {
      context.body = await standingOverrides(database, idOf(context, 'gate'), idOf(context, 'table', 'table'))
    })
    .get('/runs/:id/records/:record', async (context) => {
      context.body = await exceptionDetail(database, idOf(context, 'run'), idOf(context, 'record of this run', 'record'))
    })
    .post('/acts', async (context) => {
      context.body = await act(database, await jsonBody(context, actRequestSchema))
      context.status = 201
    })
    .delete('/acts/:id', async (context) => {
      context.body = await takeBack(database, idOf(context, 'act in the review'))
    })
}
