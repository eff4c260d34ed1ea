import pg from 'pg'
import { violationsOn } from './testing/axe'
import { click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const ask = async <Answer>(path: string) => (await (await fetch(`${gate.address}/api/v1${path}`)).json()) as Answer
const open = async (name: string) => {
  const { gates } = await ask<{ gates: { id: number; name: string }[] }>('/desk')
  await gate.page.goto(`${gate.address}/gates/${gates.find((one) => one.name === name)!.id}`, { waitUntil: 'networkidle0' })
  await find(gate.page, '[data-cell=count], [data-count], [data-tube]')
}
const shown = () => textOf(gate.page, '.showing pre')

test('a gate is shown in plain words first, and goes out in every language', async () => {
  await open('Felling decision')
  await gate.page.keyboard.press('a')
  await eventually(async () => (await shown()).startsWith('Felling decision'), true)
  expect(await shown()).toContain('1. Fell: Band is Failing and Stands by is not verge.')
  // Once it does not fade in any more.
  await eventually(() => gate.page.evaluate(() => document.getAnimations().filter(({ playState }) => playState === 'running').length), 0)
  expect(await violationsOn(gate.page)).toEqual([])
  for (const [format, begins] of [['sql', 'SELECT *'], ['formula', '='], ['feel', 'if '], ['dmn', '<?xml'], ['json', '{'], ['http', 'curl ']] as const) {
    await click(gate.page, `.showing [data-side=${format}]`)
    await eventually(async () => (await shown()).startsWith(begins), true)
  }
})

test('the SQL that is shown counts what the bench counts', async () => {
  await open('Felling decision')
  const bench = await gate.page.$$eval('[data-stop] [data-cell=count]', (all) => all.map((one) => Number(one.textContent!.replaceAll(/\D/g, ''))))
  await gate.page.keyboard.press('a')
  await click(gate.page, '.showing [data-side=sql]')
  await eventually(async () => (await shown()).startsWith('SELECT'), true)
  const written = await shown()
  const table = await ask<{ id: number; columns: { id: number; name: string; feel: string | null; drawn: object | null }[] }>('/tables/1')
  const given = table.columns.filter(({ feel, drawn }) => feel === null && drawn === null)
  const database = new pg.Client(gate.databaseUrl)
  await database.connect()
  const named = `(select ${given.map(({ id, name }) => `c${id} as "${name}"`).join(', ')} from records.t1 where until is null) as "Street trees"`
  const { rows } = await database.query<{ label: string | null; records: number }>(`select "Label" as label, count(*)::int as records from (${written.replace('FROM "Street trees"', `FROM ${named}`)}) l group by 1`)
  await database.end()
  const counts = new Map(rows.map(({ label, records }) => [label, records]))
  const [held, first, second, third, rest] = bench as [number, number, number, number, number]
  expect([counts.get(null) ?? 0, counts.get('Fell'), counts.get('Climb and look'), counts.get('Next round')]).toEqual([held, first + second, third, rest])
})

test('gates of other forms are shown too, by what the page calls their parts', async () => {
  for (const [name, says] of [['Decay band', 'What counts is where Decay lies'], ['Leaf group', 'What counts:'], ['Hazard grid', 'What counts:']] as const) {
    await open(name)
    await click(gate.page, 'header ::-p-text(Show as)')
    await eventually(async () => (await shown()).includes(says), true)
    await gate.page.keyboard.press('Escape')
  }
})
