import { createReadStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import { STREET_TREE_COLUMNS } from '@dime-gate/demo/street-trees'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { treesFor } from './bring-in-trees'
import { type Figure, median, timed } from './figure'
import { treesFile } from './trees'

const RECORDS = 100_000
const ROUNDS = 11
const MOST = 3

export const importAgainstCopy: Figure = {
  name: 'import of 100,000 records × 12 columns, against a bare COPY of the same file',
  reach: `at most ${MOST} ×`,
  async measure() {
    const { path } = await treesFile(RECORDS)
    const database = await temporaryDatabase()
    const port = await freePort()
    const server = await startServer(database.url, port, { DEMO: 'off' })
    const client = new pg.Client(database.url)
    await client.connect()
    const bringIn = await treesFor(`http://127.0.0.1:${port}`, RECORDS)
    const [imports, copies]: [number[], number[]] = [[], []]
    // Turn and turn about, so that whatever else the machine does falls on both alike.
    for (let round = 0; round <= ROUNDS; round++) {
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
    await stopServer(server)
    await database.drop()
    const ratio = median(imports.map((time, round) => time / copies[round]!))
    return { measured: `${ratio.toFixed(2)} × (${Math.round(median(imports))} ms, COPY ${Math.round(median(copies))} ms)`, ok: ratio <= MOST }
  },
}
