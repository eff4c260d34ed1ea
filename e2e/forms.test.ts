import { readFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import type { Gate } from '@dime-gate/contract/gate'
import { tableSchema } from '@dime-gate/contract/table'
import type { Gate as GateDocument, ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber } from '@dime-gate/core/gate/scale-gate'
import { deskSchema } from '@dime-gate/contract/desk'
import { parse } from 'csv-parse/sync'
import { click, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
const gates = new Map<string, number>()
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
  const desk = deskSchema.parse(await (await fetch(`${gate.address}/api/v1/desk`)).json())
  for (const { id, name } of desk.gates) gates.set(name, id)
})
afterAll(() => gate.close())

const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const counts = () => gate.page.$$eval('[data-rule]:not([data-rule=held]) [data-cell=count]', (all) => all.map((one) => Number((one as HTMLElement).innerText.replaceAll(',', ''))))
const held = () => gate.page.$eval('[data-tray=held] .records', (one) => Number((one as HTMLElement).innerText))
const sum = (all: number[]) => all.reduce((total, one) => total + one, 0)
const labels = () => gate.page.$$eval('[role=rowgroup] [data-cell=label]', (all) => [...new Set(all.map((one) => (one as HTMLElement).innerText.trim()))])

const unplaced = () => gate.page.$eval('[data-tray=unplaced] .records', (one) => Number((one as HTMLElement).innerText))
const within = (selector: string) => gate.page.$$eval(`${selector} [data-cell=count]`, (all) => all.map((one) => Number((one as HTMLElement).innerText.replaceAll(',', ''))))

test.each([['Felling decision', '[data-rule]:not([data-rule=held], [data-rule=rest])'], ['Leaf group', '.tray'], ['Hazard grid', '[role=gridcell]']])('%s stands on the bench in its own form, with every record counted once', async (name, part) => {
  await open(`/gates/${gates.get(name)}`)
  const rest = async () => (name === 'Felling decision' ? (await counts()).at(-1)! : unplaced())
  await eventually(async () => sum(await within(part)) + (await held()) + (await rest()), 1240)
})

test('a rule lists what it takes, and what it would take alone', async () => {
  await open(`/gates/${gates.get('Felling decision')}`)
  await eventually(async () => (await counts())[1], 7)
  await click(gate.page, '[data-rule="1"] .caught')
  await eventually(labels, ['Fell'])
  expect(await textOf(gate.page, '.tab.here')).toBe('taken by rule 2 7')
  await click(gate.page, '[data-rule="1"] .alone')
  await eventually(() => textOf(gate.page, '.tab.here'), 'rule 2 alone 16')
})

test('one record is tried through the gates that feed', async () => {
  await click(gate.page, '[data-side=try]')
  for (const [name, value] of [['Decay', '45'], ['Height', '10'], ['Trunk', '20'], ['Lean', '2'], ['Stands by', 'verge']] as const) await type(gate.page, `[data-try="${name}"] input`, value)
  await eventually(() => textOf(gate.page, '.gets output'), 'Climb and look')
  await type(gate.page, '[data-try="Stands by"] input', 'school')
  await eventually(() => textOf(gate.page, '.gets output'), 'Fell')
})

test('a run of a grid is kept, shown and taken away', async () => {
  await open(`/gates/${gates.get('Hazard grid')}`)
  await eventually(async () => (await within('[role=gridcell]'))[0], 155)
  const onBench = await within('[role=gridcell]')
  await click(gate.page, '::-p-text(Keep a run)')
  await find(gate.page, '[data-tube]')
  await click(gate.page, '[data-side=decided]')
  await eventually(async () => (await counts()).slice(0, onBench.length), onBench)
  await click(gate.page, '[data-tube=Extreme]')
  await eventually(labels, ['Extreme'])
  const extreme = Number(await textOf(gate.page, '[data-tube=Extreme] .records'))
  await click(gate.page, '::-p-text(Take the labelled table)')
  await eventually(async () => (await readdir(gate.folder)).some((file) => file.endsWith('.csv')), true)
  const [file] = (await readdir(gate.folder)).filter((one) => one.endsWith('.csv'))
  const records = parse(await readFile(join(gate.folder, file!), 'utf8'), { columns: true }) as Record<string, string>[]
  expect(records).toHaveLength(1240)
  expect(records.filter((record) => record['Hazard grid'] === 'Extreme')).toHaveLength(extreme)
})

test('a figure is shown beside what it was reckoned from, and its cuts can be moved', async () => {
  await open(`/gates/${gates.get('Inspection priority')}`)
  await eventually(() => textOf(gate.page, '[data-band=Overdue] [data-cell=count]'), '196')
  expect(await textOf(gate.page, '.reckoned')).toContain('(Next due - today()).days')
  await type(gate.page, '[data-cut="0"] input', '-100')
  await gate.page.keyboard.press('Enter')
  await eventually(async () => Number(await textOf(gate.page, '[data-band=Overdue] [data-cell=count]')) < 196, true)
})

test('a gate that feeds another is not run in a version that the page has not shown', async () => {
  const feeding = `${gate.address}/api/v1/gates/${gates.get('Decay band')}`
  const send = async (method: string, path: string, body: object) => (await fetch(feeding + path, { method, body: JSON.stringify(body) })).json() as Promise<Gate>
  await open(`/gates/${gates.get('Felling decision')}`)
  await eventually(async () => sum(await counts()) + (await held()), 1240)
  const before = await counts()
  const { draft, draftVersion } = await (await fetch(feeding)).json() as Gate & { draft: ScaleGate }
  const changed = await send('PUT', '/draft', { draft: { ...draft, cuts: draft.cuts.map((cut) => ({ ...cut, at: String(Number(cut.at) / 2) })) }, seen: draftVersion })
  await send('POST', '/versions', { seen: changed.draftVersion })
  await click(gate.page, '::-p-text(Keep a run)')
  expect(await textOf(gate.page, '.keeping')).toMatch(/“Decay band”, which feeds “Felling decision”, was changed/)
  expect(await counts()).toEqual(before)
  await click(gate.page, '::-p-text(Take the other)')
  await eventually(async () => (await counts())[2]! > before[2]!, true)
  await click(gate.page, '::-p-text(Keep a run)')
  await find(gate.page, '[data-tube]')
  expect(await textOf(gate.page, '.about')).toMatch(/Decay band version 2/)
})

test('a finding is mended in one step that is told first, and taken back', async () => {
  const table = tableSchema.parse(await (await fetch(`${gate.address}/api/v1/tables/1`)).json())
  const rule = (condition: string, is: string) => ({ condition, entries: [{ is }], note: '' })
  const draft: GateDocument = {
    schema: 1, form: 'rules', name: 'One rule too many', hitPolicy: 'first', inputs: [{ ...givenNumber('Decay', '%'), blank: 'hold' }],
    outcomes: [{ name: 'Label', type: 'text', labels: [] }], rules: [rule('Decay > 10', 'look'), rule('Decay > 20', 'fell'), rule('Decay > 30', 'look')], otherwise: [{ is: 'leave' }],
  }
  const inputs = { Decay: { column: table.columns.find(({ name }) => name === 'Decay')!.id } }
  const made = await fetch(`${gate.address}/api/v1/gates`, { method: 'POST', body: JSON.stringify({ draft, binding: { tableId: 1, inputs } }) })
  const { id } = (await made.json()) as Gate
  await open(`/gates/${id}`)
  await eventually(async () => (await counts())[1], 0)
  const before = await counts()
  await click(gate.page, '[aria-label^="What would mend it: Rule 2 is never reached"]')
  await eventually(() => textOf(gate.page, '.way'), 'Move rule 2 up, before rule 1. Do it')
  await click(gate.page, '.way ::-p-text(Do it)')
  await eventually(async () => (await counts())[0]! > 0 && (await counts())[0]! < before[0]!, true)
  await gate.page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await gate.page.keyboard.press('u')
  await eventually(counts, before)
})
