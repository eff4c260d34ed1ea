import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { columnEncoder, columnSchemaOf, decisionSchema, decisionsToBatch } from '@dime-gate/contract/column-wire'
import { type Run, runChangeSchema, runRequestSchema } from '@dime-gate/contract/run'
import type { Database } from '../database/database'
import { arrowStream } from '../http/arrow-stream'
import { idOf, jsonBody } from '../http/body'
import { refusals } from '../http/refusal'
import { streamBody } from '../http/stream-body'
import { labelledCsv } from '../run/labelled-csv'
import type { Jobs } from '../jobs'
import { decisionBatches, findRun, keepRun, nameRun, seenColumn } from '../run/runs'

export function runRoutes(database: Database, jobs: Jobs): Router {
  /** @throws Refusal `not-done` */
  async function findDone(id: number): Promise<Run> {
    const run = await findRun(database, jobs.runs, id)
    if (run.state !== 'done') throw refusals.notDone(run.problem)
    return run
  }

  return new Router({ prefix: `${API}/runs` })
    .post('/', async (context) => {
      context.body = await keepRun(database, jobs.runs, await jsonBody(context, runRequestSchema))
      context.status = 201
    })
    .get('/:id', async (context) => {
      context.body = await findRun(database, jobs.runs, idOf(context, 'run'))
    })
    .patch('/:id', async (context) => {
      const { name } = await jsonBody(context, runChangeSchema)
      context.body = await nameRun(database, jobs.runs, idOf(context, 'run'), name)
    })
    .get('/:id/records', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      arrowStream(context, jobs.streams, decisionSchema, (connection) => decisionBatches(connection, run.id), decisionsToBatch)
    })
    .get('/:id/columns/:column', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const { kind, batches } = seenColumn(run, idOf(context, 'column', 'column'))
      arrowStream(context, jobs.streams, columnSchemaOf(kind), batches, columnEncoder())
    })
    .get('/:id/labelled.csv', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      context.type = 'text/csv; charset=utf-8'
      context.attachment(`${run.tableName}, ${run.gateName} run ${run.number}.csv`)
      streamBody(context, jobs.streams, (connection) => labelledCsv(connection, run))
    })
}
