/** An empty database for the tests of one file, which goes with them. */
import { type Database, openDatabase } from '../database/database'
import { type TemporaryDatabase, temporaryDatabase } from './temporary-server'

/** @param prepare is done once, before the first test. @returns the database, from the first test on */
export function testDatabase(prepare: (database: Database) => Promise<unknown> = async () => undefined): () => Database {
  let temporary: TemporaryDatabase
  let database: Database
  beforeAll(async () => {
    temporary = await temporaryDatabase()
    database = openDatabase(temporary.url)
    await prepare(database)
  })
  afterAll(async () => {
    await database.end()
    await temporary.drop()
  })
  return () => database
}
