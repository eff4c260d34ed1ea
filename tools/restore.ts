/** `npm run restore -- FILE`: what a backup holds, into a database that has nothing yet. An older version's is brought up to date by the next start. */
import { existsSync } from 'node:fs'
import pg from 'pg'
import { runProgram, withDatabase } from './dump'

const [file] = process.argv.slice(2)
try {
  if (!file) throw new Error('Say which: npm run restore -- FILE')
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`)
  await withDatabase(async (url) => {
    if (await holdsAnything(url)) throw new Error('The database is not empty. Restore into a checkout that was never started, or a database of its own (DATABASE_URL); nothing was changed.')
    // All of it, or nothing.
    await runProgram('pg_restore', ['--single-transaction', '--exit-on-error', '--no-owner', '--no-privileges', file], url)
  })
  process.stdout.write('Everything is back. Start with: npm start\n')
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`)
  process.exitCode = 1
}

async function holdsAnything(url: string): Promise<boolean> {
  const client = new pg.Client(url)
  await client.connect()
  try {
    const { rows } = await client.query<{ relations: number }>("select count(*)::int as relations from pg_class c join pg_namespace n on n.oid = c.relnamespace where c.relkind = 'r' and n.nspname not in ('pg_catalog', 'information_schema')")
    return rows[0]!.relations > 0
  } finally {
    await client.end()
  }
}
