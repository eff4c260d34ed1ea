import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Column, TableRecord, TableSummary } from '@dime-gate/contract/table'
import { OUT_FORMATS, type OutFormat } from '@dime-gate/interchange/table/out-formats'
import { chooseFile, click, type DimeGate, eventually, find, openDimeGate, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

/** Formats that say what a column is, beside its values. */
const TELLING: readonly OutFormat[] = ['xlsx', 'ods', 'arrow']
const WORDS: Record<OutFormat, string> = {
  csv: 'CSV, as written',
  xlsx: 'XLSX',
  ods: 'ODS',
  json: 'JSON',
  jsonl: 'JSON Lines',
  arrow: 'Arrow',
}

const asked = async <Answer>(path: string) => (await (await fetch(`${gate.address}/api/v1${path}`)).json()) as Answer
const tables = async () => (await asked<{ tables: TableSummary[] }>('/desk')).tables
const columnsOf = async (id: number) => (await asked<{ columns: Column[] }>(`/tables/${id}`)).columns
const sent = (path: string, body: object) => fetch(`${gate.address}/api/v1${path}`, { method: 'POST', body: JSON.stringify(body) })

/** Everything in a table: each value, and each text that could not be read. */
async function contentOf(id: number): Promise<(string | null)[][]> {
  const records = [...new Int32Array(await (await sent(`/tables/${id}/listings`, { filters: [], sorts: [] })).arrayBuffer())]
  const content: (string | null)[][] = []
  for (let at = 0; at < records.length; at += 500) {
    const some = (await (await sent(`/tables/${id}/records`, { records: records.slice(at, at + 500) })).json()) as TableRecord[]
    content.push(...some.map(({ cells }) => cells.map(([value, written]) => (value === null ? written : asValue(value)))))
  }
  return content
}

/** 5 and 5.0 are one number. */
function asValue(text: string): string {
  return /^-?\d+\.\d+$/.test(text) ? text.replace(/\.?0+$/, '') : text
}

async function taken(table: TableSummary, format: OutFormat): Promise<string> {
  const path = join(gate.folder, `${table.name}.${format}`)
  await gate.page.goto(`${gate.address}/tables/${table.id}`, { waitUntil: 'networkidle0' })
  await click(gate.page, '::-p-text(Take out)')
  await click(gate.page, `.v-list-item::-p-text(${WORDS[format]})`)
  await eventually(async () => existsSync(path) && !existsSync(`${path}.crdownload`) && (await readFile(path)).length > 0, true)
  return path
}

async function broughtIn(path: string, name: string): Promise<number> {
  await gate.page.goto(gate.address, { waitUntil: 'networkidle0' })
  await chooseFile(gate.page, path)
  await type(gate.page, '.table-name input', name)
  await eventually(() => gate.page.$eval('.incoming .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled), true)
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, `h1::-p-text(${name})`)
  return (await tables()).find((table) => table.name === name)!.id
}

test('every table of the demo goes out through the page and comes in again as it was, in formats by turns', async () => {
  const all = await tables()
  expect(all.length).toBe(8)
  for (const [at, table] of all.entries()) {
    for (const format of [OUT_FORMATS[at % 6]!, OUT_FORMATS[(at + 2) % 6]!]) {
      const id = await broughtIn(await taken(table, format), `${table.name} by ${format}`)
      expect([table.name, format, await contentOf(id)]).toEqual([table.name, format, await contentOf(table.id)])
      const [was, is] = [await columnsOf(table.id), await columnsOf(id)]
      expect(is.map(({ name, blank, unreadable }) => [name, blank, unreadable])).toEqual(
        was.map(({ name, blank, unreadable }) => [name, blank, unreadable]),
      )
      if (TELLING.includes(format))
        expect(is.map(({ unit, type: kind, fullMarks, isIdentity }) => [unit, kind, fullMarks, isIdentity])).toEqual(
          was.map(({ unit, type: kind, fullMarks, isIdentity }) => [unit, kind, fullMarks, isIdentity]),
        )
    }
  }
})
