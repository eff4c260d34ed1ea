import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { changeRequestSchema, listingSchema, mergeRequestSchema } from '@dime-gate/contract/change'
import { changeTable, undo } from '../change/change-table'
import { recordHistory } from '../change/history'
import { changesOf } from '../change/versions'
import type { Database } from '../database/database'
import type { ProblemFor } from '../http/answer-problems'
import { idOf, jsonBody, keyOf } from '../http/body'
import { withProgress } from '../http/progress'
import type { Jobs } from '../jobs'
import { recordsWithFigures } from '../table/relation'
import { findTable } from '../table/tables'

/** Bytes of a pasted block at most. */
const MOST_CHANGE = 24_000_000

export function changeRoutes(database: Database, { answers, figures, files }: Jobs, problemFor: ProblemFor): Router {
  return new Router({ prefix: API })
    .post('/tables/:id/changes', async (context) => {
      const tableId = idOf(context, 'table')
      context.body = await changeTable(database, tableId, await jsonBody(context, changeRequestSchema, MOST_CHANGE), keyOf(context))
    })
    .get('/tables/:id/changes', async (context) => {
      const { id } = await findTable(database, idOf(context, 'table'))
      context.body = await changesOf(database, id)
    })
    .post('/tables/:id/changes/:version/undoing', async (context) => {
      context.body = await undo(database, idOf(context, 'table'), idOf(context, 'change of this table', 'version'), keyOf(context))
    })
    .get('/tables/:id/records/:record/history', async (context) => {
      const { id } = await findTable(database, idOf(context, 'table'))
      context.body = await recordHistory(database, id, idOf(context, 'record of this table', 'record'))
    })
    .post('/tables/:id/merges', async (context) => {
      const tableId = idOf(context, 'table')
      const { file, ...merge } = await jsonBody(context, mergeRequestSchema, MOST_CHANGE)
      await withProgress(context, 200, (waiting) => files.merge(file, { ...merge, tableId }, waiting), problemFor)
    })
    .post('/tables/:id/listings', async (context) => {
      const table = await figures.current(idOf(context, 'table'))
      const listing = await jsonBody(context, listingSchema)
      context.type = 'application/octet-stream'
      await answers.send(context, { kind: 'listing', columns: table.columns, from: recordsWithFigures(table), listing })
    })
}
