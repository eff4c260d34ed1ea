/** The start command: database, build and server up; all of them down again at Ctrl-C. */
import { type ChildProcess, spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { type Cluster, joinCluster } from './postgres'
import { startServer, stopServer } from './server-process'

const DEFAULT_PORT = '4170'
const LOOK_EVERY = 2000
const LAST_MOMENT = 5000

const port = process.env.PORT ?? DEFAULT_PORT
let joining: Promise<Cluster> | null = null
let server: ChildProcess | null = null
let ending = false

process.on('SIGINT', () => void end(0))
process.on('SIGTERM', () => void end(0))
process.on('disconnect', () => void end(0))

try {
  await checkPort()
  if (!process.env.DATABASE_URL && !ending) joining = joinCluster('database')
  const url = process.env.DATABASE_URL ?? (await joining)?.url
  if (!ending) await buildApart()
  if (!ending) await serve(url!)
  const cluster = await joining
  if (cluster) void watchOver(cluster)
} catch (error) {
  if (!ending) {
    process.stderr.write(`${(error as Error).message}\n`)
    await end(1)
  }
}

/** In a process of its own, so that what a build needs of memory is given back. */
async function buildApart(): Promise<void> {
  const builder = spawn(process.execPath, ['--import', 'tsx', 'tools/build-now.ts'], { stdio: ['ignore', 'inherit', 'inherit'] })
  const code = await new Promise((resolve) => builder.once('exit', resolve))
  if (code !== 0 && !ending) throw new Error('The build failed; it says why above.')
}

async function checkPort(): Promise<void> {
  if (!/^\d{1,5}$/.test(port) || Number(port) < 1 || Number(port) > 65535) throw new Error(`PORT is “${port}”; it has to be a number from 1 to 65535.`)
  const probe = createServer()
  await new Promise<void>((free, failed) => {
    probe.once('error', (error: NodeJS.ErrnoException) => failed(new Error(error.code === 'EADDRINUSE'
      ? `Port ${port} is taken, perhaps by Dime Gate itself at http://127.0.0.1:${port}. Open that page, end the other program, or choose another port: PORT=${Number(port) + 1} npm start`
      : `Port ${port} cannot be used: ${error.message}`)))
    probe.listen(Number(port), '127.0.0.1', () => probe.close(() => free()))
  })
}

async function serve(url: string): Promise<void> {
  server = await startServer(url, Number(port))
  if (ending) return stopServer(server)
  server.once('exit', (code) => {
    if (!ending) void end(code || 1)
  })
  const address = `http://127.0.0.1:${port}`
  const page = await fetch(address)
  if (!page.ok) throw new Error(`The page at ${address} answers ${page.status}.`)
  process.stdout.write(`Dime Gate is at ${address}\nCtrl-C ends it.\n`)
}

/** A database that has crashed is started again; the server waits for it meanwhile. */
async function watchOver(cluster: Cluster): Promise<void> {
  while (!ending) {
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
    if (ending) return
    const hadCrashed = await cluster.revive().catch((error: Error) => void process.stderr.write(`The database has ended and does not start again yet: ${error.message}\n`))
    if (hadCrashed) process.stderr.write('The database had ended without being asked to, and was started again.\n')
  }
}

async function end(code: number): Promise<void> {
  if (ending) return
  ending = true
  if (server) await stopServer(server)
  // Somebody else's lock may be in the way of a start that is not wanted any more.
  const cluster = await Promise.race([joining?.catch(() => null), new Promise<null>((resolve) => setTimeout(() => resolve(null), LAST_MOMENT).unref())])
  await cluster?.leave().catch((error: Error) => process.stderr.write(`${error.message}\n`))
  process.exit(code)
}
