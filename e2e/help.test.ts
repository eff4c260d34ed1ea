import { violationsOn } from './testing/axe'
import { click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = (at: string) => gate.page.goto(gate.address + at, { waitUntil: 'networkidle0' })

test('one sheet has the keys of the page, and closes', async () => {
  await open('/review')
  await find(gate.page, '[role=listbox]')
  await gate.page.keyboard.press('?')
  await find(gate.page, '[role=dialog] ::-p-text(Settle)')
  expect(await violationsOn(gate.page)).toEqual([])
  await gate.page.keyboard.press('Escape')
  await eventually(() => gate.page.$('.v-overlay--active.v-dialog').then((one) => one === null), true)
})

test('help opens at what is on the screen, leads on within itself, and is found by its name; nothing outside is asked', async () => {
  const asked: string[] = []
  gate.page.on('request', (request) => asked.push(new URL(request.url()).host))
  await open('/gates/4?on=1')
  await find(gate.page, '[data-tray]')
  await click(gate.page, 'header.top ::-p-text(Help)')
  await eventually(async () => gate.page.url().slice(gate.address.length), '/help/using#a-match-list')
  await eventually(() => gate.page.$eval('#a-match-list', (head) => Math.abs(head.getBoundingClientRect().top) < 60), true)
  await click(gate.page, '.text ::-p-text(Statuses and findings)')
  await eventually(() => textOf(gate.page, '.text h1'), 'Statuses and findings')
  expect(await violationsOn(gate.page)).toEqual([])
  await gate.page.goBack()
  await eventually(() => textOf(gate.page, '.text h1'), 'Using Dime Gate')
  await gate.page.keyboard.press('/')
  await find(gate.page, '.finder input:focus')
  await gate.page.keyboard.type('help expressions')
  await gate.page.keyboard.press('Enter')
  await eventually(() => textOf(gate.page, '.text h1'), 'Expressions')
  expect([...new Set(asked)]).toEqual([new URL(gate.address).host])
})

test('the word for a status says what it means, with the focus on it as with the pointer', async () => {
  await open('/runs/1')
  await find(gate.page, '[data-tube=held]')
  await gate.page.focus('[data-tube=held]')
  await gate.page.keyboard.press('Tab')
  await gate.page.keyboard.down('Shift')
  await gate.page.keyboard.press('Tab')
  await gate.page.keyboard.up('Shift')
  await find(gate.page, '[role=tooltip] ::-p-text(A value that is missing)')
  expect(await gate.page.$eval('[data-tube=held]', (tube) => document.getElementById(tube.getAttribute('aria-describedby')!)?.textContent)).toContain('They have none until it is known')
  expect(await violationsOn(gate.page)).toEqual([])
  await gate.page.keyboard.press('Escape')
  await eventually(async () => (await gate.page.$('[role=tooltip]')) === null, true)
  await gate.page.hover('[data-tube=unplaced]')
  await find(gate.page, '[role=tooltip] ::-p-text(does not say what such a record gets)')
})
