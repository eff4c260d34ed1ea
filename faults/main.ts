/** `npm run faults -- MINUTES [SEED]`: the product and a database of its own, hurt in every way again and again. */
import { execFile } from 'node:child_process'
import { join } from 'node:path'
import { promisify } from 'node:util'
import pg from 'pg'
import { type Cluster, joinCluster, removeCluster } from '../tools/postgres'
import { shell } from '../tools/shell'
import { type Fault, FAULTS, type Outcome, runFaults } from './run-faults'
import { SmallDisk } from './small-disk'
import { pause, World } from './world'

const CLUSTER = `faults-${process.pid}`
/** So much log fits on the small disk beside the records. */
const LITTLE_LOG = ['max_wal_size=96MB', 'min_wal_size=32MB']
/** After so many faults a database has much in it, and looking at all of it takes long: the next one is empty. */
const FAULTS_A_DATABASE = 40

const [minutes, seed] = [Number(process.argv[2] ?? 10), Number(process.argv[3] ?? Date.now() % 1_000_000)]
if (!(minutes > 0) || !Number.isInteger(seed)) {
  console.log('Say for how many minutes, and if you like with which seed: npm run faults -- 60 20260302')
  process.exit(2)
}

let disk: SmallDisk | null = null
let code = 1
for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, () => void clear().then(() => process.exit(130)))
try {
  await shell(process.execPath, ['--import', 'tsx', 'tools/build-now.ts'])
  disk = await SmallDisk.mount()
  if (!disk) console.log('Without the rights to mount a small disk, a full one is left out.')
  const cluster = await joinCluster(CLUSTER, LITTLE_LOG, disk ? join(disk.folder, 'data') : undefined)
  const until = Date.now() + minutes * 60_000
  console.log(`seed ${seed}`)
  const total: Outcome = { faults: 0, operations: 0, checks: 0, problems: [] }
  for (let database = 0; Date.now() < until && total.problems.length === 0; database++) {
    await ask(cluster, `create database hurt${database}`)
    const world = await World.start(cluster.url.replace(/\/[^/]*$/, `/hurt${database}`))
    const faults = [...FAULTS, ...ofTheDatabase(cluster), ...(disk ? [ofTheDisk(disk, cluster)] : [])]
    const outcome = await runFaults(world, seed + database, faults, (done) => done < FAULTS_A_DATABASE && Date.now() < until, console.log)
    await world.stop()
    await ask(cluster, `drop database hurt${database} with (force)`)
    for (const what of ['faults', 'operations', 'checks'] as const) total[what] += outcome[what]
    total.problems.push(...outcome.problems)
    console.log(`${total.faults} faults, ${total.operations} operations, ${total.checks} checks, ${total.problems.length} problems`)
  }
  code = total.problems.length === 0 ? 0 : 1
} catch (error) {
  console.log((error as Error).stack)
} finally {
  await clear()
}
process.exit(code)

async function clear(): Promise<void> {
  await removeCluster(CLUSTER)
  await disk?.unmount()
}

async function ask({ url }: Cluster, sql: string): Promise<void> {
  const client = new pg.Client(url)
  await client.connect()
  await client.query(sql)
  await client.end()
}

/** As the start command does: again and again, until it is up. */
async function revive(cluster: Cluster): Promise<void> {
  while ((await cluster.revive().catch(() => true)) && (await cluster.pid()) === null) await pause(1000)
}

/** What only a database of one's own can be put through. */
function ofTheDatabase(cluster: Cluster): Fault[] {
  return [
    {
      name: 'the database is killed, and started again',
      async happen() {
        process.kill((await cluster.pid())!, 'SIGKILL')
        await pause(1000)
        await revive(cluster)
      },
    },
    {
      name: 'the database stands still for a while',
      async happen() {
        const first = (await cluster.pid())!
        const { stdout } = await promisify(execFile)('pgrep', ['-P', String(first)])
        const all = [first, ...stdout.trim().split('\n').map(Number)]
        const signal = (name: NodeJS.Signals) => all.forEach((pid) => {
          try {
            process.kill(pid, name)
          } catch {
            // It has ended by itself.
          }
        })
        signal('SIGSTOP')
        await pause(3000)
        signal('SIGCONT')
      },
    },
  ]
}

function ofTheDisk(disk: SmallDisk, cluster: Cluster): Fault {
  return {
    name: 'the disk of the database is full for a while',
    async happen() {
      await disk.whileFull(() => pause(3000))
      // A log that cannot be written ends PostgreSQL.
      await revive(cluster)
    },
  }
}
