import { spawn } from 'node:child_process'
import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort } from '../tools/free-port'
import { shell } from '../tools/shell'
import type { Figure } from './figure'

const [FIRST, SECOND] = [90, 10]

export const startFromClone: Figure = {
  name: 'npm start: fresh clone with packages cached, and the second start',
  reach: `page answers in ${FIRST} s, then in ${SECOND} s`,
  async measure() {
    const folder = await mkdtemp(join(tmpdir(), 'dime-gate-clone-'))
    try {
      await shell('git', ['clone', '--quiet', '.', join(folder, 'clone')])
      const first = await startOnce(join(folder, 'clone'))
      const second = await startOnce(join(folder, 'clone'))
      return { measured: `${first.toFixed(1)} s, then ${second.toFixed(1)} s`, ok: first <= FIRST && second <= SECOND }
    } finally {
      await removeElsewhere(join(folder, 'clone', '.data', 'database.json'))
      await rm(folder, { recursive: true, force: true })
    }
  },
}

/** The clone's data lies elsewhere where the database's user may not enter the clone. */
async function removeElsewhere(note: string): Promise<void> {
  const place = await readFile(note, 'utf8').catch(() => null)
  if (place) await rm((JSON.parse(place) as { folder: string }).folder, { recursive: true, force: true })
}

/** Seconds from the command to the page that answers; then Ctrl-C, and all of it has to end. */
async function startOnce(folder: string): Promise<number> {
  const started = performance.now()
  const { DATABASE_URL: _, ...environment } = process.env
  const child = spawn('npm', ['start'], { cwd: folder, detached: true, stdio: ['ignore', 'pipe', 'inherit'], env: { ...environment, PORT: String(await freePort()) } })
  const ended = new Promise((resolve) => child.once('exit', resolve))
  const address = await new Promise<string>((ready, failed) => {
    let said = ''
    child.stdout.on('data', (text: Buffer) => {
      said += text.toString()
      const found = /http:\/\/\S+/.exec(said)
      if (found) ready(found[0])
    })
    child.once('exit', () => failed(new Error(`npm start ended: ${said}`)))
  })
  const response = await fetch(address)
  const seconds = (performance.now() - started) / 1000
  if (!response.ok) throw new Error(`${address} answers ${response.status}`)
  process.kill(-child.pid!, 'SIGINT')
  await ended
  return seconds
}
