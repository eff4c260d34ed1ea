import { PassThrough } from 'node:stream'
import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { changeRequestSchema, listingSchema } from '@dime-gate/contract/change'
import { changeTable, undo } from '../change/change-table'
import { recordHistory } from '../change/history'
import { changesOf } from '../change/versions'
import type { Database } from '../database/database'
import { idOf, jsonBody } from '../http/body'
import type { Jobs } from '../jobs'
import { findTable } from '../table/tables'

/** Bytes of a pasted block at most. */
const MOST_CHANGE = 24_000_000
/** Milliseconds between signs of life, so that whoever is between does not take the line for dead. */
const BEAT = 20_000

export function changeRoutes(database: Database, { answers, changes }: Jobs): Router {
  return new Router({ prefix: API })
    .post('/tables/:id/changes', async (context) => {
      const tableId = idOf(context, 'table')
      context.body = await changeTable(database, tableId, await jsonBody(context, changeRequestSchema, MOST_CHANGE))
    })
    .get('/tables/:id/changes', async (context) => {
      const { id } = await findTable(database, idOf(context, 'table'))
      context.body = await changesOf(database, id)
    })
    .post('/tables/:id/changes/:version/undoing', async (context) => {
      context.body = await undo(database, idOf(context, 'table'), idOf(context, 'change of this table', 'version'))
    })
    .get('/tables/:id/records/:record/history', async (context) => {
      const { id } = await findTable(database, idOf(context, 'table'))
      context.body = await recordHistory(database, id, idOf(context, 'record of this table', 'record'))
    })
    .post('/tables/:id/listings', async (context) => {
      const table = await findTable(database, idOf(context, 'table'))
      const listing = await jsonBody(context, listingSchema)
      context.type = 'application/octet-stream'
      await answers.send(context, { kind: 'listing', table, listing })
    })
    // What changes, as it changes (HTML standard, server-sent events).
    .get('/moves', (context) => {
      const events = new PassThrough()
      context.type = 'text/event-stream'
      context.set('Cache-Control', 'no-store')
      context.body = events
      events.write(': here\n\n')
      const stop = changes.listen((moved) => void events.write(`data: ${JSON.stringify(moved)}\n\n`))
      const beats = setInterval(() => events.write(': still here\n\n'), BEAT)
      context.res.once('close', () => {
        clearInterval(beats)
        stop()
        events.end()
      })
    })
}
