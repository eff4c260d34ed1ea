/** Everything that is kept, as one file, by PostgreSQL's own programs. */
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { type Cluster, joinCluster, programsFor } from './postgres'

/** The database that the start command uses: the checkout's own, or the one that `DATABASE_URL` names. */
export async function withDatabase(work: (url: string) => Promise<void>): Promise<void> {
  const { DATABASE_URL } = process.env
  const cluster: Cluster | null = DATABASE_URL ? null : await joinCluster('database')
  try {
    await work(DATABASE_URL ?? cluster!.url)
  } finally {
    await cluster?.leave()
  }
}

/** Runs one of PostgreSQL's programs; what it complains of is shown as it is. @throws Error where it fails */
export async function runProgram(program: 'pg_dump' | 'pg_restore', args: readonly string[], url: string): Promise<void> {
  const child = spawn(`${await programsFor('database')}/${program}`, [...args, `--dbname=${url}`], { stdio: ['ignore', 'inherit', 'inherit'] })
  const [code] = (await once(child, 'exit')) as [number | null]
  if (code !== 0) throw new Error(`${program} did not end well; it says why above.`)
}
