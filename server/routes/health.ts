/** For programs: whether this one runs, whether it can do its work, and what it can be asked. */
import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { openApi } from '@dime-gate/contract/open-api'
import type { Database } from '../database/database'
import { refusals } from '../http/refusal'

/** Milliseconds after which a database that does not answer counts as away. */
const PATIENCE = 2000

/** The description does not change while the program runs. */
let description: object | null = null

export function healthRoutes(database: Database): Router {
  return new Router()
    .get(`${API}/openapi.json`, (context) => {
      context.body = description ??= openApi()
    })
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
