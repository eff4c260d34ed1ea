import Router from '@koa/router'
import type { Context } from 'koa'
import { API } from '@dime-gate/contract/api'
import { importRequestSchema, isComputed, type RecordsRequest, recordsRequestSchema, type Table, type TableRecord, tableChangeSchema } from '@dime-gate/contract/table'
import type { TableSince } from '@dime-gate/contract/change'
import { drawnPreviewRequestSchema } from '@dime-gate/contract/drawn-preview'
import { rollUpRequestSchema } from '@dime-gate/contract/roll-up'
import type { Database } from '../database/database'
import type { Jobs } from '../jobs'
import type { ColumnFound } from '../answer/answers'
import type { ProblemFor } from '../http/answer-problems'
import { changedSince } from '../change/changed-since'
import { dayOf, idOf, jsonBody, wholeIn } from '../http/body'
import { attach, outFormatOf } from '../http/out-format'
import { withProgress } from '../http/progress'
import { withFiguresOf } from '../figure/changed-figures'
import { previewDrawn } from '../figure/preview-drawn'
import { totalsOf } from '../figure/totals'
import { currentDay } from '../figure/stored-figures'
import { refusals } from '../http/refusal'
import { recordsOfRun } from '../run/run-relation'
import { findRun } from '../run/runs'
import { copyTable } from '../table/copy-table'
import { profileOf } from '../table/profile'
import { readFrom, readRecords, readRecordsAt } from '../table/records'
import { columnsAt } from '../table/table-itself'
import { rollUpTable } from '../table/roll-up'
import { findTable, renameTable } from '../table/tables'

/** Bytes that are said of a file at most: a thousand columns with long names. */
const MOST_SETTINGS = 16_000_000

export function tableRoutes(database: Database, { files, figures, runs, answers, slow }: Jobs, problemFor: ProblemFor): Router {
  async function askedRecords(id: number, { records, version, run, asOf }: RecordsRequest): Promise<TableRecord[]> {
    if (run !== undefined) {
      const kept = await findRun(database, runs, run)
      if (kept.tableId !== id) throw refusals.notFound('run of this table')
      return readFrom(database, recordsOfRun(kept), kept.columns, records)
    }
    if (version !== undefined && version !== (await findTable(database, id)).version)
      return readRecordsAt(database, id, version, (await columnsAt(database, id, version)).filter((column) => !isComputed(column)), records)
    return recordsOn(await figures.current(id), records, asOf)
  }

  /** @param asOf what counts as today; the workspace's day where none is said */
  async function recordsOn(table: Table, records: number[], asOf?: string | null): Promise<TableRecord[]> {
    const told = await readRecords(database, table, table.columns, records)
    return !asOf || asOf === (await currentDay(database)) ? told : withFiguresOf(database, table, told, asOf)
  }

  /** How many groups there are is known once they are looked for. */
  async function tableOf(id: number): Promise<Table> {
    const table = await findTable(database, id)
    return table.rollUp === null ? table : figures.current(id)
  }

  async function columnFound(context: Context & { params: Record<string, string> }): Promise<ColumnFound> {
    const found = await findTable(database, idOf(context, 'table'))
    // What is drawn from elsewhere is read as it is kept.
    const table = found.columns.some(({ drawn }) => drawn !== null) ? await figures.current(found.id) : found
    const column = table.columns.find(({ id }) => String(id) === context.params.column)
    if (!column) throw refusals.notFound('column')
    const asOf = dayOf(context) ?? (await currentDay(database))
    // What is computed hangs on more than the table's version.
    const as = isComputed(column) ? null : JSON.stringify([table.id, table.version, column.id, column.type])
    return { table, column, asOf, as }
  }

  return new Router({ prefix: API })
    .post('/tables', async (context) => {
      const { file, name, settings } = await jsonBody(context, importRequestSchema, MOST_SETTINGS)
      await withProgress(context, 201, async (waiting) => findTable(database, await files.bringIn(file, { name, settings }, waiting)), problemFor)
    })
    .get('/tables/:id', async (context) => {
      context.body = await tableOf(idOf(context, 'table'))
    })
    .get('/tables/:id/since/:version', async (context) => {
      const [version, asOf] = [idOf(context, 'version of this table', 'version'), dayOf(context)]
      const table = await tableOf(idOf(context, 'table'))
      if (version > table.version) throw refusals.notFound('version of this table')
      const changed = await changedSince(database, table, version, wholeIn(context, 'figures'))
      context.body = { table, changed: changed && (await recordsOn(table, changed, asOf)) } satisfies TableSince
    })
    .patch('/tables/:id', async (context) => {
      const { name } = await jsonBody(context, tableChangeSchema)
      context.body = await renameTable(database, idOf(context, 'table'), name)
    })
    .post('/tables/:id/copies', async (context) => {
      context.body = await copyTable(database, await figures.current(idOf(context, 'table')))
      context.status = 201
    })
    .post('/tables/:id/drawn-previews', async (context) => {
      context.body = await previewDrawn(database, figures, idOf(context, 'table'), await jsonBody(context, drawnPreviewRequestSchema))
    })
    .get('/tables/:id/totals', async (context) => {
      context.body = await totalsOf(database, await figures.current(idOf(context, 'table')))
    })
    .post('/tables/:id/roll-ups', async (context) => {
      const { id } = await rollUpTable(database, idOf(context, 'table'), await jsonBody(context, rollUpRequestSchema))
      context.body = await figures.current(id)
      context.status = 201
    })
    .get('/tables/:id/file.:format', async (context) => {
      const table = await figures.current(idOf(context, 'table'))
      const format = outFormatOf(context, table.records)
      attach(context, table.name, format)
      await answers.sendFile(context, { kind: 'table', table, format })
    })
    .get('/tables/:id/profile', async (context) => {
      context.body = await profileOf(database, slow, await figures.current(idOf(context, 'table')))
    })
    .post('/tables/:id/records', async (context) => {
      context.body = await askedRecords(idOf(context, 'table'), await jsonBody(context, recordsRequestSchema))
    })
    .get('/tables/:id/columns/:column', async (context) => {
      await answers.sendColumn(context, idOf(context, 'table'), columnFound(context))
    })
}
