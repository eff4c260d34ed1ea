import { execFile } from 'node:child_process'
import { chmod, mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'

/** Joins a cluster, asks it something, and leaves; in a process of its own, as the programs that use one are. */
const PROGRAM = `
import pg from 'pg'
import { joinCluster } from './tools/postgres.ts'
const cluster = await joinCluster('odd')
const client = new pg.Client(cluster.url)
await client.connect()
const { rows } = await client.query(process.argv[1])
await client.end()
await cluster.leave()
console.log(JSON.stringify([rows, await cluster.pid()]))
process.exit(0)`

test('data lie in a folder whatever its name, and a second start finds them there', async () => {
  const outer = await mkdtemp(join(tmpdir(), 'dime $HOME `x` "q" '))
  await chmod(outer, 0o755)
  const ask = async (sql: string) => {
    const { stdout } = await promisify(execFile)(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', PROGRAM, sql], {
      env: { ...process.env, DATA_FOLDER: join(outer, 'it’s $1') },
    })
    return JSON.parse(stdout) as unknown
  }
  try {
    expect(await ask('create table kept as select 7 as at')).toEqual([[], null])
    expect(await ask('select at from kept')).toEqual([[{ at: 7 }], null])
  } finally {
    await rm(outer, { recursive: true, force: true })
  }
}, 90_000)
