import { askAt, bringIn } from '../server/testing/bring-in'
import { bandCounts, choose, click, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const total = async () => (await bandCounts(gate.page)).reduce((sum, [, records]) => sum + records, 0)
const bind = async (table: string | null, column: string) => {
  await click(gate.page, '[data-input=Decay]')
  if (table) await choose(gate.page, '.v-menu .v-select', table)
  await click(gate.page, `.choice::-p-text(${column})`)
}

test('one gate stands on two tables, whose columns have other names; Back leads to the first', async () => {
  await open('/gates/1')
  await eventually(total, 1209)
  await bind('Climber course', 'Attendance')
  await eventually(total, 64)
  expect(new URL(gate.page.url()).searchParams.get('on')).toBe('2')
  expect(await textOf(gate.page, '.bound b')).toBe('Attendance (%)')
  await gate.page.goBack({ waitUntil: 'networkidle0' })
  await eventually(total, 1209)
  // Without a table in the address it is the one that was bound last.
  await open('/gates/1')
  await eventually(total, 64)
})

test('another column of the same table can stand for the input, and that can be taken back', async () => {
  await open('/gates/1?on=1')
  await eventually(total, 1209)
  await bind(null, 'Trunk')
  await eventually(() => textOf(gate.page, '.bound b'), 'Trunk (cm)')
  await eventually(async () => (await total()) === 1209, false)
  await gate.page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await gate.page.keyboard.press('u')
  await eventually(() => textOf(gate.page, '.bound b'), 'Decay (%)')
  await eventually(total, 1209)
})

test('a run says which column stood for the input, and stays what it is after the gate is bound otherwise', async () => {
  await open('/gates/1?on=2')
  await click(gate.page, '::-p-text(Keep a run)')
  // A tray that something is expected of is there, empty or not.
  await find(gate.page, '.run [data-expected]')
  const tubes = () => gate.page.$$eval('[data-tube] .records', (all) => all.map((one) => (one as HTMLElement).innerText))
  const kept = await tubes()
  const address = new URL(gate.page.url()).pathname
  expect(await textOf(gate.page, '.about')).toMatch(/Climber course.*where Attendance stands for Decay/)
  await open('/gates/1?on=2')
  await bind(null, 'Rescue drill')
  await eventually(() => textOf(gate.page, '.bound b'), 'Rescue drill (s)')
  await eventually(() => textOf(gate.page, '[data-state=draft]'), 'same as version 1')
  await open(address)
  expect(await textOf(gate.page, '.about')).toMatch(/where Attendance stands for Decay/)
  await eventually(tubes, kept)
})

test('a binding that another tab has changed is not run unseen', async () => {
  await open('/gates/1?on=2')
  await eventually(() => textOf(gate.page, '.bound b'), 'Rescue drill (s)')
  const other = await gate.newPage('/gates/1?on=2')
  await click(other, '[data-input=Decay]')
  await click(other, '.choice::-p-text(Attendance)')
  await eventually(() => textOf(other, '.bound b'), 'Attendance (%)')
  await eventually(() => textOf(other, '[data-state=draft]'), 'same as version 1')
  await other.close()
  await gate.page.bringToFront()
  await click(gate.page, '::-p-text(Keep a run)')
  expect(await textOf(gate.page, '.keeping')).toMatch(/changed since this page last saw it/)
  await click(gate.page, '::-p-text(Take the other)')
  await eventually(() => textOf(gate.page, '.bound b'), 'Attendance (%)')
})

test('a version that somebody else has moved on from is told with the ways on', async () => {
  await open('/gates/1?on=1')
  await type(gate.page, '[data-cut="1"] input', '26')
  await gate.page.keyboard.press('Enter')
  await eventually(() => textOf(gate.page, '[data-state=draft]'), 'draft after version 1')
  const other = await gate.newPage('/gates/1?on=1')
  await type(other, '[data-cut="1"] input', '27')
  await other.keyboard.press('Enter')
  await eventually(() => textOf(other, '[data-state=draft]'), 'draft after version 1')
  await other.close()
  await gate.page.bringToFront()
  await click(gate.page, '::-p-text(Set version 2)')
  expect(await textOf(gate.page, '.keeping')).toMatch(/changed elsewhere, once/)
  await click(gate.page, '::-p-text(Take the other)')
  await eventually(() => gate.page.$eval('[data-cut="1"] input', (input) => (input as HTMLInputElement).value), '27')
  await click(gate.page, '::-p-text(Set version 2)')
  await eventually(() => textOf(gate.page, '[data-state=draft]'), 'same as version 2')
})

test('a run of many records tells how far it is, and can be cancelled', async () => {
  const text = `Marks\n${Array.from({ length: 400_000 }, (_, at) => at % 90).join('\n')}\n`
  const table = await bringIn({ ask: askAt(gate.address) }, 'Many marks', text)
  await open('/gates/1?on=1')
  await bind('Many marks', 'Marks')
  await eventually(total, 400_000)
  await click(gate.page, '::-p-text(Keep a run)')
  await eventually(async () => /of 400,000 records decided/.test(await textOf(gate.page, '.under-way')), true)
  await click(gate.page, '::-p-text(Cancel this run)')
  await eventually(() => textOf(gate.page, '.bound b'), 'Marks')
  const desk = (await (await fetch(`${gate.address}/api/v1/desk`)).json()) as { runs: { tableId: number }[] }
  expect(desk.runs.filter(({ tableId }) => tableId === table.id)).toEqual([])
})

test('a run that was under way when the server was stopped is told as that', async () => {
  await click(gate.page, '::-p-text(Keep a run)')
  await find(gate.page, '.under-way')
  const address = new URL(gate.page.url()).pathname
  await gate.restartServer()
  await open(address)
  expect(await textOf(gate.page, '.under-way')).toMatch(/The server was stopped while this run was under way/)
})
