import { click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const names = (attribute: string) => gate.page.$$eval(`[data-${attribute}]`, (all, key) => all.map((one) => one.getAttribute(`data-${key}`)), attribute)

test('a table is renamed where it lies', async () => {
  await open('/tables')
  await click(gate.page, '[aria-label="Rename Climber course"]')
  await gate.page.keyboard.type('Spring course')
  await gate.page.keyboard.press('Enter')
  await eventually(() => names('table'), ['Spring course', 'Street trees'])
  await open('/tables')
  await eventually(() => names('table'), ['Spring course', 'Street trees'])
})

test('what nothing stands on is removed, and taken back', async () => {
  await open('/tables')
  await click(gate.page, '[aria-label="Remove Spring course"]')
  await eventually(() => names('table'), ['Street trees'])
  await click(gate.page, '::-p-text(Take it back)')
  await eventually(() => names('table'), ['Spring course', 'Street trees'])
  await click(gate.page, '[aria-label="Remove Street trees"]')
  await eventually(() => textOf(gate.page, '.v-snackbar'), 'This table is needed by the gate “Decay band” and run 1 of “Decay band”. Remove those first. Close')
  expect(await names('table')).toEqual(['Spring course', 'Street trees'])
})

test('a gate is copied, and opens on the same table', async () => {
  await open('/gates')
  await click(gate.page, '[aria-label="Copy Decay band"]')
  await eventually(() => names('gate'), ['Decay band, copy', 'Decay band'])
  await click(gate.page, '[data-gate="Decay band, copy"]')
  await find(gate.page, '[data-post="0"]')
  expect(await textOf(gate.page, '.on')).toBe('on Street trees, 1,240 records')
})

test('what was removed does not come back with the demo', async () => {
  await open('/runs')
  await click(gate.page, '[aria-label="Remove Decay band, run 1"]')
  await eventually(() => names('run'), [])
  await open('/gates')
  for (const name of ['Decay band, copy', 'Decay band']) await click(gate.page, `[aria-label="Remove ${name}"]`)
  await eventually(() => names('gate'), [])
  await gate.restartServer()
  await open('/gates')
  expect(await textOf(gate.page, '.empty')).toMatch(/No gate yet/)
})
