import { createReadStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import { STREET_TREE_COLUMNS } from '@dime-gate/demo/street-trees'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { treesFor } from './bring-in-trees'
import { type Figure, type Measured, median, mostMemory, timed } from './figure'
import { treesFile } from './trees'

const MOST = 2
const MOST_MEMORY = 400

export const importAgainstCopy = against(100_000, 11)
export const importOfMillion = against(1_000_000, 3)

function against(records: number, rounds: number): Figure {
  return {
    name: `import of ${records.toLocaleString('en')} records × 12 columns, against a bare COPY of the same file, and the memory of the server`,
    reach: `at most ${MOST} ×, under ${MOST_MEMORY} MB`,
    measure: () => measure(records, rounds),
  }
}

async function measure(records: number, rounds: number): Promise<Measured> {
  const { path } = await treesFile(records)
  const database = await temporaryDatabase()
  const port = await freePort()
  const server = await startServer(database.url, port, { DEMO: 'off' })
  const client = new pg.Client(database.url)
  await client.connect()
  const bringIn = await treesFor(`http://127.0.0.1:${port}`, records)
  const [imports, copies]: [number[], number[]] = [[], []]
  // Turn and turn about, so that whatever else the machine does falls on both alike.
  for (let round = 0; round <= rounds; round++) {
    const imported = await timed(() => bringIn(`Trees ${round}`))
    const copied = await timed(async () => {
      await client.query('begin')
      await client.query(`create table bare_${round} (${STREET_TREE_COLUMNS.map((_, at) => `c${at} text`).join(', ')})`)
      await pipeline(createReadStream(path), client.query(copyFrom(`copy bare_${round} from stdin (format csv, header)`)))
      await client.query('commit')
    })
    // The first round warms both up.
    if (round === 0) continue
    imports.push(imported)
    copies.push(copied)
  }
  await client.end()
  const memory = await mostMemory(server.pid!)
  await stopServer(server)
  await database.drop()
  const ratio = median(imports.map((time, round) => time / copies[round]!))
  return { measured: `${ratio.toFixed(2)} × (${Math.round(median(imports))} ms, COPY ${Math.round(median(copies))} ms); ${memory} MB at most`, ok: ratio <= MOST && memory < MOST_MEMORY }
}
