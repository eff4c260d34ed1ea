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
const mayGoOn = () => gate.page.$eval('.incoming .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled)

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
