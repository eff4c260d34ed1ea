import { violationsOn } from './testing/axe'
import { click, type DimeGate, eventually, find, openDimeGate } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const { press, path, offers, focused } = {
  press: (name: string) => gate.page.keyboard.press(name as 'Enter'),
  path: async () => new URL(gate.page.url()).pathname,
  offers: () => gate.page.$$eval('.finder [role=option] .words', (all) => all.map((one) => one.textContent!)),
  focused: () => gate.page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? ''),
}
const open = (at: string) => gate.page.goto(gate.address + at, { waitUntil: 'networkidle0' })
async function look(): Promise<void> {
  await press('/')
  await eventually(focused, 'What are you looking for?')
}

test('a gate is found by a name with a slip in it, and gone to', async () => {
  await open('/tables/1')
  await look()
  await gate.page.keyboard.type('fekling')
  await eventually(async () => (await offers())[0], 'Felling decision')
  await press('Enter')
  await eventually(async () => /^\/gates\/\d+$/.test(await path()), true)
  await find(gate.page, '.stream')
})

test('what can be done here is found, with its key, and done', async () => {
  await look()
  const all = await offers()
  expect(all).toEqual(expect.arrayContaining(['Add a rule', 'Keep a run', 'Night, or paper']))
  expect(all).not.toContain('Remove the rule')
  await gate.page.keyboard.type('add rule')
  await eventually(offers, ['Add a rule'])
  expect(await gate.page.$eval('.finder [role=option] kbd', (one) => one.textContent)).toBe('N')
  await press('Enter')
  await eventually(focused, 'What it looks at')
  await press('Escape')
})

test('where one was last comes before other places', async () => {
  await open('/tables/3')
  await find(gate.page, '[role=grid]')
  await look()
  const places = () => gate.page.$$eval('.finder [role=option]:not(:has(.act)) .words', (all) => all.map((one) => one.textContent!))
  await eventually(async () => (await places()).slice(0, 2), ['Species', 'Felling decision'])
  expect(await violationsOn(gate.page)).toEqual([])
  await press('Escape')
  await eventually(async () => (await gate.page.$('.finder [role=option]')) === null, true)
})

test('a record is found by who it is, and gone to', async () => {
  await open('/tables/3')
  await look()
  await gate.page.keyboard.type('0934')
  await eventually(async () => (await offers())[0], '0934')
  await press('Enter')
  await eventually(path, '/tables/1')
  await find(gate.page, '::-p-text(0934)')
  await eventually(async () => (await gate.page.$$eval('[role=grid] [role=row]', (all) => all.filter((row) => row.textContent!.includes('0934')).length)), 1)
})

test('single keys can be switched off, and are not shown then; with Ctrl everything is found all the same', async () => {
  await open('/tables/1')
  await find(gate.page, '[role=grid]')
  const shown = () => gate.page.$$eval('main kbd', (all) => all.filter((one) => (one as HTMLElement).offsetParent !== null).length)
  expect(await shown()).toBeGreaterThan(0)
  await look()
  await gate.page.keyboard.type('single keys')
  await press('Enter')
  await eventually(shown, 0)
  await press('n')
  await press('/')
  expect(await gate.page.$('.v-overlay--active.v-dialog')).toBeNull()
  await gate.page.reload({ waitUntil: 'networkidle0' })
  expect(await shown()).toBe(0)
  await gate.page.keyboard.down('Control')
  await press('/')
  await gate.page.keyboard.up('Control')
  await eventually(focused, 'What are you looking for?')
  await gate.page.keyboard.type('single keys')
  await press('Enter')
  await eventually(async () => (await shown()) > 0, true)
})

test('what is not there is said', async () => {
  await click(gate.page, '::-p-text(Find)')
  await eventually(focused, 'What are you looking for?')
  await gate.page.keyboard.type('xyzzy')
  await find(gate.page, '::-p-text(Nothing is called so)')
})
