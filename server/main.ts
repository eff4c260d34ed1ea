/** Starts the server: `DATABASE_URL` and `PORT` say where, the checkout's folders what. */
import { createServer } from 'node:http'
import { join } from 'node:path'
import { createApp } from './app'
import { alone, openDatabase, whenThere } from './database/database'
import { migrate } from './database/migrate'
import { makeLog } from './http/log'
import { Jobs } from './jobs'
import { loadDemo } from './load-demo'
import { clearRemoved } from './removal'
import { tellMoves } from './routes/moves'
import { tellStopped } from './run/runs'

const log = makeLog(process.env.LOG_LEVEL ?? 'warn')

/** Milliseconds that ending may take. */
const LAST_MOMENT = 5000

async function main(): Promise<void> {
  const { DATABASE_URL, PORT } = process.env
  if (!DATABASE_URL || !PORT) throw new Error('DATABASE_URL and PORT must be set; `npm start` sets both.')
  const root = process.cwd()
  const database = openDatabase(DATABASE_URL)
  const jobs = new Jobs(database, DATABASE_URL)
  await whenThere(database, () => process.stderr.write('Waiting for the database …\n'))
  // Two that are started at once would both lay the ground, and get into each other's way.
  await alone(database, async () => {
    await migrate(database, join(root, 'server', 'database', 'migrations'))
    await clearRemoved(database)
    await tellStopped(database)
    if (process.env.DEMO !== 'off') await loadDemo(database, jobs, join(root, 'demo', 'tables'))
  })

  const server = createServer(createApp(database, jobs, join(root, 'build', 'web'), log).callback())
  const closeLines = tellMoves(server, jobs.changes)
  // Uploads may take as long as they take; who stands still is given up by whoever reads.
  server.requestTimeout = 0
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(Number(PORT), '127.0.0.1', resolve)
  })
  process.send?.('ready')
  jobs.answers.getReady()

  let ending = false
  const end = () => {
    if (ending) return
    ending = true
    // Whatever is open, and whatever hangs: the end comes, and says what it broke off.
    setTimeout(() => {
      log.warn('the end did not wait for what was still open')
      process.exit(0)
    }, LAST_MOMENT).unref()
    server.close(() => void jobs.close().then(() => database.end()).then(() => process.exit(0)))
    server.closeAllConnections()
    closeLines()
  }
  process.on('SIGINT', end)
  process.on('SIGTERM', end)
  // Started by another program that has gone: nobody is left to end this one.
  process.on('disconnect', end)
}

main().catch((error: Error & { code?: string }) => {
  const message = error.code === 'EADDRINUSE' ? `Port ${process.env.PORT} is taken.` : error.message
  process.stderr.write(`${message || error.code}\n`)
  process.exit(1)
})
