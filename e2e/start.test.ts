import { askAt, bringIn } from '../server/testing/bring-in'
import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { readFile, rm } from 'node:fs/promises'
import { createServer, type Server } from 'node:net'
import { join } from 'node:path'
import pg from 'pg'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from '../tools/free-port'
import { eventually } from './testing/dime-gate'

/** The demo's tables, the last one brought in first. */
const DEMO = ['Wards', 'Office indicators', 'Crews', 'Night course', 'Resident reports', 'Species', 'Climber course', 'Street trees']

const FOLDER = join('.data', `start-${process.pid}`)

interface Started {
  child: ChildProcess
  said: () => string
  ended: Promise<number | null>
}

/** Runs the start command as a terminal would: in a process group of its own. */
function start(port: number, environment: Record<string, string> = {}): Started {
  const { TEST_DATABASE_URL: _, DATABASE_URL: __, ...inherited } = process.env
  const child = spawn('npm', ['start'], { detached: true, stdio: ['ignore', 'pipe', 'pipe'], env: { ...inherited, DATA_FOLDER: FOLDER, PORT: String(port), ...environment } })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (text: Buffer) => (said += text.toString()))
  return { child, said: () => said, ended: new Promise((resolve) => child.once('exit', resolve)) }
}

async function answering(started: Started): Promise<string> {
  for (let tries = 0; tries < 600; tries++) {
    const address = /is at (http:\S+)/.exec(started.said())
    if (address) return address[1]!
    if (started.child.exitCode !== null) break
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error(`no page: ${started.said()}`)
}

/** Ctrl-C goes to everything in the terminal's process group. */
const interrupt = ({ child }: Started) => process.kill(-child.pid!, 'SIGINT')

const tablesAt = async (address: string) => ((await (await fetch(`${address}/api/v1/desk`)).json()) as { tables: { name: string }[] }).tables.map(({ name }) => name)

async function place(): Promise<string> {
  return (JSON.parse(await readFile(join(FOLDER, 'database.json'), 'utf8')) as { folder: string }).folder
}

const databaseRuns = async () => existsSync(join(await place(), 'postmaster.pid'))

afterAll(async () => {
  await rm(await place(), { recursive: true, force: true })
  await rm(FOLDER, { recursive: true, force: true })
})

test('Ctrl-C ends everything, and the next start finds the data where it was left', async () => {
  const first = start(await freePort())
  const address = await answering(first)
  expect(await tablesAt(address)).toEqual(DEMO)
  await bringIn({ ask: askAt(address) }, 'Mine', 'a\n1\n')
  interrupt(first)
  await first.ended
  await eventually(databaseRuns, false)
  await expect(fetch(address)).rejects.toThrow()

  const second = start(await freePort())
  expect(await tablesAt(await answering(second))).toEqual(['Mine', ...DEMO])
  interrupt(second)
  await second.ended
})

test('a taken port is a clear message, and nothing is left running', async () => {
  const port = await freePort()
  const other: Server = createServer().listen(port, '127.0.0.1')
  const refused = start(port)
  expect(await refused.ended).toBe(1)
  expect(refused.said()).toMatch(new RegExp(`Port ${port} is taken.*PORT=${port + 1} npm start`))
  other.close()
  const wrong = start(0, { PORT: 'eighty' })
  expect(await wrong.ended).toBe(1)
  expect(wrong.said()).toMatch(/PORT is “eighty”/)
  expect(await databaseRuns()).toBe(false)
})

test('two run beside each other on one database, and the last to leave stops it', async () => {
  const [first, second] = [start(await freePort()), start(await freePort())]
  const addresses = [await answering(first), await answering(second)]
  interrupt(first)
  await first.ended
  expect(await tablesAt(addresses[1]!)).toContain('Street trees')
  interrupt(second)
  await second.ended
  await eventually(databaseRuns, false)
})

test('after it was killed outright, the next start takes over what was left', async () => {
  const killed = start(await freePort())
  const address = await answering(killed)
  process.kill(-killed.child.pid!, 'SIGKILL')
  await killed.ended
  // The server notices that nobody is left to end it.
  for (let tries = 0; tries < 50 && (await fetch(address).then(() => true, () => false)); tries++) await new Promise((resolve) => setTimeout(resolve, 100))
  await expect(fetch(address)).rejects.toThrow()
  const next = start(await freePort())
  expect(await tablesAt(await answering(next))).toContain('Mine')
  interrupt(next)
  await next.ended
  await eventually(databaseRuns, false)
})

test('DATABASE_URL names another server, which is used and left running', async () => {
  const database = await temporaryDatabase()
  const started = start(await freePort(), { DATABASE_URL: database.url })
  expect(await tablesAt(await answering(started))).toEqual(DEMO)
  interrupt(started)
  await started.ended
  const client = new pg.Client(database.url)
  await client.connect()
  expect((await client.query('select from data_table')).rowCount).toBe(DEMO.length)
  await client.end()
  await database.drop()
})
