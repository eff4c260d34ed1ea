/** For whoever watches over the program: whether it runs, and whether it can do its work. */
import Router from '@koa/router'
import type { Database } from '../database/database'
import { refusals } from '../http/refusal'

/** Milliseconds after which a database that does not answer counts as away. */
const PATIENCE = 2000

export function healthRoutes(database: Database): Router {
  return new Router()
    .get('/health', (context) => {
      context.body = { status: 'ok' }
    })
    .get('/ready', async (context) => {
      const isThere = await Promise.race([
        database.query('select 1').then(() => true, () => false),
        new Promise<false>((resolve) => setTimeout(() => resolve(false), PATIENCE).unref()),
      ])
      if (!isThere) throw refusals.databaseAway()
      context.body = { status: 'ready' }
    })
}
