/** Tables of which no record has room in one row of the database: whatever can be done with a table can be done with them. */
import { type Table as Arrow, tableFromIPC } from 'apache-arrow'
import type { ChangeAnswer, ChangeRequest, Filter, Listing, MergeAnswer } from '@dime-gate/contract/change'
import type { Cell, FileLook, Table, TableRecord } from '@dime-gate/contract/table'
import { rowOf } from '../database/database'
import { bringIn } from '../testing/bring-in'
import { gateOn } from '../testing/gate-on'
import { keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import { clearRemoved } from '../removal'

/** More than the database has fields in an answer, where each is asked for twice. */
const COLUMNS = 900
const RECORDS = 40
const reading = { decimalMark: 'point', dateOrder: 'day' } as const

/** Texts that are too short to be kept apart by the database, numbers of many digits, and in each column of numbers one that is none. */
function cellText(record: number, column: number): string {
  if (column === 0) return `T${record}`
  if (column % 3 === 1) return `${record} in ${column}, and 24 long.`
  if (column % 3 === 2) return record === column % RECORDS ? 'n/a' : `${record}${'123456789'.repeat(2)}.${column}`
  return `20${String(10 + (column % 90)).padStart(2, '0')}-03-${String(1 + (record % 28)).padStart(2, '0')}`
}

const names = Array.from({ length: COLUMNS }, (_, column) => (column === 0 ? 'Tree' : `Assessment of this year number ${column}`))
const textOf = (records: number, columns = COLUMNS) =>
  [
    names
      .slice(0, columns)
      .map((name) => `"${name}"`)
      .join(','),
    ...Array.from({ length: records }, (_, record) =>
      Array.from({ length: columns }, (_, column) => `"${cellText(record, column)}"`).join(','),
    ),
  ].join('\n')

let server: TemporaryServer
let table: Table
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
  table = await fresh()
})
afterAll(() => server.close())

const fresh = (columns = COLUMNS) =>
  bringIn(server, `Wide ${++number}`, textOf(RECORDS, columns), (settings) => {
    settings.columns[0]!.isIdentity = true
    for (const [at, column] of settings.columns.entries()) column.type = at % 3 === 2 ? 'number' : at > 0 && at % 3 === 0 ? 'date' : 'text'
  })

async function change({ id }: Pick<Table, 'id'>, request: ChangeRequest): Promise<ChangeAnswer> {
  const { status, body } = await server.ask('POST', `/tables/${id}/changes`, request)
  expect([status, body]).toEqual([200, body])
  return body
}

async function listed({ id }: Pick<Table, 'id'>, { filters = [], sorts = [] }: Partial<Listing> = {}): Promise<number[]> {
  const response = await server.fetch(`/api/v1/tables/${id}/listings`, { method: 'POST', body: JSON.stringify({ filters, sorts }) })
  expect(response.status).toBe(200)
  return [...new Int32Array(await response.arrayBuffer())]
}

async function cellsOf({ id }: Pick<Table, 'id'>, records: number[]): Promise<Cell[][]> {
  const { status, body } = await server.ask('POST', `/tables/${id}/records`, { records })
  expect(status).toBe(200)
  return (body as TableRecord[]).map(({ cells }) => cells)
}

const written = (cells: readonly Cell[]) => cells.map(([value, text]) => text ?? value)
const columnOf = (at: number) => table.columns[at]!.id

test('every value comes in as it was written, and what cannot be read is counted', async () => {
  const all = await cellsOf(table, await listed(table))
  expect(all.map(written)).toEqual(Array.from({ length: RECORDS }, (_, record) => names.map((_, column) => cellText(record, column))))
  expect(table.columns.map(({ unreadable }) => unreadable)).toEqual(names.map((_, column) => (column % 3 === 2 ? 1 : 0)))
})

test('it lies in parts, and one with fewer columns does not', async () => {
  const few = await fresh(200)
  const kind = async ({ id }: Table) =>
    (await rowOf<{ kind: string }>(server.database, 'select relkind as kind from pg_class where oid = $1::regclass', [`records.t${id}`]))!
      .kind
  expect([await kind(table), await kind(few)]).toEqual(['v', 'r'])
})

test.each<[string, () => Partial<Listing>, number[]]>([
  ['found in any column', () => ({ filters: [{ kind: 'found', text: '7 in 898,' }] }), [8, 18, 28, 38]],
  [
    'listed by a range of its last columns',
    () => ({ filters: [{ kind: 'range', column: columnOf(897), low: null, high: '2097-03-02' }] }),
    [1, 2, 29, 30],
  ],
  ['listed where a value cannot be read', () => ({ filters: [{ kind: 'unreadable', column: columnOf(701) }] }), [22]],
  [
    'sorted by two columns',
    () => ({
      filters: [{ kind: 'range', column: columnOf(897), low: null, high: '2097-03-02' } satisfies Filter],
      sorts: [
        { column: columnOf(897), direction: 'falling' },
        { column: columnOf(800), direction: 'falling' },
      ],
    }),
    [30, 2, 29, 1],
  ],
])('records are %s', async (_, listing, records) => {
  expect(await listed(table, listing())).toEqual(records)
})

test('each of its columns has a profile', async () => {
  const { status, body } = await server.ask('GET', `/tables/${table.id}/profile`)
  expect([status, Object.keys(body).length]).toEqual([200, COLUMNS])
})

test('values are corrected in the first and the last part at once, counted, and taken back', async () => {
  const own = await fresh()
  const [before] = await cellsOf(own, [3])
  const set = [2, 600, 899].map((at) => ({ record: 3, column: own.columns[at]!.id, text: at === 2 ? 'none' : '', seen: before![at]! }))
  const { change: made, table: now } = await change(own, { kind: 'values', reading, cells: set })
  expect([2, 600, 899].map((at) => [now.columns[at]!.blank, now.columns[at]!.unreadable])).toEqual([
    [0, 1],
    [1, 0],
    [1, 1],
  ])
  const after = written((await cellsOf(own, [3]))[0]!)
  expect(after).toEqual(before!.map((cell, at) => (at === 2 ? 'none' : at === 600 || at === 899 ? null : written([cell])[0])))
  expect((await server.ask('POST', `/tables/${own.id}/changes/${made!.version}/undoing`, {})).status).toBe(200)
  expect((await cellsOf(own, [3]))[0]).toEqual(before)
})

test('records and columns come and go, a column becomes of another type, and each is taken back', async () => {
  const own = await fresh()
  const undo = async (version: number) =>
    expect((await server.ask('POST', `/tables/${own.id}/changes/${version}/undoing`, {})).status).toBe(200)
  const before = await cellsOf(own, await listed(own))
  const added = await change(own, { kind: 'add records', reading, rows: [[{ column: own.columns[899]!.id, text: '2026-03-02' }]] })
  expect(written((await cellsOf(own, [RECORDS + 1]))[0]!)[899]).toBe('2026-03-02')
  await undo(added.change!.version)
  const removed = await change(own, { kind: 'remove column', column: own.columns[5]!.id })
  await undo(removed.change!.version)
  for (const name of ['One more', 'Another']) {
    const more = await change(own, { kind: 'add column', name, unit: '', type: 'number', fullMarks: null })
    const id = more.table.columns.at(-1)!.id
    await change(own, { kind: 'fill', reading, column: id, text: '7', filters: [], records: null })
    expect((await cellsOf(own, [1, RECORDS])).map((cells) => cells.at(-1)![0])).toEqual(['7', '7'])
    await change(own, { kind: 'remove column', column: id })
  }
  const typed = await change(own, { kind: 'change column', reading, column: own.columns[898]!.id, settings: { type: 'number' } })
  expect(typed.table.columns[898]).toMatchObject({ type: 'number', unreadable: RECORDS })
  expect((await cellsOf(own, [1]))[0]![898]).toEqual([null, cellText(0, 898)])
  await undo(typed.change!.version)
  expect(await cellsOf(own, await listed(own))).toEqual(before)
})

test('a table that grows too wide goes into parts, with its past', async () => {
  const own = await fresh(240)
  const before = await cellsOf(own, await listed(own))
  await change(own, { kind: 'values', reading, cells: [{ record: 1, column: own.columns[1]!.id, text: 'other', seen: before[0]![1]! }] })
  const { table: now } = await change(own, { kind: 'add column', name: 'The last straw', unit: '', type: 'text', fullMarks: null })
  await change(own, { kind: 'fill', reading, column: now.columns.at(-1)!.id, text: 'straw', filters: [], records: null })
  const after = await cellsOf(own, await listed(own))
  expect(after.map((cells) => cells.slice(2, -1))).toEqual(before.map((cells) => cells.slice(2)))
  expect(after.map((cells) => cells.at(-1)![0])).toEqual(before.map(() => 'straw'))
  expect((await server.ask('GET', `/tables/${own.id}/records/1/history`)).body).toMatchObject([
    { kind: 'changed' },
    { kind: 'changed' },
    { kind: 'there from the start' },
  ])
  expect((await server.ask('POST', `/tables/${own.id}/changes/2/undoing`, {})).status).toBe(409)
})

test('a file goes into it, and can be taken back', async () => {
  const own = await fresh()
  const before = await cellsOf(own, await listed(own))
  const text = textOf(RECORDS + 1).replace(`"${cellText(5, 1)}"`, '"changed"')
  const { body: file } = await server.ask('POST', '/files?name=more.csv', text)
  const { body: look } = await server.ask('POST', `/files/${(file as { id: string }).id}/looks`, {})
  const merge = { file: (file as { id: string }).id, settings: (look as FileLook).settings, isReplacing: false }
  const trial = (await server.ask('POST', `/tables/${own.id}/merges`, { ...merge, isTrial: true })).body as MergeAnswer
  expect(trial.plan).toMatchObject({ added: 1, changed: 1, removed: 0, newColumns: [] })
  expect(await cellsOf(own, await listed(own))).toEqual(before)
  const { status, body } = await server.ask('POST', `/tables/${own.id}/merges`, { ...merge, isTrial: false })
  expect([status, (body as MergeAnswer).plan]).toEqual([200, trial.plan])
  const after = await cellsOf(own, await listed(own))
  expect([after.length, written(after[5]!)[1], written(after[RECORDS]!)]).toEqual([
    RECORDS + 1,
    'changed',
    names.map((_, column) => cellText(RECORDS, column)),
  ])
  expect((await server.ask('POST', `/tables/${own.id}/changes/${(body as MergeAnswer).change!.version}/undoing`, {})).status).toBe(200)
  expect(await cellsOf(own, await listed(own))).toEqual(before)
})

test('it goes out in every format, whole', async () => {
  const took = async (format: string) => server.fetch(`/api/v1/tables/${table.id}/file.${format}`)
  const csv = await (await took('csv')).text()
  expect(csv.trim().split('\r\n').length).toBe(RECORDS + 1)
  expect(csv).toContain(cellText(RECORDS - 1, COLUMNS - 1))
  const lines = (await (await took('jsonl')).text())
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Record<string, unknown>)
  expect(lines.map((line) => Object.values(line)[898])).toEqual(Array.from({ length: RECORDS }, (_, record) => cellText(record, 898)))
  const arrow: Arrow = await tableFromIPC(await took('arrow'))
  expect([arrow.numRows, arrow.numCols >= COLUMNS]).toEqual([RECORDS, true])
  for (const format of ['xlsx', 'ods', 'json']) {
    const response = await took(format)
    expect([format, response.status, (await response.arrayBuffer()).byteLength > 100_000]).toEqual([format, 200, true])
  }
})

test('a copy has the same records', async () => {
  const { status, body } = await server.ask('POST', `/tables/${table.id}/copies`, {})
  expect([status, body]).toEqual([201, body])
  expect(await cellsOf(body as Table, await listed(body as Table))).toEqual(await cellsOf(table, await listed(table)))
})

test('a gate on one of its last columns is run, and its labelled table goes out', async () => {
  const own = await fresh()
  const gate = await gateOn(server, own, names[899]!, ['20'], ['low', 'high'])
  const run = await keepRun(server, { gateId: gate.id, version: 1, tableId: own.id, binding: 1 })
  expect(run.counts!.records).toBe(RECORDS)
  for (const format of ['csv', 'jsonl']) {
    const text = await (await server.fetch(`/api/v1/runs/${run.id}/labelled.${format}`)).text()
    expect([format, text.slice(0, 300), text.trim().split('\n').length]).toEqual([
      format,
      text.slice(0, 300),
      RECORDS + (format === 'csv' ? 1 : 0),
    ])
  }
})

test('it is removed for good with all that it was made of', async () => {
  const own = await fresh()
  expect((await server.ask('DELETE', `/tables/${own.id}`)).status).toBeLessThan(300)
  await server.database.query("update data_table set removed_at = now() - interval '2 days' where id = $1", [own.id])
  await clearRemoved(server.database)
  const { left } = (await rowOf<{ left: number }>(server.database, 'select count(*)::int as left from pg_class where relname ~ $1', [
    `^[tw]${own.id}(_|$)`,
  ]))!
  expect(left).toBe(0)
})
