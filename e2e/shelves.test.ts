import { chooseFile, click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

/** Tables of the demo that lie before those that the tests are about. */
const OTHERS = ['Wards', 'Office indicators', 'Crews', 'Night course', 'Resident reports', 'Species']

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const names = (attribute: string) => gate.page.$$eval(`[data-${attribute}]`, (all, key) => all.map((one) => one.getAttribute(`data-${key}`)), attribute)

const removeRuns = async () => {
  await open('/runs')
  for (let left = await gate.page.$$('[aria-label^=Remove]'); left.length > 0; left = await gate.page.$$('[aria-label^=Remove]')) {
    await click(gate.page, '[aria-label^=Remove]')
    await eventually(async () => (await gate.page.$$('[aria-label^=Remove]')).length, left.length - 1)
  }
}

test('a table is renamed where it lies', async () => {
  await open('/tables')
  await click(gate.page, '[aria-label="Rename Climber course"]')
  await gate.page.keyboard.type('Spring course')
  await gate.page.keyboard.press('Enter')
  await eventually(() => names('table'), [...OTHERS, 'Spring course', 'Street trees'])
  await open('/tables')
  await eventually(() => names('table'), [...OTHERS, 'Spring course', 'Street trees'])
})

test('a table is copied, and a run is given a name', async () => {
  await click(gate.page, '[aria-label="Copy Spring course"]')
  await eventually(async () => (await names('table')).includes('Spring course, copy'), true)
  await click(gate.page, '[aria-label="Remove Spring course, copy"]')
  await eventually(() => names('table'), [...OTHERS, 'Spring course', 'Street trees'])
  await open('/runs')
  await click(gate.page, '[aria-label="Rename Decay band, run 1"]')
  await gate.page.keyboard.type('Before the storm')
  await gate.page.keyboard.press('Enter')
  await eventually(() => textOf(gate.page, '[data-run="Decay band 1"] .name'), 'Before the storm')
  await click(gate.page, '[data-run="Decay band 1"]')
  await eventually(() => textOf(gate.page, 'h1'), 'Before the storm')
})

test('what nothing stands on is removed, and taken back', async () => {
  await removeRuns()
  await open('/tables')
  await click(gate.page, '[aria-label="Remove Night course"]')
  await eventually(async () => (await names('table')).includes('Night course'), false)
  await click(gate.page, '::-p-text(Take it back)')
  await eventually(() => names('table'), [...OTHERS, 'Spring course', 'Street trees'])
  await click(gate.page, '[aria-label="Remove Street trees"]')
  await eventually(() => textOf(gate.page, '.v-snackbar'), 'This table is needed by “Ward” of “Resident reports”, “Value” of “Office indicators”, “Trees” of “Wards” and 12 more. Remove those first. Close')
  expect(await names('table')).toEqual([...OTHERS, 'Spring course', 'Street trees'])
  await open('/gates')
  await click(gate.page, '[aria-label="Remove Felling decision"]')
  await eventually(() => textOf(gate.page, '.v-snackbar'), 'This gate is needed by “Felling decision” of “Street trees”. Remove that first. Close')
})

test('a gate is copied, and opens on the same table', async () => {
  await open('/gates')
  await click(gate.page, '[aria-label="Copy Decay band"]')
  await eventually(async () => (await names('gate'))[0], 'Decay band, copy')
  await click(gate.page, '[data-gate="Decay band, copy"]')
  await find(gate.page, '[data-post="0"]')
  expect(await textOf(gate.page, '.on')).toBe('on Street trees, 1,240 records')
})

test('what was removed does not come back with the demo', async () => {
  await open('/gates')
  await click(gate.page, '[aria-label="Remove Leaf group"]')
  await eventually(async () => (await names('gate')).includes('Leaf group'), false)
  const left = await names('gate')
  await gate.restartServer()
  await open('/gates')
  await eventually(() => names('gate'), left)
})

test('a table of one’s own says which day counts as today, and can have today', async () => {
  await open('/')
  await chooseFile(gate.page, await gate.file('mine.csv', 'Points\n1\n'))
  await click(gate.page, '::-p-text(Bring it in)')
  await eventually(async () => /Here 2 Mar 2026 counts as today, for this table too/.test(await textOf(gate.page, '.v-snackbar')), true)
  await click(gate.page, '::-p-text(Make it today)')
  const today = await gate.page.evaluate(() => new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }).format(new Date()))
  await eventually(async () => (await textOf(gate.page, '.top .pill')).replaceAll('\u00a0', ' '), `as of ${today}`)
})

test('a dialog that closes gives the focus back to where it was opened', async () => {
  await click(gate.page, '::-p-text(New gate)')
  await find(gate.page, '[role=dialog]')
  await click(gate.page, '[role=dialog] ::-p-text(Cancel)')
  await eventually(() => gate.page.evaluate(() => (document.activeElement as HTMLElement).innerText), 'New gate\nN')
})

test('a shelf that could not be laid out says so, and is laid out by itself once the server is back', async () => {
  await open('/runs')
  await gate.stopServer()
  await click(gate.page, 'nav a[href="/tables"]')
  await find(gate.page, '.away')
  expect(await textOf(gate.page, '.notice.problem')).toMatch(/laid out once that is back/)
  await gate.restartServer()
  await find(gate.page, '::-p-text(New gate)')
  await eventually(async () => (await gate.page.$('.away')) === null && (await gate.page.$('.notice.problem')) === null, true)
})
