import { band } from '@dime-gate/core/testing/a-gate'
import type { Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { clearRemoved } from './removal'
import { bringIn } from './testing/bring-in'
import { keepRun } from './testing/keep-run'
import { type TemporaryServer, temporaryServer } from './testing/temporary-server'

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

let number = 0

/** A table, a gate on it, and a run of that. */
async function three(): Promise<{ table: Table; gate: Gate; run: Run }> {
  const name = `Trees ${++number}`
  const table = await bringIn(server, name, 'Tree,Decay\na,3\nb,50\n')
  const draft = plainScale(`Band ${number}`, givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }], [band('sound'), band('weak')])
  const gate: Gate = (await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column: table.columns[1]!.id } } } })).body
  await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
  const run = await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })
  return { table, gate, run }
}
const gone = async (path: string) => (await server.ask('GET', path)).status === 404

test('what others stand on stays, and says who does', async () => {
  const { table, gate, run } = await three()
  expect(await server.ask('DELETE', `/tables/${table.id}`)).toMatchObject({ status: 409, body: { code: 'stood-on', message: `This table is needed by the gate “${gate.draft.name}” and run 1 of “${gate.draft.name}”. Remove those first.` } })
  expect(await server.ask('DELETE', `/gates/${gate.id}`)).toMatchObject({ status: 409, body: { message: 'This gate is needed by run 1. Remove that first.' } })
  expect(await Promise.all([gone(`/tables/${table.id}`), gone(`/gates/${gate.id}`)])).toEqual([false, false])
  for (const path of [`/runs/${run.id}`, `/gates/${gate.id}`, `/tables/${table.id}`]) {
    expect((await server.ask('DELETE', path)).status).toBe(200)
    expect(await gone(path)).toBe(true)
    expect((await server.ask('DELETE', path)).status).toBe(404)
  }
  const { body: desk } = await server.ask('GET', '/desk')
  expect(desk).not.toMatchObject({ tables: expect.arrayContaining([expect.objectContaining({ id: table.id })]) })
})

test('removing can be taken back, and everything is as it was', async () => {
  const { table, gate, run } = await three()
  const before = await Promise.all([`/runs/${run.id}`, `/gates/${gate.id}`, `/gates/${gate.id}/bindings`, `/tables/${table.id}`].map((path) => server.ask('GET', path)))
  for (const path of [`/runs/${run.id}`, `/gates/${gate.id}`, `/tables/${table.id}`]) await server.ask('DELETE', path)
  for (const path of [`/tables/${table.id}`, `/gates/${gate.id}`, `/runs/${run.id}`]) expect((await server.ask('POST', `${path}/restoration`)).status).toBe(200)
  expect(await Promise.all([`/runs/${run.id}`, `/gates/${gate.id}`, `/gates/${gate.id}/bindings`, `/tables/${table.id}`].map((path) => server.ask('GET', path)))).toEqual(before)
  expect((await server.ask('POST', `/runs/${run.id}/restoration`)).status).toBe(404)
})

test('a name is free once its table is removed; taking back finds it taken', async () => {
  const table = await bringIn(server, 'Once', 'a\n1\n')
  await server.ask('DELETE', `/tables/${table.id}`)
  await bringIn(server, 'once', 'a\n2\n')
  expect(await server.ask('POST', `/tables/${table.id}/restoration`)).toMatchObject({ status: 409, body: { code: 'name-taken' } })
})

test('what nobody took back for a day is gone for good, its records with it', async () => {
  const { table, gate, run } = await three()
  const kept = await three()
  for (const path of [`/runs/${run.id}`, `/gates/${gate.id}`, `/tables/${table.id}`, `/runs/${kept.run.id}`]) await server.ask('DELETE', path)
  await clearRemoved(server.database)
  expect((await server.ask('POST', `/tables/${table.id}/restoration`)).status).toBe(200)
  await server.ask('DELETE', `/tables/${table.id}`)
  for (const relation of ['run', 'gate', 'data_table']) await server.database.query(`update ${relation} set removed_at = now() - interval '2 days' where id = any($1)`, [[{ run: run.id, gate: gate.id, data_table: table.id }[relation]]])
  await clearRemoved(server.database)
  const { rows } = await server.database.query("select to_regclass('runs.r' || $1::text) as results, to_regclass('records.t' || $2::text) as relation", [run.id, table.id])
  expect(rows).toEqual([{ results: null, relation: null }])
  expect((await server.ask('POST', `/gates/${gate.id}/restoration`)).status).toBe(404)
  // What was removed a moment ago can still be taken back.
  expect((await server.ask('POST', `/runs/${kept.run.id}/restoration`)).status).toBe(200)
})

test('tables are renamed, but not to what another is called', async () => {
  const [one, other] = [await bringIn(server, 'First name', 'a\n1\n'), await bringIn(server, 'Other name', 'a\n1\n')]
  expect((await server.ask('PATCH', `/tables/${one.id}`, { name: 'Second name' })).body).toMatchObject({ id: one.id, name: 'Second name', records: 1 })
  expect(await server.ask('PATCH', `/tables/${other.id}`, { name: 'second NAME' })).toMatchObject({ status: 409, body: { code: 'name-taken' } })
  expect((await server.ask('PATCH', `/tables/${one.id}`, { name: ' ' })).status).toBe(400)
  expect((await server.ask('PATCH', '/tables/999999', { name: 'x' })).status).toBe(404)
})

test('a copy of a gate has a name and a draft of its own, bound as the first is, and no versions', async () => {
  const { gate, table } = await three()
  const copy: Gate = (await server.ask('POST', `/gates/${gate.id}/copies`)).body
  expect(copy).toMatchObject({ draft: { ...gate.draft, name: `${gate.draft.name}, copy` }, latestVersion: 0 })
  expect((await server.ask('GET', `/gates/${copy.id}/bindings`)).body).toMatchObject([{ tableId: table.id, inputs: { Decay: { column: table.columns[1]!.id } } }])
  expect((await server.ask('POST', `/gates/${gate.id}/copies`)).body).toMatchObject({ draft: { name: `${gate.draft.name}, copy 2` } })
})
