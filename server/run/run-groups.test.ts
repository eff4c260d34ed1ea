import type { Run } from '@dime-gate/contract/run'
import type { RunGroup, RunGroups } from '@dime-gate/contract/run-groups'
import type { Table } from '@dime-gate/contract/table'
import { band } from '@dime-gate/core/testing/a-gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const TREES = [
  'Tree,Decay,Ward,Planted,Girth',
  'a,10,Quayside,2020-03-01,1.50', 'b,30,Quayside,2020-03-31,1.5', 'c,n/a,quay 10,2021-01-05,2', 'd,,quay 2,,2',
  'e,30,,2021-02-30,oak', 'f,400,Abbey,2020-04-01,',
].join('\n')

let server: TemporaryServer
let table: Table
let run: Run
const idOf = (name: string) => table.columns.find((one) => one.name === name)!.id
const groups = async (column: string, part = 'whole') =>
  (await server.ask('GET', `/runs/${run.id}/groups/${idOf(column)}?part=${part}`)).body as RunGroups
const short = ({ value, isUnreadable, records, labels, ...others }: RunGroup) => [isUnreadable ? 'unreadable' : value, records, ...labels, others.unplaced, others.held]

beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Trees', TREES)
  const decay = givenNumber('Decay', '%')
  const gate = { ...plainScale('Band', decay, [{ at: '20', owner: 'above' }], [band('sound'), band('weak')]), ceiling: { at: '100', included: true } }
  const made = (await server.ask('POST', '/gates', { draft: gate, binding: { tableId: table.id, inputs: { Decay: { column: idOf('Decay') } } } })).body as { id: number }
  await server.ask('POST', `/gates/${made.id}/versions`, { seen: 1 })
  run = await ended(server, (await keepRun(server, { gateId: made.id, version: 1, tableId: table.id, binding: 1 })).id)
})
afterAll(() => server.close())

test('every value is a group, in the order of a dictionary, blanks last; the groups come to the whole', async () => {
  // value, records, sound, weak, unplaced, held
  expect((await groups('Ward')).groups.map(short)).toEqual([
    ['Abbey', 1, 0, 0, 1, 0], ['quay 2', 1, 0, 0, 0, 1], ['quay 10', 1, 0, 0, 0, 1], ['Quayside', 2, 1, 1, 0, 0], [null, 1, 0, 1, 0, 0],
  ])
})

test('dates make months or years, what could not be read is a group of its own', async () => {
  expect((await groups('Planted', 'month')).groups.map(short)).toEqual([
    ['2020-03', 2, 1, 1, 0, 0], ['2020-04', 1, 0, 0, 1, 0], ['2021-01', 1, 0, 0, 0, 1], [null, 1, 0, 0, 0, 1], ['unreadable', 1, 0, 1, 0, 0],
  ])
  expect((await groups('Planted', 'year')).groups.map(short)).toEqual([
    ['2020', 3, 1, 1, 1, 0], ['2021', 1, 0, 0, 0, 1], [null, 1, 0, 0, 0, 1], ['unreadable', 1, 0, 1, 0, 0],
  ])
})

test('numbers are one value however they are written; what the gate looked at is as the run saw it', async () => {
  expect((await groups('Girth')).groups.map(short)).toEqual([
    ['1.5', 2, 1, 1, 0, 0], ['2', 2, 0, 0, 0, 2], [null, 1, 0, 0, 1, 0], ['unreadable', 1, 0, 1, 0, 0],
  ])
  const fill = async (column: string, text: string) =>
    expect(await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: idOf(column), text, filters: [], records: [1] })).toMatchObject({ status: 200 })
  await fill('Decay', '11')
  await fill('Ward', 'Abbey')
  expect((await groups('Decay')).groups.map(short)).toEqual([
    ['10', 1, 1, 0, 0, 0], ['30', 2, 0, 2, 0, 0], ['400', 1, 0, 0, 1, 0], [null, 1, 0, 0, 0, 1], ['unreadable', 1, 0, 0, 0, 1],
  ])
  expect((await groups('Ward')).groups.find(({ value }) => value === 'Quayside')).toMatchObject({ records: 2 })
})

test('how the values that it saw are spread: each in one bin, what lies on the end in the last', async () => {
  const spread = async (query: string) => (await server.ask('GET', `/runs/${run.id}/columns/${idOf('Decay')}/spread?${query}`)).body as number[]
  // 10, 30, 30 and 400; a blank and an unreadable one lie nowhere.
  expect(await spread('from=0&to=40&bins=4')).toEqual([0, 1, 0, 2])
  expect(await spread('from=10&to=30&bins=2')).toEqual([1, 2])
  expect(await server.ask('GET', `/runs/${run.id}/columns/${idOf('Ward')}/spread?from=0&to=1&bins=2`)).toMatchObject({ status: 404 })
  for (const query of ['from=1&to=1&bins=2', 'from=0&to=1&bins=0', 'from=0&to=1e400&bins=2', 'from=0&to=x&bins=2']) expect(await server.ask('GET', `/runs/${run.id}/columns/${idOf('Decay')}/spread?${query}`)).toMatchObject({ status: 400 })
})

test('a text has no month, and a column that is not there no groups', async () => {
  const ask = (path: string) => server.ask('GET', `/runs/${run.id}/groups/${path}`)
  expect(await ask(`${idOf('Ward')}?part=month`)).toMatchObject({ status: 400, body: { message: expect.stringContaining('no dates') } })
  expect(await ask(`${idOf('Ward')}?part=week`)).toMatchObject({ status: 400 })
  expect(await ask('999999')).toMatchObject({ status: 404 })
})

test('a column with more values than anybody reads is refused, and says so', async () => {
  const many = await bringIn(server, 'Many', ['Key,Decay', ...Array.from({ length: 1001 }, (_, at) => `k${at},${at % 50}`)].join('\n'))
  const key = many.columns[0]!.id
  await server.ask('PUT', `/gates/${run.gateId}/bindings/${many.id}`, { inputs: { Decay: { column: many.columns[1]!.id } }, seen: 0 })
  const own = await ended(server, (await keepRun(server, { gateId: run.gateId, version: 1, tableId: many.id, binding: 1 })).id)
  expect(await server.ask('GET', `/runs/${own.id}/groups/${key}`)).toMatchObject({ status: 422, body: { message: expect.stringContaining('more than 1000 different values') } })
  expect(((await server.ask('GET', `/runs/${own.id}/groups/${many.columns[1]!.id}`)).body as RunGroups).groups).toHaveLength(50)
})

test('records of a run are listed as the table stood', async () => {
  const answer = await fetch(`${server.address}/api/v1/runs/${run.id}/listings`, { method: 'POST', body: JSON.stringify({ filters: [{ kind: 'values', column: idOf('Ward'), values: ['Quayside'] }], sorts: [{ column: idOf('Tree'), direction: 'falling' }] }) })
  expect([...new Int32Array(await answer.arrayBuffer())]).toEqual([2, 1])
})
