import type { FileLook, Table, TableRecord } from '@dime-gate/contract/table'
import { OUT_FORMATS, type OutFormat } from '@dime-gate/interchange/table/out-formats'
import { readWhole } from '@dime-gate/interchange/testing/read-whole'
import { bringIn } from '../testing/bring-in'
import { keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import { gateOn } from '../testing/gate-on'

const TEXT = `Trainee,Started,Module 1 (out of 5),Attendance (%),Alive,Note
Yarlo,2025-05-27,2.5,72,yes,=1+1
Tesdry,27 May 2025,absent,0.5,no,"two, ""lines""
here"
Ärmel 🌳,,,12.75,maybe,007
Pellvi,2025-01-01,12345678901234567890.5,n/a,,
`

let server: TemporaryServer
let table: Table
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Course', TEXT, ({ columns }) => (columns[4]!.type = 'boolean'))
})
afterAll(() => server.close())

async function taken(path: string): Promise<{ bytes: Uint8Array; type: string; name: string }> {
  const response = await server.fetch(`/api/v1${path}`)
  expect(response.status).toBe(200)
  return {
    bytes: new Uint8Array(await response.arrayBuffer()),
    type: response.headers.get('Content-Type')!,
    name: response.headers.get('Content-Disposition')!,
  }
}

async function recordsOf({ id, records }: Table): Promise<TableRecord[]> {
  return (await server.ask('POST', `/tables/${id}/records`, { records: Array.from({ length: records }, (_, at) => at + 1) })).body
}

test.each(OUT_FORMATS)('as %s a table goes out and comes in again as it was', async (format: OutFormat) => {
  const { bytes, name, type } = await taken(`/tables/${table.id}/file.${format}`)
  expect([name, type]).toEqual([`attachment; filename="Course.${format}"`, expect.stringMatching(/^[a-z]+\/[a-z.+-]+/)])
  const { id } = (await server.ask('POST', `/files?name=again.${format}`, bytes)).body as { id: string }
  // What a format does not say is said again.
  const untyped = format === 'csv' || format === 'json' || format === 'jsonl'
  const { settings, problem } = (
    await server.ask('POST', `/files/${id}/looks`, { columns: untyped ? { 4: { type: 'boolean' }, 5: { type: 'text' } } : {} })
  ).body as FileLook
  expect(problem).toBeNull()
  const { body } = await server.ask('POST', '/tables', { file: id, name: `As ${format}`, settings })
  const again = body as Table
  expect(
    again.columns.map(({ name, unit, type, fullMarks, blank, unreadable }) => ({ name, unit, type, fullMarks, blank, unreadable })),
  ).toEqual(table.columns.map(({ name, unit, type, fullMarks, blank, unreadable }) => ({ name, unit, type, fullMarks, blank, unreadable })))
  const values = (all: TableRecord[]) =>
    all.map(({ cells }) => cells.map(([value, written]) => value ?? (written === null ? null : { written })))
  expect(values(await recordsOf(again))).toEqual(values(await recordsOf(table)))
})

test('the labelled table of a run goes out in every format, with what the gate said', async () => {
  const gate = await gateOn(server, table, 'Attendance', ['50'], ['low', 'high'])
  const run = await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })
  for (const format of OUT_FORMATS) {
    const { bytes } = await taken(`/runs/${run.id}/labelled.${format}`)
    const { texts, settings } = await readWhole(bytes)
    const heads = settings.columns.map(({ name }) => name)
    expect(heads.slice(6)).toEqual([gate.name, `${gate.name} status`, `${gate.name} limits`])
    expect(texts.map((record) => record.slice(6, 8))).toEqual([
      ['high', 'labelled'],
      ['low', 'labelled'],
      ['low', 'labelled'],
      ['', 'held'],
    ])
  }
})

test('a format that there is none of is nowhere', async () => {
  expect((await server.ask('GET', `/tables/${table.id}/file.doc`)).status).toBe(404)
})
