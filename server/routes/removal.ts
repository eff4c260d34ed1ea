import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import type { Database } from '../database/database'
import { idOf } from '../http/body'
import type { Jobs } from '../jobs'
import { cancelRun } from '../run/runs'
import { type Removable, remove, restore } from '../removal'

const KINDS: Record<string, Removable> = { tables: 'table', gates: 'gate', runs: 'run' }

export function removalRoutes(database: Database, jobs: Jobs): Router {
  const router = new Router({ prefix: API })
  for (const [path, kind] of Object.entries(KINDS)) {
    router
      .delete(`/${path}/:id`, async (context) => {
        const id = idOf(context, kind)
        if (kind !== 'run' || !(await cancelRun(database, jobs.runs, id))) await remove(database, kind, id)
        context.body = {}
      })
      .post(`/${path}/:id/restoration`, async (context) => {
        await restore(database, kind, idOf(context, kind))
        context.body = {}
      })
  }
  return router
}
