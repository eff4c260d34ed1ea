import { tableFromIPC } from 'apache-arrow'
import { columnFromTable } from '@dime-gate/contract/column-wire'
import { WHITE_SPACE } from '@dime-gate/core/value/white-space'
import { valueTextAt } from '@dime-gate/core/table/table'
import { bringIn, importBy, settingsOf } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import type { Column, Table, TableRecord } from '@dime-gate/contract/table'

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

const TREES = 'Tree no,Trunk (cm),Decay (%),Seen,Remark\r\n0001,35.0,12 %,2.3.2026," two\tspaces \\N "\r\n0002,35 cm,,31.2.2026,\r\n0003,"1,240",140,soon,Cafe\u0301\r\n'

async function tableCount(): Promise<number> {
  return (await server.database.query<{ count: number }>('select count(*) from data_table')).rows[0]!.count
}

describe('a table that was brought in', () => {
  let table: Table
  beforeAll(async () => {
    table = await bringIn(server, 'Trees', TREES)
  })

  test('knows its columns, and counts what is blank and what is unreadable', () => {
    expect(table.columns.map(({ name, unit, type, blank, unreadable }: Column) => [name, unit, type, blank, unreadable])).toEqual([
      ['Tree no', '', 'text', 0, 0], ['Trunk', 'cm', 'text', 0, 0], ['Decay', '%', 'percent', 1, 0], ['Seen', '', 'text', 0, 0], ['Remark', '', 'text', 1, 0]])
  })

  test('gives back every value as read, and as written where that differs', async () => {
    const { body } = await server.ask('POST', `/tables/${table.id}/records`, { records: [3, 1] })
    expect(body as TableRecord[]).toEqual([
      { record: 3, cells: [['0003', null], ['1,240', null], ['140', null], ['soon', null], ['Caf\u00e9', 'Cafe\u0301']] },
      { record: 1, cells: [['0001', null], ['35.0', null], ['12', '12 %'], ['2.3.2026', null], ['two\tspaces \\N', ' two\tspaces \\N ']] },
    ])
  })

  test('refuses another of its name and keeps the first', async () => {
    const { status, body } = await importBy(server.ask, 'TREES', TREES, settingsOf(TREES))
    expect([status, (body as { code: string }).code]).toEqual([409, 'name-taken'])
  })
})

test('text in a number column is kept as written, counted, and never zero', async () => {
  const text = 'Tree,Trunk\n1,35.0\n2,35 cm\n3,n/a\n4,\n5,12\n6,13\n7,14\n8,15\n9,16\n10,17\n11,18\n12,19\n'
  const table = await bringIn(server, 'Trunks', text)
  const trunk = table.columns[1]!
  expect([trunk.type, trunk.blank, trunk.unreadable]).toEqual(['number', 1, 2])
  const response = await server.fetch(`/api/v1/tables/${table.id}/columns/${trunk.id}`)
  const { records, column } = columnFromTable(await tableFromIPC(response), 'number')
  expect([...records]).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12])
  expect([0, 1, 2, 3, 4].map((at) => valueTextAt(column, at))).toEqual(['35', null, null, null, '12'])
  expect([...column.unreadable]).toEqual([[1, '35 cm'], [2, 'n/a']])
})

test('white space of every kind is blank when it is brought in and ever after; figures stay as they were written', async () => {
  const cells = ['12', '007', '00.5', '-0', '35 cm', ...[...WHITE_SPACE].filter((character) => !'\n\r'.includes(character))]
  const table = await bringIn(server, 'Blanks', `Tree,Trunk\n${cells.map((cell, at) => `${at},${cell}\n`).join('')}`, (settings) => (settings.columns[1]!.type = 'number'))
  const trunk = table.columns[1]!
  expect([trunk.type, trunk.blank, trunk.unreadable]).toEqual(['number', WHITE_SPACE.length - 2, 1])
  const { column } = columnFromTable(await tableFromIPC(await server.fetch(`/api/v1/tables/${table.id}/columns/${trunk.id}`)), 'number')
  expect([0, 1, 2, 3].map((at) => valueTextAt(column, at))).toEqual(['12', '7', '0.5', '0'])
  expect([...column.unreadable]).toEqual([[4, '35 cm']])
  const { body } = await server.ask('POST', `/tables/${table.id}/records`, { records: [1, 2, 3, 4, 5] })
  expect((body as TableRecord[]).map(({ cells: [, cell] }) => cell)).toEqual([['12', null], ['7', '007'], ['0.5', '00.5'], ['0', '-0'], [null, '35 cm']])
})

test('a copy has the same records, values as written and counts, and goes its own way', async () => {
  const table = await bringIn(server, 'Original', 'Tree,Trunk,Felled\n1,35.00,yes\n2,35 cm,no\n3,,maybe\n4,12,no\n5,13,no\n6,14,no\n7,15,no\n8,16,no\n9,17,no\n')
  const copy: Table = (await server.ask('POST', `/tables/${table.id}/copies`)).body
  expect(copy).toMatchObject({ name: 'Original, copy', records: 9, version: 1, columns: table.columns.map(({ name, type, blank, unreadable }) => ({ name, type, blank, unreadable })) })
  expect(copy.columns.map(({ id }) => id)).not.toEqual(table.columns.map(({ id }) => id))
  const cells = async ({ id }: Table) => (await server.ask('POST', `/tables/${id}/records`, { records: [1, 2, 3] })).body
  expect(await cells(copy)).toEqual(await cells(table))
  expect((await server.ask('POST', `/tables/${table.id}/copies`)).body).toMatchObject({ name: 'Original, copy 2' })
  await server.ask('DELETE', `/tables/${table.id}`)
  expect((await cells(copy) as { record: number }[]).map(({ record }) => record)).toEqual([1, 2, 3])
  expect(await server.ask('POST', `/tables/${table.id}/copies`)).toMatchObject({ status: 404 })
})

test('decimals that a double cannot hold come back exactly', async () => {
  const table = await bringIn(server, 'Exact', 'a\n0.30000000000000000001\n0.3\n12345678901234567890\n')
  const response = await server.fetch(`/api/v1/tables/${table.id}/columns/${table.columns[0]!.id}`)
  const { column } = columnFromTable(await tableFromIPC(response), 'number')
  expect([0, 1, 2].map((at) => valueTextAt(column, at))).toEqual(['0.30000000000000000001', '0.3', '12345678901234567890'])
})

test('columns longer than a batch are joined in order', async () => {
  const count = 70_001
  const table = await bringIn(server, 'Long', `a\n${Array.from({ length: count }, (_, i) => (i % 1000 === 7 ? '' : i)).join('\n')}\n`)
  const response = await server.fetch(`/api/v1/tables/${table.id}/columns/${table.columns[0]!.id}`)
  const { records, column } = columnFromTable(await tableFromIPC(response), 'number')
  expect([records.length, records[65_536], records.at(-1)]).toEqual([count, 65_537, count])
  expect([valueTextAt(column, 65_536), valueTextAt(column, 69_007), valueTextAt(column, 70_000)]).toEqual(['65536', null, '70000'])
})

test('readers who leave in the middle of a column harm nobody', async () => {
  const table = await bringIn(server, 'Left', `a\n${Array.from({ length: 200_000 }, (_, i) => i).join('\n')}\n`)
  const path = `/api/v1/tables/${table.id}/columns/${table.columns[0]!.id}`
  // More of them than the server has connections to its database.
  for (let reader = 0; reader < 12; reader++) {
    const cancel = new AbortController()
    const response = await server.fetch(path, { signal: cancel.signal })
    await response.body!.getReader().read()
    cancel.abort()
  }
  const { records } = columnFromTable(await tableFromIPC(await server.fetch(path)), 'number')
  expect(records).toHaveLength(200_000)
}, 30_000)

describe('a file that cannot be read leaves nothing behind', () => {
  const good = 'a,b\n1,2\n'
  const refused = async (text: string | Uint8Array, code: string, place: object) => {
    const before = await tableCount()
    const { status, body } = await importBy(server.ask, 'Refused', text, settingsOf(good))
    expect({ status, ...(body as object) }).toMatchObject({ status: 422, code, ...place })
    expect((body as { message: string }).message).toMatch(/line/i)
    expect(await tableCount()).toBe(before)
    const relations = await server.database.query("select from pg_tables where schemaname = 'records'")
    expect(relations.rowCount).toBe(before)
  }
  test('a ragged line, far down', () => refused(`a,b\n${'1,2\n'.repeat(50_000)}3\n`, 'ragged', { line: 50_002, column: 2 }))
  test('no line at all', () => refused('', 'empty', { line: 1 }))
  test('an open quotation mark', () => refused('a,b\n1,"2\n3,4\n', 'open-quote', { line: 2 }))
  test('bytes that are no text', () => refused(new Uint8Array([...Buffer.from('a,b\n1,'), 0xff, 0x0a]), 'encoding', { line: 2, column: 3 }))
  test('a zero byte', () => refused('a,b\n1,\0\n', 'binary', { line: 2 }))
  test('other columns than were looked at', () => refused('a,b,c\n1,2,3\n', 'ragged', { line: 1 }))
  test('two columns of one name', async () => {
    const settings = settingsOf(good, ({ columns }) => (columns[1]!.name = 'a'))
    expect(await importBy(server.ask, 'Refused', good, settings)).toMatchObject({ status: 422, body: { code: 'same-name', line: 1, column: 2 } })
  })
})

test('a file that stops arriving is not there', async () => {
  const before = await tableCount()
  const cancel = new AbortController()
  const body = new ReadableStream({
    start(controller) {
      controller.enqueue(new TextEncoder().encode(`a,b\n${'1,2\n'.repeat(1000)}`))
      setTimeout(() => cancel.abort(), 100)
    },
  })
  const sent = server.fetch('/api/v1/files?name=cut-off.csv', { method: 'POST', body, signal: cancel.signal, duplex: 'half' } as RequestInit)
  await expect(sent).rejects.toThrow()
  await new Promise((resolve) => setTimeout(resolve, 300))
  expect(await tableCount()).toBe(before)
})

test('a table with names and no records is a table', async () => {
  const table = await bringIn(server, 'Nobody', 'a,b\n')
  expect([table.records, table.columns.length]).toEqual([0, 2])
})

test('profiles tell how the values are spread', async () => {
  const table = await bringIn(server, 'Spread', 'n,d,t,e\n0,2026-01-01,x,\n10,2026-01-25,y,\n10,2026-01-01,x,\n')
  const { body } = await server.ask('GET', `/tables/${table.id}/profile`)
  const [n, d, t, e] = table.columns.map(({ id }) => (body as Record<string, { spread: { bins: number[] } }>)[id]!.spread)
  expect(n).toMatchObject({ kind: 'bins', from: '0', to: '10' })
  expect([n!.bins[0], n!.bins.at(-1), n!.bins.reduce((a, b) => a + b)]).toEqual([1, 2, 3])
  expect(d).toMatchObject({ kind: 'bins', from: '2026-01-01', to: '2026-01-25' })
  expect(t).toEqual({ kind: 'values', distinct: 2, common: [{ value: 'x', records: 2 }, { value: 'y', records: 1 }] })
  expect(e).toEqual({ kind: 'none' })
  // Kept, and told again as it was.
  expect((await server.database.query('select table_version from table_profile where table_id = $1', [table.id])).rows).toEqual([{ table_version: 1 }])
  expect((await server.ask('GET', `/tables/${table.id}/profile`)).body).toEqual(body)
  expect((await Promise.all([1, 2].map(() => server.ask('GET', `/tables/${table.id}/profile`)))).map((one) => one.body)).toEqual([body, body])
})

describe('what is asked wrongly', () => {
  test.each([
    ['GET', '/tables/999999', 404], ['GET', '/tables/abc', 404], ['GET', '/nothing', 404], ['GET', '/tables/1e99', 404],
  ])('%s %s answers %i with a message', async (method, path, status) => {
    const answer = await server.ask(method, path)
    expect(answer.status).toBe(status)
    expect((answer.body as { message: string }).message).not.toBe('')
  })
  test('a body that is not JSON', async () => {
    expect(await server.ask('POST', '/gates', '{')).toMatchObject({ status: 400, body: { code: 'not-json' } })
  })
  test('a body of another shape', async () => {
    expect(await server.ask('POST', '/gates', { draft: 1 })).toMatchObject({ status: 400, body: { code: 'malformed' } })
  })
  test('pages of other sites', async () => {
    const response = await server.fetch('/api/v1/workspace', { method: 'PUT', headers: { 'Sec-Fetch-Site': 'cross-site' }, body: '{"asOf":"2026-01-01"}' })
    expect(response.status).toBe(403)
  })
})
