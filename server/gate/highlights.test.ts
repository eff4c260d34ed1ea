import type { Gate } from '@dime-gate/contract/gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let gateId: number
const weak = { name: 'Weak', condition: 'Label = "weak"', colour: '#8e3424', mark: 'kite', on: null, isException: true }
const put = (body: object, id = gateId) => server.ask('PUT', `/gates/${id}/highlights`, body)
const kept = async (id = gateId) => (await server.ask('GET', `/gates/${id}/highlights`)).body

beforeAll(async () => {
  server = await temporaryServer()
  gateId = ((await server.ask('POST', '/gates', { draft: plainScale('Band', givenNumber('Decay', '%'), [{ at: '20', owner: 'above' }], [band('sound'), band('weak')]), binding: null })).body as Gate).id
})
afterAll(() => server.close())

test('a gate begins without any; a list takes the place of another, in its order', async () => {
  expect(await kept()).toEqual({ version: 0, highlights: [] })
  const second = { ...weak, name: 'High', condition: 'Decay > 50', on: 'Decay', isException: false }
  expect(await put({ seen: 0, highlights: [weak, second] })).toMatchObject({ status: 200, body: { version: 1, highlights: [weak, second] } })
  expect(await put({ seen: 1, highlights: [second, weak] })).toMatchObject({ status: 200 })
  expect(await kept()).toEqual({ version: 2, highlights: [second, weak] })
})

test('a list that was changed elsewhere meanwhile is not written over', async () => {
  const { version } = (await kept()) as { version: number }
  expect(await put({ seen: version, highlights: [weak] })).toMatchObject({ status: 200 })
  expect(await put({ seen: version, highlights: [] })).toMatchObject({ status: 409, body: { code: 'stale' } })
  expect(await kept()).toMatchObject({ highlights: [weak] })
})

test('a copy of the gate has them, and goes its own way', async () => {
  const copy = (await server.ask('POST', `/gates/${gateId}/copies`)).body as Gate
  expect(await kept(copy.id)).toMatchObject({ highlights: [weak] })
  await put({ seen: 0, highlights: [] }, copy.id)
  expect(await kept()).toMatchObject({ highlights: [weak] })
})

test.each([
  ['two of one name', [weak, weak]],
  ['a colour that is none', [{ ...weak, colour: 'red' }]],
  ['a mark that is none', [{ ...weak, mark: 'arrow' }]],
  ['no name', [{ ...weak, name: ' ' }]],
  ['a zero byte', [{ ...weak, condition: 'a\0' }]],
])('%s: refused, and nothing is changed', async (_, highlights) => {
  const before = (await kept()) as { version: number }
  expect((await put({ seen: before.version, highlights })).status).toBe(400)
  expect(await kept()).toEqual(before)
})

test('of a gate that is not there, nothing', async () => {
  expect((await server.ask('GET', '/gates/999999/highlights')).status).toBe(404)
  expect((await put({ seen: 0, highlights: [] }, 999_999)).status).toBe(404)
})
