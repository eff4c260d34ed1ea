/** What others wait while everything heavy is under way at once, and what taking a labelled table costs. */
import { request } from 'node:http'
import pg from 'pg'
import { to as copyTo } from 'pg-copy-streams'
import { gateSchema } from '@dime-gate/contract/gate'
import { runSchema } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { type BringIn, treesFor } from './bring-in-trees'
import { type Figure, median, mostMemory, quantile, timed } from './figure'
import { MILLION } from './million'

const ROUNDS = 3
const MOST = 3
const MOST_WAIT = 100
const MOST_MEMORY = 600
const SLOW_READERS = 50
const SLOW_FOR = 30_000
const LOOK_EVERY = 20

interface Running {
  pid: number
  client: pg.Client
  bringIn: BringIn
  ask<Body>(method: string, path: string, body?: unknown): Promise<Body>
  /** Takes an answer to its end and lets go of it. */
  take(path: string): Promise<void>
  /** Asks for an answer and then hardly reads any of it. */
  dawdle(path: string): () => void
  /** The millions of trees, and a run on them that is done. */
  table: Table
  gateId: number
  runId: number
}

export const labelledAgainstCopy: Figure = {
  name: 'the labelled table of 1,000,000 records × 12 columns as CSV, against COPY TO of the table',
  reach: `at most ${MOST} ×`,
  measure: () =>
    running(async ({ take, client, table, runId }) => {
      const [ours, theirs]: [number[], number[]] = [[], []]
      for (let round = 0; round < ROUNDS; round++) {
        ours.push(await timed(() => take(`/runs/${runId}/labelled.csv`)))
        theirs.push(
          await timed(async () => {
            for await (const _ of client.query(copyTo(`copy records.t${table.id} to stdout (format csv)`))) continue
          }),
        )
      }
      const ratio = median(ours.map((time, round) => time / theirs[round]!))
      return {
        measured: `${ratio.toFixed(2)} × (${Math.round(median(ours))} ms, COPY ${Math.round(median(theirs))} ms)`,
        ok: ratio <= MOST,
      }
    }),
}

export const allAtOnce: Figure = {
  name: `the desk while an import, a run, a profile and an export of 1,000,000 records are under way at once, and ${SLOW_READERS} slow readers beside them; the memory of the server through all that`,
  reach: `p99 within ${MOST_WAIT} ms; under ${MOST_MEMORY} MB`,
  measure: () =>
    running(async ({ pid, ask, take, dawdle, bringIn, table, gateId, runId }) => {
      let isUnderWay = true
      const waits: number[] = []
      const looks = (async () => {
        while (isUnderWay) {
          waits.push(await timed(() => ask('GET', '/desk')))
          await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
        }
      })()
      const all = Promise.all([
        bringIn('Trees once more'),
        keep(ask, gateId, table.id),
        ask('GET', `/tables/${table.id}/profile`),
        take(`/runs/${runId}/labelled.csv`),
      ])
      const leave = Array.from({ length: SLOW_READERS }, () => dawdle(`/runs/${runId}/labelled.csv`))
      const time = await timed(() => all)
      isUnderWay = false
      await looks
      await new Promise((resolve) => setTimeout(resolve, SLOW_FOR))
      leave.forEach((one) => one())
      const [p99, memory] = [quantile(waits, 0.99), await mostMemory(pid)]
      return {
        measured: `p99 ${Math.round(p99)} ms of ${waits.length} looks in ${(time / 1000).toFixed(1)} s; ${memory} MB at most`,
        ok: p99 <= MOST_WAIT && memory < MOST_MEMORY,
      }
    }),
}

async function running(measure: (on: Running) => ReturnType<Figure['measure']>): ReturnType<Figure['measure']> {
  const database = await temporaryDatabase()
  const port = await freePort()
  const server = await startServer(database.url, port, { DEMO: 'off' })
  const client = new pg.Client(database.url)
  await client.connect()
  const api = `http://127.0.0.1:${port}/api/v1`
  const ask = async <Body>(method: string, path: string, body?: unknown): Promise<Body> => {
    const response = await fetch(api + path, { method, body: body === undefined ? undefined : JSON.stringify(body) })
    if (!response.ok) throw new Error(await response.text())
    return response.json() as Promise<Body>
  }
  try {
    const bringIn = await treesFor(`http://127.0.0.1:${port}`, MILLION)
    const table = await bringIn('Trees')
    const bands = ['Sound', 'Weak', 'Failing'].map((label) => ({ label, colour: '#7fa99a', mark: 'disc' as const }))
    const draft = plainScale(
      'Decay band',
      givenNumber('Decay', '%'),
      [
        { at: '12', owner: 'above' },
        { at: '40', owner: 'above' },
      ],
      bands,
    )
    const inputs = { Decay: { column: table.columns.find(({ name }) => name === 'Decay')!.id } }
    const { id: gateId } = gateSchema.parse(await ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs } }))
    await ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
    const runId = await keep(ask, gateId, table.id)
    return await measure({
      pid: server.pid!,
      client,
      bringIn,
      ask,
      table,
      gateId,
      runId,
      async take(path) {
        const response = await fetch(api + path)
        for await (const _ of response.body as unknown as AsyncIterable<Uint8Array>) continue
      },
      dawdle(path) {
        const asked = request(api + path, { agent: false }, (response) => response.once('data', () => response.pause()))
        asked.on('error', () => undefined)
        asked.end()
        return () => asked.destroy()
      },
    })
  } finally {
    await client.end()
    await stopServer(server)
    await database.drop()
  }
}

async function keep(ask: Running['ask'], gateId: number, tableId: number): Promise<number> {
  const { id } = await ask<{ id: number }>('POST', '/runs', { gateId, version: 1, tableId, binding: 1 })
  for (;;) {
    const run = runSchema.parse(await ask('GET', `/runs/${id}`))
    if (run.state === 'done') return id
    if (run.state === 'failed') throw new Error(run.problem ?? '')
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
  }
}
