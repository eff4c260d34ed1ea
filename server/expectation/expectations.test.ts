import type { Check, Expectation, KeptExpectation } from '@dime-gate/contract/expectation'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let table: Table
let gateId: number
let run: Run
const idOf = (name: string) => table.columns.find((one) => one.name === name)!.id

beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Trees', ['Tree,Decay,Ward,Girth', 'a,10,Quayside,1.50', 'b,30,Quayside,1.5', 'c,n/a,Abbey,2', 'd,,Abbey,2', 'e,20,,3', 'f,400,Abbey,3'].join('\n'))
  const gate = { ...plainScale('Band', givenNumber('Decay', '%'), [{ at: '20', owner: 'above' }], [band('sound'), band('weak')]), ceiling: { at: '100', included: true } }
  gateId = ((await server.ask('POST', '/gates', { draft: gate, binding: { tableId: table.id, inputs: { Decay: { column: idOf('Decay') } } } })).body as { id: number }).id
  await server.ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
  run = await ended(server, (await keepRun(server, { gateId, version: 1, tableId: table.id, binding: 1 })).id)
})
afterAll(() => server.close())

const label = (text: string, low: string | null, high: string | null, within: { column: number; value: string | null } | null = null): Expectation =>
  ({ kind: 'count', of: { kind: 'label', label: text }, bounds: { as: 'count', low, high }, within })
const add = (...all: [tableId: number | null, expectation: Expectation][]) => server.ask('POST', `/gates/${gateId}/expectations`, { add: all.map(([tableId, expectation]) => ({ tableId, expectation })) })
const checks = async () => (await server.ask('GET', `/runs/${run.id}/checks`)).body as Check[]
async function checked(expectation: Expectation): Promise<Check> {
  const { body } = await add([table.id, expectation])
  const { id } = (body as KeptExpectation[]).at(-1)!
  const found = (await checks()).find((one) => one.id === id)!
  await server.ask('DELETE', `/gates/${gateId}/expectations/${id}`)
  return found
}

test.each<[string, () => Expectation, Partial<Check>]>([
  ['a label', () => label('weak', '2', '2'), { got: 2, of: 6, off: 0 }],
  ['too many', () => label('weak', null, '1'), { got: 2, of: 6, off: 1 }],
  ['too few', () => label('sound', '4', null), { got: 1, off: -3 }],
  ['a label that nobody gets', () => label('fallen', '1', null), { got: 0, off: -1 }],
  ['a share', () => ({ kind: 'count', of: { kind: 'status', status: 'held' }, bounds: { as: 'share', low: null, high: '33' }, within: null }), { got: 2, off: 1 }],
  ['unplaced', () => ({ kind: 'count', of: { kind: 'status', status: 'unplaced' }, bounds: { as: 'count', low: null, high: '0' }, within: null }), { got: 1, off: 1 }],
  ['a kind to look at', () => ({ kind: 'count', of: { kind: 'to look at', of: 'unreadable' }, bounds: { as: 'count', low: null, high: '0' }, within: null }), { got: 1, of: 6, off: 1 }],
  ['on a cut', () => ({ kind: 'count', of: { kind: 'to look at', of: 'on an edge' }, bounds: { as: 'count', low: '1', high: '1' }, within: null }), { got: 1, off: 0 }],
  ['within a group', () => label('weak', '1', '1', { column: idOf('Ward'), value: 'Quayside' }), { got: 1, of: 2, off: 0 }],
  ['within those that are blank', () => label('weak', '1', '1', { column: idOf('Ward'), value: null }), { got: 1, of: 1, off: 0 }],
  ['within a number, however it is written', () => label('sound', '1', '1', { column: idOf('Girth'), value: '1.5' }), { got: 1, of: 2, off: 0 }],
  ['one record', () => ({ kind: 'record', who: [{ column: idOf('Tree'), value: 'b' }], label: 'weak' }), { got: 1, off: 0, label: 'weak' }],
  ['one record that gets another', () => ({ kind: 'record', who: [{ column: idOf('Tree'), value: 'a' }], label: 'weak' }), { got: 0, off: -1, label: 'sound' }],
  ['one record that gets none, and should', () => ({ kind: 'record', who: [{ column: idOf('Tree'), value: 'd' }], label: 'weak' }), { got: 0, of: 1, off: -1, label: null }],
  ['one that gets none', () => ({ kind: 'record', who: [{ column: idOf('Tree'), value: 'd' }], label: null }), { got: 1, off: 0 }],
  ['one that is not there', () => ({ kind: 'record', who: [{ column: idOf('Tree'), value: 'zz' }], label: 'weak' }), { got: 0, of: 0, off: -1, label: null }],
  ['a column that is not there', () => label('weak', '1', null, { column: 999_999, value: 'x' }), { off: 0, problem: expect.stringContaining('not in the table') }],
])('%s', async (_, expectation, wanted) => {
  expect(await checked(expectation())).toMatchObject(wanted)
})

test('what is said of one table is not asked of another, and what is said of any is', async () => {
  const other = await bringIn(server, 'Other trees', 'Decay\n10\n')
  await server.ask('PUT', `/gates/${gateId}/bindings/${other.id}`, { inputs: { Decay: { column: other.columns[0]!.id } }, seen: 0 })
  const own = await ended(server, (await keepRun(server, { gateId, version: 1, tableId: other.id, binding: 1 })).id)
  await add([null, label('sound', '1', null)], [table.id, label('weak', '2', null)])
  expect((await checks()).map(({ off }) => off)).toEqual([0, 0])
  expect(((await server.ask('GET', `/runs/${own.id}/checks`)).body as Check[]).map(({ tableId, got }) => [tableId, got])).toEqual([[null, 1]])
})

test('the same is not expected twice; what is expected no longer is gone', async () => {
  const { body } = await add([null, label('sound', '9', null)], [null, label('sound', '9', null)])
  const ids = (body as KeptExpectation[]).filter(({ expectation }) => expectation.kind === 'count' && expectation.bounds.low === '9').map(({ id }) => id)
  expect(ids).toHaveLength(1)
  expect((await server.ask('DELETE', `/gates/${gateId}/expectations/${ids[0]}`)).status).toBe(200)
  expect((await server.ask('DELETE', `/gates/${gateId}/expectations/${ids[0]}`)).status).toBe(404)
  expect((await checks()).map(({ id }) => id)).not.toContain(ids[0])
})

test('what makes no sense is refused, and nothing of it is kept', async () => {
  const before = await checks()
  expect((await add([null, label('sound', null, null)])).status).toBe(400)
  expect((await add([null, label('sound', '5', '4')])).status).toBe(400)
  expect((await add([null, label('sound', '1', null, { column: idOf('Ward'), value: 'Abbey' })])).status).toBe(400)
  expect((await add([null, label('sound', '7', null)], [999_999, label('sound', '8', null)])).status).toBe(404)
  expect(await checks()).toEqual(before)
})
