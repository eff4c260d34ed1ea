import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { runToBatch, runWireSchema } from '@dime-gate/contract/column-wire'
import { runRequestSchema } from '@dime-gate/contract/run'
import type { Database } from '../database/database'
import { arrowStream, streamBody } from '../http/arrow-stream'
import { idOf, jsonBody } from '../http/body'
import { labelledCsv } from '../run/labelled-csv'
import { findRun, keepRun, runBatches } from '../run/runs'

export function runRoutes(database: Database): Router {
  return new Router({ prefix: `${API}/runs` })
    .post('/', async (context) => {
      context.body = await keepRun(database, await jsonBody(context, runRequestSchema))
      context.status = 201
    })
    .get('/:id', async (context) => {
      context.body = await findRun(database, idOf(context, 'run'))
    })
    .get('/:id/records', async (context) => {
      const { id } = await findRun(database, idOf(context, 'run'))
      arrowStream(context, database, runWireSchema, (connection) => runBatches(connection, id), runToBatch)
    })
    .get('/:id/labelled.csv', async (context) => {
      const run = await findRun(database, idOf(context, 'run'))
      context.type = 'text/csv; charset=utf-8'
      context.attachment(`${run.tableName}, ${run.gateName} run ${run.number}.csv`)
      streamBody(context, database, (connection) => labelledCsv(connection, run))
    })
}
