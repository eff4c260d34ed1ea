/** `npm run backup -- FILE`: tables, gates, versions, runs and all else in one file, while the product runs or not. */
import { existsSync } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { runProgram, withDatabase } from './dump'

const [file] = process.argv.slice(2)
try {
  if (!file) throw new Error('Say where to: npm run backup -- FILE')
  if (existsSync(file)) throw new Error(`There is a file ${file} already. Choose another name; nothing was written.`)
  const part = `${file}.${process.pid}.part`
  try {
    // One moment's state, whoever writes meanwhile (PostgreSQL's documentation, pg_dump).
    await withDatabase((url) => runProgram('pg_dump', ['--format=custom', '--no-owner', '--no-privileges', `--file=${part}`], url))
    await rename(part, file)
  } finally {
    await rm(part, { force: true })
  }
  process.stdout.write(`Everything is in ${file}.\n`)
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`)
  process.exitCode = 1
}
