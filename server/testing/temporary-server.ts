/** A server with a database of its own, on the cluster that the test command started; for tests. */
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join, resolve } from 'node:path'
import { randomBytes } from 'node:crypto'
import { API } from '@dime-gate/contract/api'
import { pino } from 'pino'
import { createApp } from '../app'
import { type Database, openDatabase } from '../database/database'
import { migrate } from '../database/migrate'
import { Jobs } from '../jobs'
import { tellMoves } from '../routes/moves'

export const MIGRATIONS = join('server', 'database', 'migrations')

export interface TemporaryDatabase {
  url: string
  drop(): Promise<void>
}

export async function temporaryDatabase(): Promise<TemporaryDatabase> {
  const cluster = process.env.TEST_DATABASE_URL
  if (!cluster) throw new Error('These tests need a database; run them with: npm test -- PATH')
  const name = `test_${randomBytes(6).toString('hex')}`
  const administer = async (sql: string) => {
    const pool = openDatabase(cluster)
    await pool.query(sql)
    await pool.end()
  }
  await administer(`create database ${name}`)
  return { url: cluster.replace(/\/[^/]*$/, `/${name}`), drop: () => administer(`drop database ${name} with (force)`) }
}

export interface TemporaryServer {
  /** Of its database. */
  url: string
  address: string
  database: Database
  /** Asks the server; the answer is JSON unless said otherwise. */
  ask(method: string, path: string, body?: unknown): Promise<{ status: number; body: never }>
  fetch(path: string, init?: RequestInit): Promise<Response>
  /** Ends the threads that decide runs, as the end of the server would. */
  stopJobs(): Promise<unknown>
  close(): Promise<void>
}

export async function temporaryServer(): Promise<TemporaryServer> {
  const { url, drop } = await temporaryDatabase()
  const database = openDatabase(url)
  await migrate(database, MIGRATIONS)
  const jobs = new Jobs(database, url)
  const server = createServer(createApp(database, jobs, resolve('server', 'testing'), pino({ level: 'silent' })).callback())
  const closeLines = tellMoves(server, jobs.changes)
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
  const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  return {
    url,
    address: at,
    database,
    fetch: (path, init) => fetch(at + path, init),
    async ask(method, path, body) {
      const isText = typeof body === 'string' || body instanceof Uint8Array
      const response = await fetch(`${at}${API}${path}`, { method, body: body === undefined ? undefined : isText ? (body as string) : JSON.stringify(body) })
      return { status: response.status, body: (await response.json()) as never }
    },
    stopJobs: () => jobs.close(),
    async close() {
      server.closeAllConnections()
      closeLines()
      await new Promise((done) => server.close(done))
      await jobs.close()
      await database.end()
      await drop()
    },
  }
}
