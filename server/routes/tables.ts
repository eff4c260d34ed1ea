import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { columnEncoder, columnSchemaOf } from '@dime-gate/contract/column-wire'
import { fileFormatChoiceSchema, importRequestSchema, recordsRequestSchema, tableChangeSchema } from '@dime-gate/contract/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { PREVIEW_BYTES, previewTable } from '@dime-gate/interchange/table/preview'
import type { Database } from '../database/database'
import type { Jobs } from '../jobs'
import { arrowStream } from '../http/arrow-stream'
import { bytesOf, idOf, jsonBody, jsonParameter, withBody } from '../http/body'
import { refusals } from '../http/refusal'
import { copyTable } from '../table/copy-table'
import { profileOf } from '../table/profile'
import { columnBatchesOf } from '../table/read-column'
import { readRecords } from '../table/records'
import { columnsOf, findTable, renameTable } from '../table/tables'

export function tableRoutes(database: Database, { imports, streams }: Jobs): Router {
  return new Router({ prefix: API })
    .post('/table-previews', async (context) => {
      const chosen = jsonParameter(context, 'format', fileFormatChoiceSchema)
      const start = await bytesOf(context, PREVIEW_BYTES)
      context.body = previewTable(start, context.query.whole === 'true', chosen)
    })
    .post('/tables', async (context) => {
      const request = jsonParameter(context, 'request', importRequestSchema)
      const id = await withBody(context, (bytes) => imports.bringIn(bytes, request))
      context.status = 201
      context.body = await findTable(database, id)
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
    .get('/tables/:id/profile', async (context) => {
      context.body = await profileOf(database, streams, await findTable(database, idOf(context, 'table')))
    })
    .post('/tables/:id/records', async (context) => {
      const { records } = await jsonBody(context, recordsRequestSchema)
      const { id, columns } = await findTable(database, idOf(context, 'table'))
      context.body = await readRecords(database, id, columns, records)
    })
    .get('/tables/:id/columns/:column', async (context) => {
      const tableId = idOf(context, 'table')
      const column = (await columnsOf(database, tableId)).find(({ id }) => String(id) === context.params.column)
      if (!column) throw refusals.notFound('column')
      arrowStream(context, streams, columnSchemaOf(kindOfColumn(column.type)), (connection) => columnBatchesOf(connection, tableId, column), columnEncoder())
    })
}
