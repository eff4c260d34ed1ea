import type { ChangeRequest, TableSince } from '@dime-gate/contract/change'
import type { Table, TableRecord } from '@dime-gate/contract/table'
import { idOf, READING, related, TreesServer } from '../testing/trees-server'

let on: TreesServer
beforeAll(async () => {
  on = await TreesServer.start()
})
afterAll(() => on.close())

const now = (table: Table) => on.now(table)
async function since(table: Table, seen: Pick<Table, 'version' | 'figures'>): Promise<TableSince> {
  const { status, body } = await on.server.ask('GET', `/tables/${table.id}/since/${seen.version}?figures=${seen.figures ?? ''}`)
  expect([status, body]).toEqual([200, body])
  return body
}
const changedOf = ({ changed }: TableSince, at: number) => changed?.map(({ record, cells }: TableRecord) => [record, cells[at]])

test('records that were changed since a version are told as they are now, each once', async () => {
  const { trees } = await on.tables()
  const [height, ward] = ['Height', 'Ward'].map((name) => trees.columns.findIndex((column) => column.name === name)) as [number, number]
  expect(await since(trees, trees)).toEqual({ table: trees, changed: [] })
  await on.set(trees, 2, 'Height', 'tall', ['20.5', null])
  const between = await now(trees)
  await on.set(trees, 2, 'Height', '21', [null, 'tall'])
  await on.set(trees, 1, 'Ward', '', ['North', null])
  const all = await since(trees, trees)
  expect(all.table).toEqual(await now(trees))
  expect([changedOf(all, height), changedOf(all, ward)]).toEqual([[[1, ['10', null]], [2, ['21', null]]], [[1, [null, null]], [2, ['North', null]]]])
  expect(changedOf(await since(trees, between), height)).toEqual([[1, ['10', null]], [2, ['21', null]]])
  // Taken back, it is a change as well.
  await on.server.ask('POST', `/tables/${trees.id}/changes/${all.table.version}/undoing`, {})
  expect(changedOf(await since(trees, all.table), ward)).toEqual([[1, ['North', null]]])
})

test('where records came or went it is not told which; nor of a version that has not been', async () => {
  const { trees } = await on.tables()
  const rows = [[{ column: idOf(trees, 'Tree no'), text: 'T 5' }]]
  await on.change(trees, { kind: 'add records', reading: READING, rows } as ChangeRequest)
  expect((await since(trees, trees)).changed).toBeNull()
  const added = await now(trees)
  expect((await since(trees, added)).changed).toEqual([])
  await on.change(trees, { kind: 'remove records', records: [1] })
  expect((await since(trees, added)).changed).toBeNull()
  expect((await on.server.ask('GET', `/tables/${trees.id}/since/99`)).status).toBe(404)
  expect((await on.server.ask('GET', `/tables/${trees.id}/since/0`)).status).toBe(404)
})

test('figures of changed records are told with them as long as those of the others are carried on', async () => {
  const { trees, reports } = await on.tables()
  await on.add(trees, 'Reports', related(trees, reports, { take: 'count' }))
  const table = (await on.change(trees, { kind: 'add figure', name: 'Twice', unit: '', feel: 'Reports * 2' })).table
  await on.valuesOf(trees, 'Twice')
  const seen = await now(trees)
  expect(seen.figures).not.toBeNull()
  await on.set(trees, 4, 'Tree no', 'T 1', ['T 4', null])
  const at = table.columns.findIndex(({ name }) => name === 'Twice')
  expect(changedOf(await since(trees, seen), at)).toEqual([[4, ['4', null]]])
  // Records beneath change others than those that were changed.
  await on.set(reports, 4, 'Tree', 'T 3', ['T 9', null])
  expect((await since(trees, seen)).changed).toBeNull()
  await on.valuesOf(trees, 'Twice')
  expect((await since(trees, seen)).changed).toBeNull()
})

test('of a table that has had many changes, it is told anew', async () => {
  const { trees } = await on.tables()
  const text = (await now(trees)).columns[0]!.id
  await on.server.database.query(
    `insert into records.t${trees.id} (record, since, until, c${text}) select 4, 2 + n, 3 + n, 'T 4' from generate_series(0, 5001) as n`,
  )
  expect((await since(trees, trees)).changed).toBeNull()
})
