import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { importRequestSchema, recordsRequestSchema, tableChangeSchema } from '@dime-gate/contract/table'
import type { Database } from '../database/database'
import type { Jobs } from '../jobs'
import { ARROW } from '../answer/answers'
import type { ProblemFor } from '../http/answer-problems'
import { idOf, jsonBody } from '../http/body'
import { attach, outFormatOf } from '../http/out-format'
import { withProgress } from '../http/progress'
import { refusals } from '../http/refusal'
import { copyTable } from '../table/copy-table'
import { profileOf } from '../table/profile'
import { readRecords } from '../table/records'
import { columnsAt, columnsOf, findTable, renameTable } from '../table/tables'

/** Bytes that are said of a file at most: a thousand columns with long names. */
const MOST_SETTINGS = 16_000_000

export function tableRoutes(database: Database, { files, answers, slow }: Jobs, problemFor: ProblemFor): Router {
  return new Router({ prefix: API })
    .post('/tables', async (context) => {
      const { file, name, settings } = await jsonBody(context, importRequestSchema, MOST_SETTINGS)
      await withProgress(context, 201, async (waiting) => findTable(database, await files.bringIn(file, { name, settings }, waiting)), problemFor)
    })
    .get('/tables/:id', async (context) => {
      context.body = await findTable(database, idOf(context, 'table'))
    })
    .patch('/tables/:id', async (context) => {
      const { name } = await jsonBody(context, tableChangeSchema)
      context.body = await renameTable(database, idOf(context, 'table'), name)
    })
    .post('/tables/:id/copies', async (context) => {
      context.body = await copyTable(database, idOf(context, 'table'))
      context.status = 201
    })
    .get('/tables/:id/file.:format', async (context) => {
      const table = await findTable(database, idOf(context, 'table'))
      const format = outFormatOf(context, table.records)
      attach(context, table.name, format)
      await answers.send(context, { kind: 'table', table, format }, { isLong: true })
    })
    .get('/tables/:id/profile', async (context) => {
      context.body = await profileOf(database, slow, await findTable(database, idOf(context, 'table')))
    })
    .post('/tables/:id/records', async (context) => {
      const { records, version } = await jsonBody(context, recordsRequestSchema)
      const { id, columns } = await findTable(database, idOf(context, 'table'))
      context.body = await readRecords(database, id, version === undefined ? columns : await columnsAt(database, id, version), records, version)
    })
    .get('/tables/:id/columns/:column', async (context) => {
      const tableId = idOf(context, 'table')
      const column = (await columnsOf(database, tableId)).find(({ id }) => String(id) === context.params.column)
      if (!column) throw refusals.notFound('column')
      context.type = ARROW
      await answers.send(context, { kind: 'column', tableId, column })
    })
}
