import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { workspaceChangeSchema } from '@dime-gate/contract/desk'
import type { Database } from '../database/database'
import { jsonBody } from '../http/body'
import type { Jobs } from '../jobs'
import { findRecords } from '../table/find-records'
import { changeWorkspace, readDesk, readWorkspace } from '../workspace'

export function deskRoutes(database: Database, jobs: Jobs): Router {
  return new Router({ prefix: API })
    .get('/desk', async (context) => {
      context.body = await readDesk(database, jobs)
    })
    .get('/found', async (context) => {
      context.body = await findRecords(jobs.slow, String(context.query.text ?? '').replaceAll('\0', ''))
    })
    .get('/workspace', async (context) => {
      context.body = await readWorkspace(database)
    })
    .put('/workspace', async (context) => {
      context.body = await changeWorkspace(database, await jsonBody(context, workspaceChangeSchema))
    })
}
