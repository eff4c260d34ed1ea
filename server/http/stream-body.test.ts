import { createHash } from 'node:crypto'
import { once } from 'node:events'
import { createServer, type IncomingMessage, request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import Koa from 'koa'
import { to as copyTo } from 'pg-copy-streams'
import { type Connection, type Database, openDatabase } from '../database/database'
import { type TemporaryDatabase, temporaryDatabase } from '../testing/temporary-server'
import { streamBody } from './stream-body'

let temporary: TemporaryDatabase
let database: Database
let server: Server
let answers: (connection: Connection) => AsyncIterable<Uint8Array>
const troubles: Error[] = []
beforeAll(async () => {
  temporary = await temporaryDatabase()
  database = openDatabase(temporary.url, { waits: true })
  const app = new Koa().use((context) => streamBody(context, database, answers))
  app.on('error', (error: Error) => troubles.push(error))
  server = createServer(app.callback()).listen(0, '127.0.0.1')
  await once(server, 'listening')
})
beforeEach(() => {
  answers = LONG
})
afterAll(async () => {
  server.closeAllConnections()
  server.close()
  await database.end()
  await temporary.drop()
})

const LINES = 200_000
const LONG = (connection: Connection) => connection.query(copyTo(`copy (select n, repeat('x', 60) from generate_series(1, ${LINES}) as n) to stdout`)) as AsyncIterable<Uint8Array>

async function ask(): Promise<IncomingMessage> {
  const asked = request({ port: (server.address() as AddressInfo).port, host: '127.0.0.1', agent: false }).end()
  return (await once(asked, 'response'))[0] as IncomingMessage
}

async function digest(response: IncomingMessage): Promise<string> {
  const hash = createHash('sha256')
  for await (const piece of response as AsyncIterable<Buffer>) hash.update(piece)
  return hash.digest('hex')
}

test('readers who stand still hold up nobody, and get all of it in the end', async () => {
  const whole = await digest(await ask())
  // More than there are connections.
  const slow = await Promise.all(Array.from({ length: 20 }, ask))
  await new Promise((resolve) => setTimeout(resolve, 200))
  expect(await digest(await ask())).toBe(whole)
  expect(await Promise.all(slow.map(digest))).toEqual(slow.map(() => whole))
}, 60_000)

test('a reader who leaves frees its connection', async () => {
  for (const response of await Promise.all(Array.from({ length: 10 }, ask))) response.destroy()
  expect((await digest(await ask())).length).toBe(64)
}, 60_000)

test('a failure on the way breaks the answer off', async () => {
  answers = async function* (connection) {
    yield Buffer.from('a beginning')
    await connection.query('select 1 / 0')
  }
  const response = await ask()
  await expect(digest(response)).rejects.toThrow(/aborted/)
  expect(troubles.at(-1)!.message).toMatch(/division by zero/)
})
