import { execFile } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { deskSchema, type Desk } from '@dime-gate/contract/desk'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from './free-port'
import { startServer, stopServer } from './server-process'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'dime-gate-backup-'))
})
afterAll(() => rm(folder, { recursive: true }))

const run = (program: string, file: string, url: string) => promisify(execFile)(process.execPath, ['tools/run.mjs', `tools/${program}.ts`, file], { env: { ...process.env, DATABASE_URL: url } })

/** What a server on the database tells, at its first look and once its runs have ended. */
async function served<Result>(url: string, demo: 'on' | 'off', look: (address: string, desk: Desk) => Promise<Result>): Promise<Result> {
  const port = await freePort()
  const server = await startServer(url, port, { DEMO: demo })
  try {
    const address = `http://127.0.0.1:${port}/api/v1`
    const desk = async () => deskSchema.parse(await (await fetch(`${address}/desk`)).json())
    // By how many records a run would come out otherwise is counted beside all else, and told once it is known.
    const isComing = ({ runs, fresh }: Desk) => runs.some(({ state }) => state === 'under way') || Object.values(fresh).some(({ problem, otherwise }) => problem === null && otherwise === null)
    while (isComing(await desk())) await new Promise((resolve) => setTimeout(resolve, 50))
    return await look(address, await desk())
  } finally {
    await stopServer(server)
  }
}

test('a backup taken while the product runs is the same product elsewhere', async () => {
  const [here, there] = [await temporaryDatabase(), await temporaryDatabase()]
  try {
    const file = join(folder, 'all.backup')
    const labelled = async (address: string, { runs }: Desk) => Promise.all(runs.map(async ({ id }) => (await fetch(`${address}/runs/${id}/labelled.csv`)).text()))
    const before = await served(here.url, 'on', async (address, desk) => {
      await run('backup', file, here.url)
      return { desk, files: await labelled(address, desk) }
    })
    expect([before.desk.tables.length, before.files.length]).toEqual([8, 3])
    await run('restore', file, there.url)
    const after = await served(there.url, 'on', async (address, desk) => ({ desk, files: await labelled(address, desk) }))
    expect(after).toEqual(before)
    await expect(run('restore', file, there.url)).rejects.toThrow(/not empty/)
    await expect(run('backup', file, here.url)).rejects.toThrow(/There is a file/)
  } finally {
    await here.drop()
    await there.drop()
  }
}, 120_000)

test('what is no backup changes nothing, and says so', async () => {
  const { url, drop } = await temporaryDatabase()
  try {
    const file = join(folder, 'other.txt')
    await writeFile(file, 'not a backup')
    await expect(run('restore', file, url)).rejects.toThrow(/pg_restore did not end well/)
    await expect(run('restore', join(folder, 'nowhere'), url)).rejects.toThrow(/There is no file/)
  } finally {
    await drop()
  }
}, 60_000)
