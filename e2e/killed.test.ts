import type { Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import pg from 'pg'
import { chooseFile, click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

/** The demo's crews, of which nothing is looked at by a gate. */
const CREWS = '/tables/6'
const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const cell = (row: number, column: number) => textOf(gate.page, `#cell-${row}-${column}`)
const crews = async () => (await (await fetch(`${gate.address}/api/v1/tables/6`)).json()) as { version: number; records: number }
/** A file that could not go in while the server was away is looked at once more when it is back: only then. */
const mayGoOn = () => gate.page.$eval('.incoming', (page) => !page.querySelector('.notice[role=alert]') && !page.querySelector<HTMLButtonElement>('.v-btn.primary')!.disabled)

/** The server dies while `work` waits for the table in its database, and comes back. */
async function killedDuring(work: () => Promise<void>, meanwhile: () => Promise<void>): Promise<void> {
  const letGo = await gate.holdRecords(6)
  await work()
  await new Promise((resolve) => setTimeout(resolve, 700))
  await gate.killServer()
  await letGo()
  await meanwhile()
  await gate.restartServer()
}

test('a server that is killed in the middle of a correction: the page says that it is not kept yet, and keeps it once', async () => {
  const { page } = gate
  await open(CREWS)
  const [before, { version }] = [await cell(1, 3), await crews()]
  await killedDuring(
    async () => {
      await (await find(page, '#cell-1-3')).click()
      await page.keyboard.type('Elsewhere')
      await page.keyboard.press('Enter')
    },
    async () => {
      await eventually(() => textOf(page, '.kept'), 'not kept yet: waiting for the server')
      // What was typed stands where it was typed.
      expect(await cell(1, 3)).toBe('Elsewhere')
    },
  )
  await eventually(() => textOf(page, '.kept'), 'kept')
  expect(await crews()).toMatchObject({ version: version + 1 })
  await open(CREWS)
  expect([before, await cell(1, 3)]).toEqual([before, 'Elsewhere'])
  expect(before).not.toBe('Elsewhere')
})

test('in the middle of adding a record: it is added once', async () => {
  const { page } = gate
  await open(CREWS)
  const { records } = await crews()
  await killedDuring(
    () => click(page, '::-p-text(Add a record)'),
    () => eventually(() => textOf(page, '.kept'), 'not kept yet: waiting for the server'),
  )
  await eventually(() => textOf(page, '.kept'), 'kept')
  expect(await crews()).toMatchObject({ records: records + 1 })
})

test('in the middle of a file that goes into a table: nothing of it is there, the page says so, and it can go in once more', async () => {
  const { page } = gate
  await open(CREWS)
  const before = await crews()
  const name = await cell(0, 0)
  await page.evaluate((first) => {
    const data = new DataTransfer()
    data.items.add(new File([`Name,Ropes\n${first},7\nOrlo Newby,2\n`], 'ropes.csv'))
    window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
  }, name)
  await find(page, '.plan')
  await eventually(mayGoOn, true)
  await killedDuring(
    () => click(page, '.incoming .v-btn.primary'),
    () => eventually(async () => /does not answer/.test(await textOf(page, '.incoming .notice[role=alert]')), true),
  )
  expect(await crews()).toMatchObject(before)
  await eventually(mayGoOn, true)
  await click(page, '.incoming .v-btn.primary')
  await find(page, '.name ::-p-text(Ropes)')
  expect(await crews()).toMatchObject({ version: before.version + 1, records: before.records + 1 })
})

test('in the middle of a file that becomes a table: no table is there, the page says so, and it can be brought in again', async () => {
  const { page } = gate
  await open('/')
  await chooseFile(
    page,
    await gate.file('many.csv', `Tree,Trunk\n${Array.from({ length: 400_000 }, (_, at) => `T${at},${at % 90}\n`).join('')}`),
  )
  await eventually(mayGoOn, true)
  await click(page, '::-p-text(Bring it in)')
  await new Promise((resolve) => setTimeout(resolve, 250))
  await gate.killServer()
  await eventually(async () => /does not answer/.test(await textOf(page, '.incoming .notice[role=alert]')), true)
  await gate.restartServer()
  const tables = async () =>
    ((await (await fetch(`${gate.address}/api/v1/desk`)).json()) as { tables: { name: string }[] }).tables.map((table) => table.name)
  expect(await tables()).not.toContain('many')
  await eventually(mayGoOn, true)
  await click(page, '::-p-text(Bring it in)')
  await find(page, 'h1::-p-text(many)')
  expect(await tables()).toContain('many')
})

describe('in the middle of several runs', () => {
  const GATES = ['Thin', 'Middling', 'Thick']
  let many: Table
  const stateOf = (name: string) => textOf(gate.page, `[data-plan="${name} on many"] .state`)
  const ask = async <Answer>(path: string) => (await (await fetch(`${gate.address}/api/v1${path}`)).json()) as Answer
  const send = async <Answer>(path: string, body: object) => (await (await fetch(`${gate.address}/api/v1${path}`, { method: 'POST', body: JSON.stringify(body) })).json()) as Answer
  const runsOfMany = async () => (await ask<{ runs: Run[] }>('/desk')).runs.filter(({ tableName }) => tableName === 'many')
  /** What lies in the database of runs that are not done. */
  const leftovers = async () => {
    const client = new pg.Client(gate.databaseUrl)
    await client.connect()
    const { rows } = await client.query<{ name: string }>(`select relname as name from pg_class join pg_namespace n on n.oid = relnamespace where nspname = 'runs' and relkind = 'r' and not exists (select from run where state = 'done' and 'r' || id = relname)`)
    await client.end()
    return rows
  }

  beforeAll(async () => {
    const { tables } = await ask<{ tables: { id: number; name: string }[] }>('/desk')
    many = await ask<Table>(`/tables/${tables.find(({ name }) => name === 'many')!.id}`)
    const trunk = many.columns.find(({ name }) => name === 'Trunk')!.id
    for (const name of GATES) {
      const draft = plainScale(name, givenNumber('Trunk', 'cm'), [{ at: '30', owner: 'above' }], [band('below'), band('above')])
      const { id } = await send<Gate>('/gates', { draft, binding: { tableId: many.id, inputs: { Trunk: { column: trunk } } } })
      await send(`/gates/${id}/versions`, { seen: 1 })
    }
  })

  /** Runs them all, and lets `down` happen once one of them is well under way; then all is told as what it is, whole or absent, and can be run again. */
  async function brokenOff(down: () => Promise<void>, words: RegExp): Promise<void> {
    const { gates } = await ask<{ gates: { id: number; name: string }[] }>('/desk')
    const before = (await runsOfMany()).length
    await open(`/run-gates?gates=${GATES.map((name) => gates.find((one) => one.name === name)!.id).join()}&tables=${many.id}`)
    for (const name of GATES) await eventually(() => stateOf(name), 'ready')
    await click(gate.page, '.apply .head .primary')
    await eventually(async () => (await Promise.all(GATES.map(stateOf))).filter((state) => state === 'ready').length, 0)
    await down()
    const ended = async () => (await Promise.all(GATES.map(stateOf))).every((state) => words.test(state) || state.endsWith('is done'))
    await eventually(ended, true)
    const states = await Promise.all(GATES.map(stateOf))
    expect(states.some((state) => words.test(state))).toBe(true)
    // What the page says of each is what there is of it.
    const runs = (await runsOfMany()).slice(0, -before || undefined)
    expect(runs.map(({ state }) => state).toSorted()).toEqual(states.map((state) => (state.endsWith('is done') ? 'done' : 'failed')).toSorted())
    expect(await leftovers()).toEqual([])
    for (const run of runs) {
      const labels = run.labels.reduce((sum, { records }) => sum + records, 0)
      expect(run.state === 'done' ? labels : run.counts).toBe(run.state === 'done' ? many.records : null)
    }
    // They run again, those that had been broken off too.
    await open(`/run-gates?gates=${GATES.map((name) => gates.find((one) => one.name === name)!.id).join()}&tables=${many.id}`)
    for (const name of GATES) await eventually(() => stateOf(name), 'ready')
    await click(gate.page, '.apply .head .primary')
    for (const name of GATES) await eventually(async () => (await stateOf(name)).endsWith('is done'), true)
  }

  test('the server dies: each run is whole or absent, and the page says which', () => brokenOff(async () => {
    await gate.killServer()
    await eventually(async () => /does not answer/.test(await textOf(gate.page, 'body')), true)
    await gate.restartServer()
  }, /The server was stopped while this run was under way/))

  test('the database goes away: the same', () => brokenOff(async () => {
    const back = await gate.takeDatabaseAway()
    await eventually(async () => /database/.test(await textOf(gate.page, 'body')), true)
    await back()
  }, /The database went away while this run was under way|The server was stopped while this run was under way/))
})
