import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { listingSchema } from '@dime-gate/contract/change'
import { movedRequestSchema } from '@dime-gate/contract/comparison'
import { keyPartSchema } from '@dime-gate/contract/drawn'
import { type Run, runAgainSchema, runChangeSchema, runRequestSchema } from '@dime-gate/contract/run'
import { firstRecordsRequestSchema } from '@dime-gate/contract/run-records'
import { spreadRequestSchema } from '@dime-gate/contract/run-spread'
import type { Database } from '../database/database'
import { ARROW } from '../answer/answers'
import { sideWords } from '../comparison/moved-table'
import { recordInRuns } from '../comparison/record-in-runs'
import { expectationsOn } from '../expectation/expectations'
import { findHighlights } from '../gate/highlights'
import { idOf, jsonBody } from '../http/body'
import { attach, outFormatOf } from '../http/out-format'
import { refusals } from '../http/refusal'
import type { Jobs } from '../jobs'
import { pageAsked, paperOf } from '../paper/asked-page'
import { sendPdf } from '../paper/send-pdf'
import { runDraft } from '../run/draft-run'
import { groupsOfRun } from '../run/run-groups'
import { spreadOfRun } from '../run/run-spread'
import { recordsOfRun } from '../run/run-relation'
import { findDoneRun, findRun, keepRun, nameRun, runAgain } from '../run/runs'

export function runRoutes(database: Database, jobs: Jobs): Router {
  const findDone = (id: number) => findDoneRun(database, jobs.runs, id)

  /** @throws Refusal `not-found`, `not-done`, `malformed` where they are of two tables */
  async function findPair(context: { params: Record<string, string> }): Promise<[Run, Run]> {
    const [before, after] = [await findDone(idOf(context, 'run')), await findDone(idOf(context, 'run', 'other'))]
    if (before.tableId !== after.tableId) throw refusals.ofTwoTables(before.tableName, after.tableName)
    return [before, after]
  }

  return new Router({ prefix: `${API}/runs` })
    .post('/', async (context) => {
      const request = await jsonBody(context, runRequestSchema)
      // What is drawn from elsewhere is kept as it is now.
      await jobs.figures.current(request.tableId)
      context.body = await keepRun(database, jobs.runs, request)
      context.status = 201
    })
    .get('/:id', async (context) => {
      context.body = await findRun(database, jobs.runs, idOf(context, 'run'))
    })
    .patch('/:id', async (context) => {
      const { name } = await jsonBody(context, runChangeSchema)
      context.body = await nameRun(database, jobs.runs, idOf(context, 'run'), name)
    })
    .post('/:id/again', async (context) => {
      const { as } = await jsonBody(context, runAgainSchema)
      const { id, tableId } = await findRun(database, jobs.runs, idOf(context, 'run'))
      await jobs.figures.current(tableId)
      context.body = await runAgain(database, jobs.runs, id, as)
      context.status = 201
    })
    .post('/:id/draft', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      await jobs.figures.current(run.tableId)
      context.body = await runDraft(database, jobs.runs, run)
      context.status = 201
    })
    .post('/:id/first-records', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const request = await jsonBody(context, firstRecordsRequestSchema)
      context.type = 'json'
      await jobs.answers.send(context, { kind: 'first records', run, request })
    })
    .get('/:id/records', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      context.type = ARROW
      await jobs.answers.send(context, { kind: 'decisions', runId: run.id })
    })
    .get('/:id/records/:record/runs', async (context) => {
      context.body = await recordInRuns(database, await findDone(idOf(context, 'run')), idOf(context, 'record', 'record'))
    })
    .get('/:id/columns/:column', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const column = run.columns.find(({ id }) => id === idOf(context, 'column', 'column'))
      if (!column) throw refusals.notFound('column of this run')
      context.type = ARROW
      await jobs.answers.send(context, { kind: 'column of a run', run, column })
    })
    .get('/:id/columns/:column/spread', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      context.body = await spreadOfRun(jobs.slow, run, idOf(context, 'column of this run', 'column'), spreadRequestSchema.parse(context.query))
    })
    .get('/:id/against/:other/moved.:format', async (context) => {
      const [before, after] = await findPair(context)
      const lines = await jobs.comparisons.lines(before, after)
      const format = outFormatOf(context, lines.length)
      attach(context, `${after.tableName}, moved from ${sideWords(before)} to ${sideWords(after)}`, format)
      await jobs.answers.sendFile(context, { kind: 'moved', moved: { before, after, lines }, format })
    })
    .get('/:id/fresh', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      await jobs.figures.current(run.tableId)
      context.body = await jobs.freshness.of(run)
    })
    .get('/:id/checks', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      context.body = await jobs.checks.check(run, await expectationsOn(database, run.gateId, run.tableId))
    })
    .get('/:id/against/:other', async (context) => {
      context.body = await jobs.comparisons.compare(...(await findPair(context)))
    })
    .get('/:id/against/:other/reasons', async (context) => {
      context.body = await jobs.comparisons.reasons(...(await findPair(context)))
    })
    .post('/:id/against/:other/moved', async (context) => {
      const request = await jsonBody(context, movedRequestSchema)
      context.body = await jobs.comparisons.moved(...(await findPair(context)), request)
    })
    .get('/:id/groups/:column', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      context.body = await groupsOfRun(jobs.slow, run, idOf(context, 'column of this run', 'column'), keyPartSchema.parse(context.query.part ?? 'whole'))
    })
    .post('/:id/listings', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const listing = await jsonBody(context, listingSchema)
      context.type = 'application/octet-stream'
      await jobs.answers.send(context, { kind: 'listing', columns: run.columns, from: recordsOfRun(run), listing })
    })
    .get('/:id/highlighted', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const { highlights } = await findHighlights(database, run.gateId)
      context.type = 'json'
      await jobs.answers.send(context, { kind: 'highlighted', run, highlights })
    })
    .get('/:id/report.pdf', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const page = pageAsked(context, `/runs/${run.id}/report${context.search}`)
      await sendPdf(context, `${run.gateName}, ${run.tableName}, run ${run.number}`, (signal) => jobs.printer.pdf(page, paperOf(context), signal))
    })
    .get('/:id/labelled.:format', async (context) => {
      const run = await findDone(idOf(context, 'run'))
      const format = outFormatOf(context, run.counts!.records)
      attach(context, `${run.tableName}, ${run.gateName} run ${run.number}`, format)
      const { highlights } = await findHighlights(database, run.gateId)
      await jobs.answers.sendFile(context, { kind: 'labelled', run, highlights, format })
    })
}
