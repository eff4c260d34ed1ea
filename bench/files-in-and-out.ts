/** What other formats cost, in and out, and how soon a large table is listed as it is asked for. */
import { createReadStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import type { FileLook, Table } from '@dime-gate/contract/table'
import { STREET_TREE_COLUMNS } from '@dime-gate/demo/street-trees'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { askAt } from '../server/testing/bring-in'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { treesFor } from './bring-in-trees'
import { type Figure, type Measured, median, mostMemory, timed } from './figure'
import { MILLION } from './million'
import { treesFile } from './trees'

const MOST_IN = 12_000
const MOST_OUT = 10_000
const MOST_MEMORY = 500
const MOST_RATIO = 2.5
const ROUNDS = 3

interface Running {
  pid: number
  client: pg.Client
  table: Table
  /** Takes the table out. */
  take(format: string): Promise<Uint8Array>
  /** Sends a file, looks at it, and brings it in, as the page does. */
  bringIn(name: string, bytes: Uint8Array): Promise<void>
  list(listing: object): Promise<void>
}

export const workbookInAndOut: Figure = {
  name: 'XLSX of 100,000 records × 12 columns: in (sent, looked at, stored) and out, and the memory of the server',
  reach: `in within ${MOST_IN / 1000} s, out within ${MOST_OUT / 1000} s, under ${MOST_MEMORY} MB`,
  measure: () =>
    running(100_000, async ({ pid, take, bringIn }) => {
      let bytes: Uint8Array = new Uint8Array()
      const out = await timed(async () => (bytes = await take('xlsx')))
      const into = await timed(() => bringIn('again.xlsx', bytes))
      const memory = await mostMemory(pid)
      return {
        measured: `in ${(into / 1000).toFixed(1)} s, out ${(out / 1000).toFixed(1)} s; ${memory} MB at most`,
        ok: into <= MOST_IN && out <= MOST_OUT && memory < MOST_MEMORY,
      }
    }),
}

export const linesAndArrowIn: Figure = {
  name: 'JSON Lines and Arrow of 1,000,000 records × 12 columns in (sent, looked at, stored), against a bare COPY of the same records',
  reach: `at most ${MOST_RATIO} ×`,
  measure: () =>
    running(MILLION, async ({ client, take, bringIn }) => {
      const { path } = await treesFile(MILLION)
      const told: string[] = []
      let isOk = true
      for (const format of ['jsonl', 'arrow']) {
        const bytes = await take(format)
        const ratios: number[] = []
        for (let round = 0; round < ROUNDS; round++) {
          const ours = await timed(() => bringIn(`${format} ${round}.${format}`, bytes))
          const theirs = await timed(async () => {
            await client.query('begin')
            await client.query(`create table bare (${STREET_TREE_COLUMNS.map((_, at) => `c${at} text`).join(', ')})`)
            await pipeline(createReadStream(path), client.query(copyFrom('copy bare from stdin (format csv, header)')))
            await client.query('commit')
            await client.query('drop table bare')
          })
          ratios.push(ours / theirs)
        }
        told.push(`${format} ${median(ratios).toFixed(2)} ×`)
        isOk &&= median(ratios) <= MOST_RATIO
      }
      return { measured: told.join(', '), ok: isOk }
    }),
}

export const listingOfMillion: Figure = {
  name: 'a table of 1,000,000 records: its list as it stands, sorted by two columns, and by a range',
  reach: 'within 1 s, 1.5 s, 0.5 s',
  measure: () =>
    running(MILLION, async ({ table, list }) => {
      const id = (name: string) => table.columns.find((column) => column.name === name)!.id
      const asked = [
        { filters: [], sorts: [] },
        {
          filters: [],
          sorts: [
            { column: id('Decay'), direction: 'falling' },
            { column: id('Planted'), direction: 'rising' },
          ],
        },
        { filters: [{ kind: 'range', column: id('Decay'), low: '40', high: '60' }], sorts: [] },
      ]
      const times: number[] = []
      for (const listing of asked) {
        await list(listing)
        times.push(median([await timed(() => list(listing)), await timed(() => list(listing)), await timed(() => list(listing))]))
      }
      const [whole, sorted, ranged] = times as [number, number, number]
      return {
        measured: `${Math.round(whole)} ms, ${Math.round(sorted)} ms, ${Math.round(ranged)} ms`,
        ok: whole <= 1000 && sorted <= 1500 && ranged <= 500,
      }
    }),
}

async function running(records: number, measure: (on: Running) => Promise<Measured>): Promise<Measured> {
  const database = await temporaryDatabase()
  const port = await freePort()
  const address = `http://127.0.0.1:${port}`
  const server = await startServer(database.url, port, { DEMO: 'off' })
  const client = new pg.Client(database.url)
  await client.connect()
  const ask = askAt(address)
  try {
    const table = await (await treesFor(address, records))('Trees')
    return await measure({
      pid: server.pid!,
      client,
      table,
      take: async (format) => new Uint8Array(await (await fetch(`${address}/api/v1/tables/${table.id}/file.${format}`)).arrayBuffer()),
      async bringIn(name, bytes) {
        const { id } = (await ask('POST', `/files?${new URLSearchParams({ name })}`, bytes)).body as { id: string }
        const { settings } = (await ask('POST', `/files/${id}/looks`, {})).body as FileLook
        const { status, body } = await ask('POST', '/tables', { file: id, name, settings })
        if (status !== 201) throw new Error(JSON.stringify(body))
      },
      async list(listing) {
        await (
          await fetch(`${address}/api/v1/tables/${table.id}/listings`, { method: 'POST', body: JSON.stringify(listing) })
        ).arrayBuffer()
      },
    })
  } finally {
    await client.end()
    await stopServer(server)
    await database.drop()
  }
}
