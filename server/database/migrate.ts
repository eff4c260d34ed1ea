/** Brings the database to the schema that this code expects: numbered files, each run once, in order. */
import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { type Database, inTransaction, rowsOf } from './database'

/** Any number does, as long as every copy of the program uses the same. */
const LOCK = 4170_2026

/** @param folder holds the files `NNN-name.sql` */
export async function migrate(database: Database, folder: string): Promise<void> {
  const files = (await readdir(folder)).filter((file) => /^\d{3}-.+\.sql$/.test(file)).sort()
  await inTransaction(database, async (connection) => {
    await connection.query(`select pg_advisory_xact_lock(${LOCK})`)
    await connection.query('create table if not exists migration (file text primary key, run_at timestamptz not null default now())')
    const done = new Set((await rowsOf<{ file: string }>(connection, 'select file from migration')).map(({ file }) => file))
    const unknown = [...done].filter((file) => !files.includes(file))
    if (unknown.length > 0) throw new Error(`The database is newer than this program: it has seen ${unknown.join(', ')}. Start the newer program, or use another DATABASE_URL.`)
    for (const file of files) {
      if (done.has(file)) continue
      await connection.query(await readFile(join(folder, file), 'utf8'))
      await connection.query('insert into migration (file) values ($1)', [file])
    }
  })
}
