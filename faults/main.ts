/** `npm run faults -- MINUTES [SEED]`: the product and a database of its own, hurt in every way again and again. */
import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import pg from 'pg'
import { type Cluster, joinCluster, removeCluster } from '../tools/postgres'
import { shell } from '../tools/shell'
import { type Fault, FAULTS, runFaults } from './run-faults'
import { pause, World } from './world'

const CLUSTER = `faults-${process.pid}`
const [minutes, seed] = [Number(process.argv[2] ?? 10), Number(process.argv[3] ?? Date.now() % 1_000_000)]
if (!(minutes > 0) || !Number.isInteger(seed)) {
  console.log('Say for how many minutes, and if you like with which seed: npm run faults -- 60 20260302')
  process.exit(2)
}

let code = 1
for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, () => void removeCluster(CLUSTER).then(() => process.exit(130)))
try {
  await shell(process.execPath, ['--import', 'tsx', 'tools/build-now.ts'])
  const cluster = await joinCluster(CLUSTER)
  const admin = new pg.Client(cluster.url)
  await admin.connect()
  await admin.query('create database hurt')
  await admin.end()
  const world = await World.start(cluster.url.replace(/\/[^/]*$/, '/hurt'))
  const until = Date.now() + minutes * 60_000
  console.log(`seed ${seed}`)
  const { faults, operations, checks, problems } = await runFaults(world, seed, [...FAULTS, ...ofTheDatabase(cluster)], () => Date.now() < until, console.log)
  await world.stop()
  console.log(`${faults} faults, ${operations} operations, ${checks} checks, ${problems.length} problems`)
  code = problems.length === 0 ? 0 : 1
} catch (error) {
  console.log((error as Error).stack)
} finally {
  await removeCluster(CLUSTER)
}
process.exit(code)

/** What only a database of one's own can be put through. */
function ofTheDatabase(cluster: Cluster): Fault[] {
  return [
    {
      name: 'the database is killed, and started again',
      async happen() {
        process.kill((await cluster.pid())!, 'SIGKILL')
        await pause(1000)
        // As the start command does: again and again, until it is up.
        while ((await cluster.revive().catch(() => true)) && (await cluster.pid()) === null) await pause(1000)
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
