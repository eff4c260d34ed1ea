import type { DecideAnswer } from '@dime-gate/contract/decide'
import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { readChart } from '@dime-gate/interchange/chart/read-chart'
import { writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { CHARTS, CONDITIONALS } from '@dime-gate/interchange/testing/as-people-write'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { choose, chooseFile, click, eventually, find, textOf } from './testing/dime-gate'

let gate: Demo
beforeAll(async () => {
  gate = await openDemo()
})
afterAll(() => gate.close())

const ask = <Answer>(path: string) => gate.ask<Answer>(path)
const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const put = (text: string) => gate.page.$eval('[aria-label="The text"]', (field, value) => {
  ;(field as HTMLTextAreaElement).value = value
  field.dispatchEvent(new Event('input', { bubbles: true }))
}, text)
/** Records of the trees with a decay in a range, as the database counts them. */
async function decayed(condition: string): Promise<number> {
  const { columns } = await ask<Table>('/tables/1')
  const { rows } = await gate.database.query<{ records: string }>(`select count(*) as records from records.t1 where until is null and ${condition.replaceAll('Decay', `c${columns.find(({ name }) => name === 'Decay')!.id}`)}`)
  return Number(rows[0]!.records)
}

test('a formula becomes rules beside what its author never saw, and then a gate that counts as SQL does', async () => {
  await open('/')
  await gate.page.keyboard.press('g')
  await find(gate.page, '[aria-label="The text"]')
  await choose(gate.page, '.became .v-select', 'Street trees')
  await put('=IF(Decay>=40;"Fell";IF(Decay>=12;"Climb";IF(Decay>=25;"Prop";"Leave")))')
  await eventually(async () => (await textOf(gate.page, '[data-became]')).includes('Climb: Decay'), true)
  await find(gate.page, '[data-became] .notes ::-p-text(never reached)')
  expect(await violationsOn(gate.page)).toEqual([])
  await click(gate.page, '::-p-text(Make it a gate)')
  await find(gate.page, '[data-rule], [data-band]')
  const counts = () => gate.page.$$eval('.form [data-cell=count]', (all) => all.map((one) => Number((one as HTMLElement).innerText.replaceAll(/\D/g, ''))))
  const fell = await decayed('Decay >= 40')
  await eventually(async () => (await counts()).includes(fell), true)
})

test('a chart with a line that cannot be read says which, and is taken once it is mended', async () => {
  await open('/bring-in-gate?on=1')
  await put('Decay\tBand\n40\tFailing\nsome\tWeak\n12\tWatch\n0\tSound')
  await click(gate.page, '.notes ::-p-text(Line 3)')
  expect(await gate.page.$eval('[aria-label="The text"]', (field) => { const { value, selectionStart, selectionEnd } = field as HTMLTextAreaElement; return value.slice(selectionStart, selectionEnd) })).toBe('some\tWeak')
  expect(await gate.page.$eval('.ways button', (button) => (button as HTMLButtonElement).disabled)).toBe(true)
  await put('Decay\tBand\n40\tFailing\n25\tWeak\n12\tWatch\n0\tSound')
  await eventually(() => gate.page.$eval('.ways button', (button) => (button as HTMLButtonElement).disabled), false)
  await click(gate.page, '::-p-text(Make it a gate)')
  await eventually(() => textOf(gate.page, '[data-band="Weak"] [data-cell=count]'), String(await decayed('Decay >= 25 and Decay < 40')))
})

/** Brings a text in for no table in particular, and asks the gate that it becomes for labels. */
async function labelsOf(text: string, records: readonly Readonly<Record<string, string | null>>[]): Promise<(string | null)[]> {
  await find(gate.page, '[aria-label="The text"]')
  await put(text)
  await eventually(() => gate.page.$eval('.ways button', (button) => (button as HTMLButtonElement).disabled), false)
  await gate.page.$eval('.ways button', (button) => (button as HTMLButtonElement).click())
  await eventually(() => gate.page.evaluate(() => (location.pathname === '/gates' ? '' : `${(document.querySelector('.bring') as HTMLElement | null)?.innerText}`)), '')
  const { gates } = await ask<{ gates: { id: number }[] }>('/desk')
  const id = Math.max(...gates.map((one) => one.id))
  const { draftVersion } = await ask<Gate>(`/gates/${id}`)
  await fetch(`${gate.address}/api/v1/gates/${id}/versions`, { method: 'POST', body: JSON.stringify({ seen: draftVersion, note: '' }) })
  const answer = await fetch(`${gate.address}/api/v1/gates/${id}/versions/1/decide`, { method: 'POST', body: JSON.stringify({ records }) })
  const decided = (await answer.json()) as DecideAnswer
  await fetch(`${gate.address}/api/v1/gates/${id}`, { method: 'DELETE' })
  await gate.page.evaluate(() => history.back())
  return decided.records.map(({ label }) => label)
}

test('forty nested conditionals, as different people write them, label by hand-worked labels', async () => {
  await open('/bring-in-gate')
  expect(CONDITIONALS.length).toBeGreaterThanOrEqual(40)
  for (const { text, known } of CONDITIONALS) expect([text, (await labelsOf(text, known.map(([values]) => values))).map((label) => label ?? '')]).toEqual([text, known.map(([, label]) => label)])
})

test('thirty charts, as different people write them, label by hand-worked labels', async () => {
  await open('/bring-in-gate')
  expect(CHARTS.length).toBeGreaterThanOrEqual(30)
  for (const { text, known } of CHARTS) {
    const { scale } = readChart(text, { name: 'Read' })
    expect([text, (await labelsOf(text, known.map(([value]) => ({ [scale!.on]: value })))).map((label) => label ?? '')]).toEqual([text, known.map(([, label]) => label)])
  }
})

test('gates that feed each other come all together, or not at all', async () => {
  const band = rulesGate([anInput('Decay', 'number')], [['Decay >= 40', 'Failing'], ['Decay < 40', 'Sound']], { name: 'Stem state' })
  const felling = rulesGate([anInput('Stem', 'text', { source: { kind: 'gate', gate: 'Stem state', outcome: null } })], [['Stem = "Failing"', 'fell']], { name: 'Stem felling' })
  const names = async () => (await ask<{ gates: { name: string }[] }>('/desk')).gates.map(({ name }) => name).filter((name) => name.startsWith('Stem'))
  const before = await names()
  await open('/bring-in-gate?on=1')
  await put(writeDmn({ conditions: [], gates: [band, felling] }))
  await find(gate.page, '::-p-text(Make 2 gates of it)')
  // Somebody else takes the second name in the meantime.
  await fetch(`${gate.address}/api/v1/gates`, { method: 'POST', body: JSON.stringify({ draft: { ...band, name: 'Stem felling' }, binding: null }) })
  await click(gate.page, '::-p-text(Make 2 gates of it)')
  await find(gate.page, '.notice.problem')
  await eventually(async () => (await names()).toSorted(), [...before, 'Stem felling'].toSorted())
  await open('/bring-in-gate?on=1')
  await put(writeDmn({ conditions: [], gates: [band, felling] }))
  // Of several, those that are wanted; what feeds one of them comes along.
  await click(gate.page, '[data-became="Stem state"] input')
  await find(gate.page, '[data-became="Stem state"] ::-p-text(which feeds another)')
  await click(gate.page, '[data-became="Stem felling 2"] input')
  await eventually(() => gate.page.$eval('.ways button', (button) => (button as HTMLButtonElement).disabled), true)
  expect(await violationsOn(gate.page)).toEqual([])
  await click(gate.page, '[data-became="Stem felling 2"] input')
  await click(gate.page, '::-p-text(Make 2 gates of it)')
  await eventually(async () => (await names()).toSorted(), [...before, 'Stem felling', 'Stem state', 'Stem felling 2'].toSorted())
})

test('two states of a gate side by side: what moves, which records, and by which rule on either side', async () => {
  const { gates } = await ask<{ gates: { id: number; name: string }[] }>('/desk')
  const { id } = gates.find(({ name }) => name === 'Decay band')!
  const { draft, draftVersion } = await ask<Gate>(`/gates/${id}`)
  if (draft.form !== 'scale') throw new Error('not a scale')
  await fetch(`${gate.address}/api/v1/gates/${id}/draft`, { method: 'PUT', body: JSON.stringify({ draft: { ...draft, cuts: draft.cuts.with(1, { at: '22', owner: 'above' }) }, seen: draftVersion }) })
  await open(`/compare?on=1&a=${encodeURIComponent(`gate ${id} 1`)}&b=${encodeURIComponent(`gate ${id} draft`)}`)
  const moved = await decayed('Decay >= 22 and Decay < 25')
  expect(moved).toBeGreaterThan(0)
  await eventually(() => textOf(gate.page, '[data-move]'), `Watch → Weak ${moved}`)
  expect(await textOf(gate.page, '.agree')).toMatch(new RegExp(`^${(1240 - moved).toLocaleString('en')} of 1,240 records agree`))
  await click(gate.page, '[data-record] [data-cell=label]')
  await eventually(() => gate.page.$$eval('[data-why]', (all) => all.map((one) => (one as HTMLElement).innerText.replaceAll(/\s+/g, ' '))), ['Decay band, version 1 Watch its band: Decay 12 to under 25', 'Decay band, as drafted Weak its band: Decay 22 to under 40'])
  expect(await violationsOn(gate.page)).toEqual([])
})

test('a gate beside a column: every record is either agreed on, or in a move', async () => {
  const { gates } = await ask<{ gates: { id: number; name: string }[] }>('/desk')
  const { columns } = await ask<Table>('/tables/1')
  await open(`/compare?on=1&a=${encodeURIComponent(`gate ${gates.find(({ name }) => name === 'Leaf group')!.id} 1`)}&b=${encodeURIComponent(`column ${columns.find(({ name }) => name === 'Ward')!.id}`)}`)
  await find(gate.page, '[data-move]')
  const records = await gate.page.$$eval('[data-move] b', (all) => all.reduce((sum, one) => sum + Number(one.textContent!.replaceAll(/\D/g, '')), 0))
  expect(records).toBe(1240)
})

test('a table whose records are thresholds and labels is a chart', async () => {
  const path = await gate.file('Wood chart.csv', 'Decay,Band\n40,Failing\n12,Watch\n0,Sound\n')
  await open('/')
  await chooseFile(gate.page, path)
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, 'h1::-p-text(Wood chart)')
  await open('/bring-in-gate?on=1')
  await click(gate.page, '::-p-text(From a table)')
  await click(gate.page, '.v-list-item ::-p-text(Wood chart)')
  await find(gate.page, '[data-became="Wood chart"]')
  await click(gate.page, '::-p-text(Make it a gate)')
  await eventually(() => textOf(gate.page, '[data-band="Watch"] [data-cell=count]'), String(await decayed('Decay >= 12 and Decay < 40')))
})
