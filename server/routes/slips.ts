import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import type { Run } from '@dime-gate/contract/run'
import { MOST_SLIPS, sentenceChangeSchema, slipLinksRequestSchema, slipsRequestSchema, tryLinkRequestSchema, withdrawalSchema } from '@dime-gate/contract/slip'
import type { Context } from 'koa'
import type { Database } from '../database/database'
import { idOf, jsonBody } from '../http/body'
import { refusals } from '../http/refusal'
import type { Jobs } from '../jobs'
import { pageAsked, paperOf } from '../paper/asked-page'
import { sendPdf } from '../paper/send-pdf'
import { sendZipOfPages } from '../paper/zip-of-pages'
import { findDoneRun } from '../run/runs'
import { linkedGate, linkedSlip, makeSlipLinks, makeTryLink, slipLinks, slipLinksCsv, tryLinks, withdrawSlipLinks, withdrawTryLink } from '../slip/links'
import { changeSentence, findSentence } from '../slip/sentences'
import { slipRecords, slipsOf } from '../slip/slips'

export function slipRoutes(database: Database, jobs: Jobs): Router {
  const runOf = (id: number) => findDoneRun(database, jobs.runs, id)

  /** The page that holds all that are asked for. @throws Refusal `too-large` */
  async function printed(context: Context & { params: Record<string, string> }): Promise<{ run: Run; name: string; page: ReturnType<typeof pageAsked> }> {
    const run = await runOf(idOf(context, 'run'))
    const { label, records } = context.query
    const asked = slipsRequestSchema.parse({ label: label ?? null, records: records === undefined ? null : String(records).split(',').map(Number) })
    const { total } = await slipRecords(database, run, asked, 1)
    if (total > MOST_SLIPS) throw refusals.tooManySlips(total, MOST_SLIPS)
    if (total === 0) throw refusals.noSlips()
    return { run, name: `${run.gateName}, slips of run ${run.number}`, page: pageAsked(context, `/runs/${run.id}/slips/print${context.search}`) }
  }

  return new Router({ prefix: API })
    .post('/runs/:id/slips', async (context) => {
      const request = await jsonBody(context, slipsRequestSchema)
      context.body = await slipsOf(database, await runOf(idOf(context, 'run')), request)
    })
    .get('/runs/:id/slips.pdf', async (context) => {
      const { name, page } = await printed(context)
      await sendPdf(context, name, (signal) => jobs.printer.pdf(page, paperOf(context), signal))
    })
    .get('/runs/:id/slips.zip', async (context) => {
      const { name, page } = await printed(context)
      await sendZipOfPages(context, name, jobs.printer, page, paperOf(context))
    })
    .get('/runs/:id/links.csv', async (context) => {
      const run = await runOf(idOf(context, 'run'))
      context.body = await slipLinksCsv(database, run, `http://${context.host}`)
      context.attachment(`${run.gateName}, links of run ${run.number}.csv`)
      context.type = 'text/csv; charset=utf-8'
    })
    .get('/runs/:id/links', async (context) => {
      context.body = await slipLinks(database, (await runOf(idOf(context, 'run'))).id)
    })
    .post('/runs/:id/links', async (context) => {
      const request = await jsonBody(context, slipLinksRequestSchema)
      context.body = await makeSlipLinks(database, await runOf(idOf(context, 'run')), request)
      context.status = 201
    })
    .post('/runs/:id/links/withdrawal', async (context) => {
      const { records } = await jsonBody(context, withdrawalSchema)
      context.body = await withdrawSlipLinks(database, (await runOf(idOf(context, 'run'))).id, records)
    })
    .get('/gates/:id/sentence', async (context) => {
      context.body = await findSentence(database, idOf(context, 'gate'))
    })
    .put('/gates/:id/sentence', async (context) => {
      context.body = await changeSentence(database, idOf(context, 'gate'), await jsonBody(context, sentenceChangeSchema))
    })
    .get('/gates/:id/try-links', async (context) => {
      context.body = await tryLinks(database, idOf(context, 'gate'))
    })
    .post('/gates/:id/try-links', async (context) => {
      context.body = await makeTryLink(database, idOf(context, 'gate'), await jsonBody(context, tryLinkRequestSchema))
      context.status = 201
    })
    .delete('/gates/:id/try-links/:link', async (context) => {
      context.body = await withdrawTryLink(database, idOf(context, 'gate'), idOf(context, 'link of this gate', 'link'))
    })
    .get('/slips/:token', async (context) => {
      context.body = await linkedSlip(database, context.params.token!, runOf)
    })
    .get('/tries/:token', async (context) => {
      context.body = await linkedGate(database, context.params.token!)
    })
}
