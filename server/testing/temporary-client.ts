import pg from 'pg'
import { temporaryDatabase } from './temporary-server'

/** A connection to an empty database of its own, for all tests of a file. */
export function temporaryClient(): { query: pg.Client['query'] } {
  let database: Awaited<ReturnType<typeof temporaryDatabase>>
  let client: pg.Client
  beforeAll(async () => {
    database = await temporaryDatabase()
    client = new pg.Client(database.url)
    await client.connect()
  })
  afterAll(async () => {
    await client.end()
    await database.drop()
  })
  return { query: ((...args: Parameters<pg.Client['query']>) => client.query(...args)) as pg.Client['query'] }
}
