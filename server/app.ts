/** The server: the interface's files, and the routes that it talks to. */
import type { Router, RouterContext } from '@koa/router'
import Koa, { type Middleware } from 'koa'
import type { Logger } from 'pino'
import { type Database, isAway } from './database/database'
import { answerProblems, problemAnswers } from './http/answer-problems'
import { Refusal } from './http/refusal'
import { requestId } from './http/request-id'
import { securityHeaders } from './http/security-headers'
import { onlyThisMachine } from './http/only-this-machine'
import { pages } from './http/pages'
import { deskRoutes } from './routes/desk'
import { conditionRoutes } from './routes/conditions'
import { changeRoutes } from './routes/changes'
import { fileRoutes } from './routes/files'
import { gateRoutes } from './routes/gates'
import { healthRoutes } from './routes/health'
import { removalRoutes } from './routes/removal'
import { reviewRoutes } from './routes/review'
import { runRoutes } from './routes/runs'
import { slipRoutes } from './routes/slips'
import { tableRoutes } from './routes/tables'
import { waitRoutes } from './routes/waits'
import type { Jobs } from './jobs'

/** Those with a place of their own come first: what is asked there is not looked for among the others. */
export const ROUTES = [gateRoutes, runRoutes, fileRoutes, reviewRoutes, tableRoutes, deskRoutes, changeRoutes, conditionRoutes, slipRoutes, waitRoutes, removalRoutes, healthRoutes] as const

function below(router: Router): Middleware {
  const [routes, { prefix = '' }] = [router.routes(), router.opts]
  return (context, next) => (context.path.startsWith(prefix) ? routes(context as RouterContext, next) : next())
}

/** @param webFolder the built interface */
export function createApp(database: Database, jobs: Jobs, webFolder: string, log: Logger): Koa {
  const app = new Koa()
  app.on('error', (error: NodeJS.ErrnoException) => {
    // Readers that leave in the middle of an answer, and senders in the middle of a request, are no fault of ours.
    if (['ECONNRESET', 'EPIPE', 'ERR_STREAM_PREMATURE_CLOSE'].includes(error.code ?? '') || error.code?.startsWith('HPE_')) return
    if (isAway(error) || (error as unknown) instanceof Refusal) log.warn({ reason: error.message }, 'an answer broke off: the database went away')
    else log.error({ error }, 'an answer broke off')
  })
  app.use(requestId)
  app.use(securityHeaders)
  const problemFor = problemAnswers(log)
  app.use(answerProblems(problemFor))
  app.use(onlyThisMachine)
  for (const routes of ROUTES) app.use(below(routes(database, jobs, problemFor)))
  app.use(pages(webFolder))
  return app
}
