import { band } from '@dime-gate/core/testing/a-gate'
import { type FeedingGate, feedingSeen, type Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import type { Gate as GateDocument, ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { bringIn } from '../testing/bring-in'
import { ended } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let table: Table
let inner: Gate
let outer: Gate
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Climbs', 'Who,Points,Marks\nIlo,10,80\nTes,75,10\n')
  inner = await made(SCALE, { Points: { column: table.columns[1]!.id } })
  outer = await made(RULES, {})
})
afterAll(() => server.close())

const SCALE: ScaleGate = plainScale('Award', givenNumber('Points', ''), [{ at: '50', owner: 'above' }], [band('low'), band('high')])
const RULES: GateDocument = {
  schema: 1, form: 'rules', name: 'Goes up', hitPolicy: 'first',
  inputs: [{ ...givenNumber('Level', ''), type: 'text', source: { kind: 'gate', gate: 'Award', outcome: null } }],
  outcomes: [{ name: 'Label', type: 'text', labels: [] }],
  rules: [{ condition: 'Level = "high"', entries: [{ is: 'up' }], note: '' }], otherwise: [{ is: 'stays' }],
}

/** A gate on the table, with a first version. */
async function made(draft: GateDocument, inputs: object): Promise<Gate> {
  const { id } = (await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs } })).body as Gate
  return (await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })).body
}

const feeding = async () => feedingSeen((await server.ask('GET', `/gates/${outer.id}/feeding/${table.id}`)).body as FeedingGate[])
const keep = (seen: object[]) => server.ask('POST', '/runs', { gateId: outer.id, version: 1, tableId: table.id, binding: 1, feeding: seen })
const labelled = async ({ body }: { body: Run }) => {
  const { id } = await ended(server, body.id)
  return (await (await server.fetch(`/api/v1/runs/${id}/labelled.csv`)).text()).split('\r\n').slice(1, 3).map((line) => line.split(',')[3])
}

test('a run is of the feeding gates that were seen: one that has a new version, or looks elsewhere, is not taken unseen', async () => {
  const first = await feeding()
  expect(first).toEqual([{ gateId: inner.id, version: 1, binding: 1 }])
  expect(await labelled(await keep(first))).toEqual(['stays', 'up'])

  await server.ask('PUT', `/gates/${inner.id}/bindings/${table.id}`, { inputs: { Points: { column: table.columns[2]!.id } }, seen: 1 })
  expect(await keep(first)).toMatchObject({ status: 409, body: { code: 'stale', message: expect.stringContaining('“Award”, which feeds “Goes up”') } })
  const second = await feeding()
  expect(await labelled(await keep(second))).toEqual(['up', 'stays'])

  await server.ask('PUT', `/gates/${inner.id}/draft`, { draft: { ...SCALE, cuts: [{ at: '90', owner: 'above' }] }, seen: 1 })
  expect((await keep(second)).status).toBe(201)
  await server.ask('POST', `/gates/${inner.id}/versions`, { seen: 2 })
  expect(await keep(second)).toMatchObject({ status: 409, body: { code: 'stale' } })
  expect(await labelled(await keep(await feeding()))).toEqual(['stays', 'stays'])
})

test('a run that says nothing of the gates that feed it is refused', async () => {
  expect(await keep([])).toMatchObject({ status: 409, body: { code: 'stale' } })
})

test('a gate that gets another name goes on feeding: drafts name it anew, versions know it by the name that it had, and nobody else takes that', async () => {
  const scale = { ...SCALE, name: 'Prize' }
  const made = async (draft: GateDocument, inputs: object): Promise<Gate> => {
    const { id } = (await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs } })).body as Gate
    return (await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })).body
  }
  const feeds = await made(scale, { Points: { column: table.columns[1]!.id } })
  const rules = JSON.parse(JSON.stringify(RULES).replaceAll('Award', 'Prize').replace('Goes up', 'Rises')) as GateDocument
  const fed = await made(rules, {})
  expect((await server.ask('PUT', `/gates/${feeds.id}/draft`, { draft: { ...scale, name: 'Medal' }, seen: 1 })).status).toBe(200)
  const { draft, draftVersion, latest } = (await server.ask('GET', `/gates/${fed.id}`)).body as Gate
  expect([draft.inputs[0]!.source, latest!.inputs[0]!.source, draftVersion]).toEqual([{ kind: 'gate', gate: 'Medal', outcome: null }, { kind: 'gate', gate: 'Prize', outcome: null }, 2])
  const seen = feedingSeen((await server.ask('GET', `/gates/${fed.id}/feeding/${table.id}`)).body as FeedingGate[])
  expect(seen).toEqual([{ gateId: feeds.id, version: 1, binding: 1 }])
  const run = await server.ask('POST', '/runs', { gateId: fed.id, version: 1, tableId: table.id, binding: 1, feeding: seen })
  expect(await ended(server, (run.body as Run).id)).toMatchObject({ state: 'done', counts: { records: 2 } })
  expect(await server.ask('POST', '/gates', { draft: scale, binding: null })).toMatchObject({ status: 409, body: { code: 'name-taken', message: expect.stringContaining('“Medal”') } })
  // Its own it may take again.
  expect((await server.ask('PUT', `/gates/${feeds.id}/draft`, { draft: scale, seen: 2 })).status).toBe(200)
  expect(((await server.ask('GET', `/gates/${fed.id}`)).body as Gate).draft.inputs[0]!.source).toMatchObject({ gate: 'Prize' })
  await server.ask('POST', `/gates/${fed.id}/versions`, { seen: 3 })
})
