import pg from 'pg'
import { gateSchema } from '@dime-gate/contract/gate'
import { runSchema } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { askAt, bringIn } from '../server/testing/bring-in'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { type Figure, median, mostMemory, quantile, timed } from './figure'
import { fillNumbers } from './fill-numbers'
import { FOUR, MILLION, rulesOf, twentyRules } from './million'

const ROUNDS = 3
const MOST = 2
const MOST_WAIT = 50
const MOST_MEMORY = 500
const LOOK_EVERY = 20
const NAMES = Object.keys(FOUR)

export const runAgainstCtas: Figure = {
  name: 'a run of 20 rules of two tests over four number columns on 1,000,000 records, stored, against CREATE TABLE AS SELECT …, CASE; the desk meanwhile, and the memory of the server',
  reach: `at most ${MOST} ×; the desk's p99 within ${MOST_WAIT} ms; under ${MOST_MEMORY} MB`,
  async measure() {
    const database = await temporaryDatabase()
    const port = await freePort()
    const server = await startServer(database.url, port, { DEMO: 'off' })
    const client = new pg.Client(database.url)
    await client.connect()
    const ask = async <Body>(method: string, path: string, body?: unknown): Promise<Body> => {
      const response = await fetch(`http://127.0.0.1:${port}/api/v1${path}`, { method, body: body === undefined ? undefined : JSON.stringify(body) })
      if (!response.ok) throw new Error(await response.text())
      return response.json() as Promise<Body>
    }
    try {
      const table = await fill(client, `http://127.0.0.1:${port}`)
      const draft = rulesOf(FOUR, twentyRules())
      const inputs = Object.fromEntries(table.columns.map(({ name, id }) => [name, { column: id }]))
      const { id: gateId } = gateSchema.parse(await ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs } }))
      await ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
      const columns = table.columns.map(({ id, name }) => `c${id} as "${name}"`).join(', ')
      const label = `case ${twentyRules().map((condition, rule) => `when ${condition.replace(/\b([A-D])\b/g, '"$1"')} then 'label ${rule}'`).join(' ')} else 'rest' end`
      const [ours, theirs, waits]: [number[], number[], number[]] = [[], [], []]
      for (let round = 0; round <= ROUNDS; round++) {
        let isUnderWay = true
        const here = timed(async () => {
          const { id } = await ask<{ id: number }>('POST', '/runs', { gateId, version: 1, tableId: table.id, binding: 1 })
          for (;;) {
            const run = runSchema.parse(await ask('GET', `/runs/${id}`))
            if (run.state === 'done') return
            if (run.state === 'failed') throw new Error(run.problem ?? '')
            await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
          }
        }).finally(() => (isUnderWay = false))
        const looks = (async () => {
          while (isUnderWay) {
            if (round > 0) waits.push(await timed(() => ask('GET', '/desk')))
            await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
          }
        })()
        const time = await here
        await looks
        const there = await timed(async () => {
          await client.query(`create table theirs as select record, 0::smallint as status, ${label} as label, "A", "B", "C", "D" from (select record, ${columns} from records.t${table.id}) as t`)
          await client.query('alter table theirs add primary key (record)')
        })
        await client.query('drop table theirs')
        // The first run also starts its thread.
        if (round === 0) continue
        ours.push(time)
        theirs.push(there)
      }
      const ratio = median(ours.map((time, round) => time / theirs[round]!))
      const p99 = quantile(waits, 0.99)
      const memory = await mostMemory(server.pid!)
      return {
        measured: `${ratio.toFixed(1)} × (${(median(ours) / 1000).toFixed(1)} s, CREATE TABLE ${(median(theirs) / 1000).toFixed(1)} s); desk p99 ${p99.toFixed(0)} ms of ${waits.length} looks; ${memory} MB at most`,
        ok: ratio <= MOST && p99 <= MOST_WAIT && memory < MOST_MEMORY,
      }
    } finally {
      await client.end()
      await stopServer(server)
      await database.drop()
    }
  },
}

/** A table of a million records, each with four numbers from 0 to 100 with one decimal. */
async function fill(client: pg.Client, address: string): Promise<Table> {
  const text = `${NAMES.join(',')}\n1,2,3,4\n`
  const table = await bringIn({ ask: askAt(address) }, 'Million', text)
  await fillNumbers(client, table, NAMES, MILLION)
  return table
}
