import pg from 'pg'
import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { violationsOn } from './testing/axe'
import { click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

let gate: DimeGate
let felling: number
let crown: number
let trees: Table
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
  trees = await ask<Table>('/tables/1')
  const inputs = [anInput('Lean', 'number', { unit: '°', blank: null })]
  felling = await made(rulesGate(inputs, [['Lean > 15', 'Fell']], { name: 'Felling anew', otherwise: [{ is: 'Leave' }] }))
  crown = await made(rulesGate(inputs, [['Lean > 20', 'Prop']], { name: 'Crown check', otherwise: [{ is: 'Leave' }] }))
})
afterAll(() => gate.close())

const ask = async <Answer>(path: string, method = 'GET', body?: object) =>
  (await (await fetch(`${gate.address}/api/v1${path}`, { method, ...(body ? { body: JSON.stringify(body) } : {}) })).json()) as Answer
const column = (name: string) => trees.columns.find((one) => one.name === name)!.id
const made = async (draft: RulesGate) => (await ask<Gate>('/gates', 'POST', { draft, binding: { tableId: 1, inputs: { Lean: { column: column('Lean') } } } })).id
const open = async (id: number) => {
  await gate.page.goto(`${gate.address}/gates/${id}?on=1`, { waitUntil: 'networkidle0' })
  await find(gate.page, '.stream')
}
const draft = async (id: number) => (await ask<Gate>(`/gates/${id}`)).draft as RulesGate
const says = async (id: number) => (await draft(id)).conditions?.map(({ name, feel }) => `${name}: ${feel}`)
const rules = async (id: number) => (await draft(id)).rules.map(({ condition }) => condition)
const focused = () => gate.page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '')
const key = (name: string) => gate.page.keyboard.press(name as 'Enter')
const typed = (text: string) => gate.page.keyboard.type(text)
const number = (text: string) => Number(text.replaceAll(/\D/g, ''))
async function sql(condition: string): Promise<number> {
  const database = new pg.Client(gate.databaseUrl)
  await database.connect()
  const named = condition.replaceAll(/"([^"]+)"/g, (_, name: string) => `c${column(name)}`)
  const { rows } = await database.query<{ records: number }>(`select count(*)::int as records from records.t1 where until is null and (${named})`)
  await database.end()
  return rows[0]!.records
}

test('a condition is built alone against the records, by keyboard, and used by its name in a rule', async () => {
  await open(felling)
  await key('c')
  await eventually(focused, 'Name of the condition')
  await typed('Weak stem')
  await key('Enter')
  await eventually(focused, 'What it looks at')
  await typed('Decay >= 25 and Stands by != "verge"')
  await key('Enter')
  await eventually(async () => number(await textOf(gate.page, '[data-condition="Weak stem"] [data-cell=count]')), await sql(`"Decay" >= 25 and "Stands by" <> 'verge'`))
  await eventually(() => says(felling), ['Weak stem: Decay >= 25 and Stands by != "verge"'])
  expect(await textOf(gate.page, '[data-condition="Weak stem"] .users')).toBe('not used here')
  // The records below are those for which it holds.
  await eventually(() => textOf(gate.page, '[role=tab][aria-selected=true], .tab[aria-selected=true]').then((text) => text.includes('Findings')), true)
  await key('Escape')
  await click(gate.page, '[data-rule="0"] [data-part=relation]')
  await click(gate.page, '[data-rule="0"] [title="Another test that has to hold too"]')
  await eventually(focused, 'What it looks at')
  await typed('Weak stem')
  await key('Enter')
  await eventually(() => rules(felling), ['Lean > 15 and Weak stem'])
  await eventually(async () => number(await textOf(gate.page, '[data-rule="0"] [data-cell=count]')), await sql(`"Lean" > 15 and "Decay" >= 25 and "Stands by" <> 'verge'`))
  await eventually(() => textOf(gate.page, '[data-condition="Weak stem"] .users'), 'in rule 1')
})

test('another gate takes it by its name, with all that it needs', async () => {
  await open(crown)
  await key('n')
  await eventually(focused, 'What it looks at')
  await typed('Weak')
  await find(gate.page, '[role=option] ::-p-text(condition of Felling anew)')
  await key('Enter')
  await eventually(() => rules(crown), ['Lean > 20', 'Weak stem'])
  await eventually(() => says(crown), ['Weak stem: Decay >= 25 and Stands by != "verge"'])
  await eventually(async () => (await draft(crown)).inputs.map(({ name }) => name).toSorted(), ['Decay', 'Lean', 'Stands by'])
  await key('Escape')
  await eventually(() => textOf(gate.page, '[data-condition="Weak stem"] .users'), 'in rule 2 and in Felling anew')
})

test('changed in one gate it changes in the other, what moves is told of both, and undo takes both back', async () => {
  await open(felling)
  const before = await sql(`"Lean" > 15 and "Decay" >= 25 and "Stands by" <> 'verge'`)
  await click(gate.page, '[data-condition="Weak stem"] [data-part="value 0"]')
  await eventually(focused, 'Value')
  await typed('35')
  await key('Enter')
  await eventually(() => says(crown), ['Weak stem: Decay >= 35 and Stands by != "verge"'])
  const told = await find(gate.page, '.moves ::-p-text(Crown check on Street trees)')
  expect(await told.evaluate((one) => one.textContent)).toMatch(/\d+ records move/)
  const here = await gate.page.$$eval('.moves [data-move]', (all) => all.map((one) => one.textContent!.replaceAll(/\s+/g, ' ')))
  const after = await sql(`"Lean" > 15 and "Decay" >= 35 and "Stands by" <> 'verge'`)
  expect(here.join(' ')).toContain(`Fell→ Leave${before - after}`)
  // Its records can be looked at.
  await click(gate.page, '.moves button[data-move]')
  await find(gate.page, '.records ::-p-text(from Fell to Leave)')
  await key('Escape')
  await key('Escape')
  await click(gate.page, '[data-state=draft]')
  await key('u')
  await eventually(() => says(crown), ['Weak stem: Decay >= 25 and Stands by != "verge"'])
})

test('another name goes along; one that is taken is refused where it is typed', async () => {
  await open(felling)
  await click(gate.page, '[data-condition="Weak stem"] [data-part=subject]')
  const name = await find(gate.page, '[aria-label="Name of the condition"]')
  await name.click({ clickCount: 3 })
  await typed('Lean')
  await find(gate.page, '.named [role=alert] ::-p-text(is taken)')
  await name.click({ clickCount: 3 })
  await typed('Rotten')
  await key('Enter')
  await eventually(() => rules(crown), ['Lean > 20', 'Rotten'])
  await eventually(() => rules(felling), ['Lean > 15 and Rotten'])
  expect(await violationsOn(gate.page)).toEqual([])
})

test('a part of a rule gets a name of its own, and is written out again', async () => {
  await open(crown)
  await click(gate.page, '[data-rule="0"] [data-part=relation]')
  await click(gate.page, '[data-rule="0"] [title^="Give this test a name"]')
  await eventually(focused, 'Name of the condition')
  await typed('Leaning')
  await key('Enter')
  await eventually(() => rules(crown), ['Leaning', 'Rotten'])
  await click(gate.page, '::-p-text(Write it out here)')
  await eventually(() => rules(crown), ['Lean > 20', 'Rotten'])
  await eventually(async () => (await says(crown))?.length, 1)
})

test('a text that is no condition yet outlives a reload', async () => {
  await open(felling)
  await click(gate.page, '[data-rule="0"] [data-part=relation]')
  await click(gate.page, '[data-rule="0"] ::-p-text(As an expression)')
  await click(gate.page, '[data-rule="0"] .cm-content')
  await key('End')
  await typed(' and Dekay > ')
  await find(gate.page, '[data-rule="0"] [role=alert]')
  await gate.page.reload({ waitUntil: 'networkidle0' })
  await find(gate.page, '[data-rule="0"] ::-p-text(and Dekay >)')
  expect(await rules(felling)).toEqual(['Lean > 15 and Rotten'])
  await click(gate.page, '[data-rule="0"] .takes code')
})

test('a column by which the records are sorted is pointed out in the rules', async () => {
  await open(crown)
  const marked = () => gate.page.$$eval('[data-part=subject]', (all) => all.filter((one) => (one as HTMLElement).style.textDecorationThickness !== '').map((one) => one.textContent))
  expect(await marked()).toEqual([])
  await click(gate.page, '.records [role=columnheader] ::-p-text(Decay)')
  await eventually(marked, ['Decay'])
})

test('going back to a version says in which other gates its named conditions change, and they do', async () => {
  const { draftVersion } = await ask<Gate>(`/gates/${felling}`)
  await ask(`/gates/${felling}/versions`, 'POST', { seen: draftVersion })
  const before = await says(crown)
  await open(felling)
  await click(gate.page, '[data-condition="Rotten"] [data-part="value 0"]')
  await eventually(focused, 'Value')
  await typed('44')
  await key('Enter')
  await eventually(() => says(crown), ['Rotten: Decay >= 44 and Stands by != "verge"'])
  await click(gate.page, '[data-side=versions]')
  await click(gate.page, '[data-version="1"] button')
  await find(gate.page, '::-p-text(also in “Crown check”)')
  await click(gate.page, '::-p-text(Go back to this one)')
  await eventually(() => says(crown), before)
})
