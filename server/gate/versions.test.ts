import type { Gate, VersionSummary } from '@dime-gate/contract/gate'
import type { Gate as GateDocument } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let id: number
beforeAll(async () => {
  server = await temporaryServer()
  id = ((await server.ask('POST', '/gates', { draft: GATE, binding: null })).body as Gate).id
})
afterAll(() => server.close())

const GATE: GateDocument = rulesGate(
  [anInput('Decay', 'number')],
  [
    ['Decay > 40', 'Fell'],
    ['Decay > 25', 'Climb'],
  ],
  {
    name: 'Felling',
    examples: [{ values: { Decay: '41' }, label: 'Fell' }],
    meant: [{ finding: 'Rule 2 is never reached', key: 'x' }],
  },
)
const versions = async () => (await server.ask('GET', `/gates/${id}/versions`)).body as VersionSummary[]

test('versions are listed with what was said of them, the newest first, and each is told as it stood', async () => {
  expect(await versions()).toEqual([])
  await server.ask('POST', `/gates/${id}/versions`, { seen: 1, note: '  as the office agreed ' })
  const changed = { ...GATE, rules: [...(GATE as { rules: object[] }).rules, { condition: '', entries: [null], note: '', isOff: true }] }
  await server.ask('PUT', `/gates/${id}/draft`, { draft: changed, seen: 1 })
  await server.ask('POST', `/gates/${id}/versions`, { seen: 2 })
  expect((await versions()).map(({ number, note }) => [number, note])).toEqual([
    [2, ''],
    [1, 'as the office agreed'],
  ])
  expect((await server.ask('GET', `/gates/${id}/versions/1`)).body).toEqual(GATE)
  expect((await server.ask('GET', `/gates/${id}/versions/2`)).body).toEqual(changed)
})

test.each(['/versions/3', '/versions/0', '/versions/x', '/versions/99999999999'])('there is no version at %s', async (path) => {
  expect(await server.ask('GET', `/gates/${id}${path}`)).toMatchObject({ status: 404, body: { code: 'not-found' } })
})

test('a gate that is not there has no versions, and a note has an end', async () => {
  expect((await server.ask('GET', '/gates/987654/versions')).status).toBe(404)
  expect((await server.ask('POST', `/gates/${id}/versions`, { seen: 2, note: 'x'.repeat(501) })).status).toBe(400)
})
