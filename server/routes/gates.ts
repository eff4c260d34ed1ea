import Router from '@koa/router'
import { API } from '@dime-gate/contract/api'
import { bindingChangeSchema } from '@dime-gate/contract/binding'
import { decideRequestSchema } from '@dime-gate/contract/decide'
import { expectationRequestSchema } from '@dime-gate/contract/expectation'
import { draftChangeSchema, newGateSchema, versionRequestSchema } from '@dime-gate/contract/gate'
import { highlightChangeSchema } from '@dime-gate/contract/highlight'
import type { Database } from '../database/database'
import { addExpectations, listExpectations, removeExpectation } from '../expectation/expectations'
import { changeBinding, findBinding, listBindings } from '../gate/bindings'
import { feedingGates } from '../gate/feeding'
import { changeDraft, findGate, findVersion, listVersions, setVersion } from '../gate/gates'
import { changeHighlights, findHighlights } from '../gate/highlights'
import { copyGate, createGate } from '../gate/new-gate'
import { idOf, jsonBody } from '../http/body'
import type { Jobs } from '../jobs'
import { findTable } from '../table/tables'

export function gateRoutes(database: Database, jobs: Jobs): Router {
  return new Router({ prefix: `${API}/gates` })
    .post('/', async (context) => {
      context.body = await createGate(database, await jsonBody(context, newGateSchema))
      context.status = 201
    })
    .get('/:id', async (context) => {
      context.body = await findGate(database, idOf(context, 'gate'))
    })
    .put('/:id/draft', async (context) => {
      context.body = await changeDraft(database, idOf(context, 'gate'), await jsonBody(context, draftChangeSchema))
    })
    .get('/:id/bindings', async (context) => {
      context.body = await listBindings(database, idOf(context, 'gate'))
    })
    .get('/:id/bindings/:table', async (context) => {
      context.body = await findBinding(database, idOf(context, 'gate'), idOf(context, 'table', 'table'))
    })
    .put('/:id/bindings/:table', async (context) => {
      const change = await jsonBody(context, bindingChangeSchema)
      context.body = await changeBinding(database, idOf(context, 'gate'), idOf(context, 'table', 'table'), change)
    })
    .get('/:id/feeding/:table', async (context) => {
      const { draft } = await findGate(database, idOf(context, 'gate'))
      context.body = await feedingGates(database, draft, await findTable(database, idOf(context, 'table', 'table')))
    })
    .get('/:id/versions', async (context) => {
      context.body = await listVersions(database, idOf(context, 'gate'))
    })
    .get('/:id/versions/:number', async (context) => {
      context.body = await findVersion(database, idOf(context, 'gate'), idOf(context, 'version of this gate', 'number'))
    })
    .post('/:id/versions/:number/decide', async (context) => {
      const request = await jsonBody(context, decideRequestSchema)
      context.body = await jobs.decisions.decide(idOf(context, 'gate'), idOf(context, 'version of this gate', 'number'), request)
    })
    .get('/:id/expectations', async (context) => {
      context.body = await listExpectations(database, idOf(context, 'gate'))
    })
    .post('/:id/expectations', async (context) => {
      context.body = await addExpectations(database, idOf(context, 'gate'), await jsonBody(context, expectationRequestSchema))
      context.status = 201
    })
    .delete('/:id/expectations/:expectation', async (context) => {
      await removeExpectation(database, idOf(context, 'gate'), idOf(context, 'expectation of this gate', 'expectation'))
      context.body = {}
    })
    .get('/:id/highlights', async (context) => {
      context.body = await findHighlights(database, idOf(context, 'gate'))
    })
    .put('/:id/highlights', async (context) => {
      context.body = await changeHighlights(database, idOf(context, 'gate'), await jsonBody(context, highlightChangeSchema))
    })
    .post('/:id/copies', async (context) => {
      context.body = await copyGate(database, idOf(context, 'gate'))
      context.status = 201
    })
    .post('/:id/versions', async (context) => {
      const { seen, note } = await jsonBody(context, versionRequestSchema)
      context.body = await setVersion(database, idOf(context, 'gate'), seen, note)
      context.status = 201
    })
}
