import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { fileChoiceSchema } from '@dime-gate/contract/table'
import type { Database } from '../database/database'
import { jsonBody, withBody } from '../http/body'
import type { ProblemFor } from '../http/answer-problems'
import { withProgress } from '../http/progress'
import { refusals } from '../http/refusal'
import type { Jobs } from '../jobs'

const LONGEST_NAME = 400

export function fileRoutes(_: Database, { files }: Jobs, problemFor: ProblemFor): Router {
  return new Router({ prefix: `${API}/files` })
    .post('/', async (context) => {
      const { name } = context.query
      if (typeof name !== 'string' || name === '' || name.length > LONGEST_NAME)
        throw refusals.malformed(`the parameter name has to be the file’s, of 1 to ${LONGEST_NAME} characters.`)
      context.body = await withBody(context, (bytes) => files.add(name, bytes))
      context.status = 201
    })
    .post('/:id/looks', async (context) => {
      const choice = await jsonBody(context, fileChoiceSchema)
      await withProgress(context, 200, (waiting) => files.look(context.params.id!, choice, waiting), problemFor)
    })
    .delete('/:id', async (context) => {
      await files.remove(context.params.id!)
      context.status = 204
    })
}
