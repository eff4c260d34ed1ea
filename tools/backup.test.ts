import { execFile } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { deskSchema, type Desk } from '@dime-gate/contract/desk'
import { tableSchema } from '@dime-gate/contract/table'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from './free-port'
import { startServer, stopServer } from './server-process'

/** Of a table with a figure, a gate, two runs, an expectation and a settled exception; written by the version before runs kept their landings. */
const OLDER = join('tools', 'testing', 'of-an-older-version.backup')

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

test('a backup of an older version is restored, and brought up to date by the next start: nothing of it is another', async () => {
  const { url, drop } = await temporaryDatabase()
  try {
    await run('restore', OLDER, url)
    await served(url, 'off', async (address, { tables, gates, runs, expected, fresh }) => {
      expect([tables.map(({ name, records }) => [name, records]), gates.map(({ name }) => name)]).toEqual([[['Trees', 5]], ['Decay band']])
      expect(runs.map(({ id, number, labels, counts }) => [id, number, labels.map(({ records }) => records), counts!.held])).toEqual([[2, 2, [0, 1, 2], 2], [1, 1, [1, 1, 1], 2]])
      expect([expected[2], fresh[2]]).toMatchObject([{ of: 1, missed: 0 }, { otherwise: 0 }])
      const get = async (path: string) => (await fetch(`${address}${path}`)).json()
      expect(await get('/runs/1/against/2')).toMatchObject({ moves: [{ from: { label: 'Sound' }, to: { label: 'Failing' }, records: 1 }] })
      const { columns } = tableSchema.parse(await get(`/tables/${tables[0]!.id}`))
      expect(((await get(`/runs/2/groups/${columns.find(({ name }) => name === 'Ward')!.id}`)) as { groups: object[] }).groups).toMatchObject([{ value: 'Abbey', records: 2, labels: [0, 1, 1] }, { value: 'Castle', held: 2 }, { value: 'Quayside', labels: [0, 0, 1] }])
      expect(await get('/review/runs/2/records/2')).toMatchObject({ state: 'settled', mark: { note: 'seen', by: 'Ilo' } })
      expect((await (await fetch(`${address}/runs/1/labelled.csv`)).text()).split('\r\n').slice(1, 3)).toEqual(['T1,10,Abbey,Sound,labelled,< 20', 'T2,20,Abbey,Watch,labelled,[20..40)'])
      // It goes on from there.
      const again = await fetch(`${address}/runs/2/again`, { method: 'POST', body: JSON.stringify({ as: 'now' }) })
      expect([again.status, ((await again.json()) as { number: number }).number]).toEqual([201, 3])
    })
  } finally {
    await drop()
  }
}, 60_000)

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
