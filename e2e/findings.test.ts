import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { Input, Label, RulesGate } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { violationsOn } from './testing/axe'
import { click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

let gate: DimeGate
let trees: Table
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
  trees = await ask<Table>('/tables/1')
})
afterAll(() => gate.close())

const ask = async <Answer>(path: string, method = 'GET', body?: object) =>
  (await (await fetch(`${gate.address}/api/v1${path}`, { method, ...(body ? { body: JSON.stringify(body) } : {}) })).json()) as Answer
const draft = async (id: number) => (await ask<Gate>(`/gates/${id}`)).draft as RulesGate
const told = () => gate.page.$$eval('aside .told, aside li > div', (all) => all.map((one) => one.textContent!.replaceAll(/\s+/g, ' ')))

const Decay = anInput('Decay', 'number', { unit: '%', expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } } })
const Lean = anInput('Lean', 'number', { unit: '°' })
const Place = anInput('Stands by', 'text')
const ranked = (...values: string[]): Label[] => values.map((value, at) => ({ value, colour: '#7fa99a', mark: 'disc', rank: values.length - at }))

interface Case {
  kind: string
  inputs: Input[]
  rules: [condition: string, label: string][]
  change?: Partial<RulesGate>
  /** The rule that is changed so that there is something to find, and to what. */
  provoke: [rule: number, condition: string]
  says: RegExp
  /** How it is mended: by the step that is offered, whose words these are; or by taking the change back. */
  mend: RegExp | 'undo'
}
const BANDS: Case['rules'] = [['Decay >= 40', 'Fell'], ['Decay >= 25', 'Climb'], ['Decay >= 0', 'Leave']]
const REST = { otherwise: [{ is: 'Leave' }] }

const CASES: Case[] = [
  { kind: 'gap', inputs: [Decay], rules: [['Decay >= 40', 'Fell'], ['Decay < 40', 'Leave']], provoke: [1, 'Decay < 30'], says: /No rule takes Decay from 30 to under 40/, mend: 'undo' },
  { kind: 'edge hole', inputs: [Decay], rules: [['Decay >= 40', 'Fell'], ['Decay < 40', 'Leave']], provoke: [0, 'Decay > 40'], says: /Exactly this value is taken by no rule/, mend: /rule 1/i },
  { kind: 'step hole', inputs: [Lean], rules: [['Lean in [0..10)', 'a'], ['Lean in [10..20]', 'b'], ['Lean < 0 or Lean > 20', 'c']], provoke: [0, 'Lean in [0..9]'], says: /leave out what lies between/, mend: /rule 1/i },
  { kind: 'overlap', inputs: [Decay, Lean], rules: [['Decay > 40', 'Fell'], ['Decay <= 40 and Lean > 5', 'Prop']], change: REST, provoke: [1, 'Lean > 5'], says: /rule 1 comes first/, mend: 'undo' },
  { kind: 'never reached', inputs: [Decay], rules: [['Decay >= 40', 'Fell'], ['Decay >= 25', 'Climb']], change: REST, provoke: [0, 'Decay >= 10'], says: /Rule 2 is never reached/, mend: /Move|move/ },
  { kind: 'no effect', inputs: [Decay], rules: [['Decay < 10', 'Fell'], ['Decay >= 25', 'Fell']], change: REST, provoke: [0, 'Decay >= 40'], says: /Without rule 1 every record would get the same/, mend: /Remove|remove/ },
  { kind: 'split label', inputs: [Decay], rules: [['Decay >= 40', 'Fell'], ['Decay >= 25', 'Climb'], ['Decay < 25', 'Leave']], provoke: [0, 'Decay >= 40 or Decay < 5'], says: /stands on separate stretches/, mend: 'undo' },
  { kind: 'rank break', inputs: [Decay], rules: BANDS, change: { outcomes: [{ name: 'Label', type: 'text', labels: ranked('Fell', 'Climb', 'Leave') }] }, provoke: [0, 'Decay in [25..30] or Decay > 60'], says: /the ranks turn back/, mend: 'undo' },
  { kind: 'outside range', inputs: [Decay], rules: BANDS, provoke: [0, 'Decay >= 140'], says: /which is not expected of Decay/, mend: 'undo' },
  { kind: 'scale mismatch', inputs: [{ ...Decay, expected: null }], rules: [['Decay >= 40', 'Fell']], change: REST, provoke: [0, 'Decay >= 4000'], says: /on another scale than the cuts/, mend: 'undo' },
  { kind: 'near-miss values', inputs: [Place], rules: [['Stands by = "school"', 'Look']], change: REST, provoke: [0, 'Stands by = "School"'], says: /No record has “School”, but some have “school”/, mend: 'undo' },
  { kind: 'all in one band', inputs: [Place], rules: [['Stands by = "school"', 'Look'], ['Stands by != "nowhere"', 'Leave']], provoke: [0, 'Stands by = "castle"'], says: /All records get “Leave”/, mend: 'undo' },
  { kind: 'finer than cuts', inputs: [Decay], rules: [['Decay >= 40', 'Fell'], ['Decay >= 25', 'Climb'], ['Decay < 25', 'Leave']], provoke: [1, 'Decay in [25..39]'], says: /finer than the cuts/, mend: 'undo' },
]

async function made(name: string, { inputs, rules, change }: Pick<Case, 'inputs' | 'rules' | 'change'>): Promise<number> {
  const bound = Object.fromEntries(inputs.map(({ name }) => [name, { column: trees.columns.find((column) => column.name === name)!.id }]))
  return (await ask<Gate>('/gates', 'POST', { draft: { ...rulesGate(inputs, rules, change), name }, binding: { tableId: 1, inputs: bound } })).id
}

async function open(id: number): Promise<void> {
  await gate.page.goto(`${gate.address}/gates/${id}?on=1`, { waitUntil: 'networkidle0' })
  await find(gate.page, '.stream')
  await find(gate.page, 'aside [data-side=findings]')
}

/** Writes a rule's condition anew, as an expression. */
async function write(rule: number, condition: string): Promise<void> {
  await click(gate.page, `[data-rule="${rule}"] [data-part=relation], [data-rule="${rule}"] code`)
  await click(gate.page, `[data-rule="${rule}"] ::-p-text(As an expression)`)
  await click(gate.page, `[data-rule="${rule}"] .cm-content`)
  await gate.page.keyboard.down('Control')
  await gate.page.keyboard.press('a')
  await gate.page.keyboard.up('Control')
  await gate.page.keyboard.type(condition)
  await gate.page.keyboard.press('Escape')
  await gate.page.keyboard.press('Escape')
}
const says = (words: RegExp) => async () => (await told()).some((text) => words.test(text))

test.each(CASES)('$kind is told as soon as there is one, and mended', async (one) => {
  const id = await made(`Finding ${one.kind}`, one)
  await open(id)
  await new Promise((resolve) => setTimeout(resolve, 600))
  expect(await says(one.says)()).toBe(false)
  await write(...one.provoke)
  await eventually(says(one.says), true)
  if (one.mend === 'undo') {
    await click(gate.page, '[data-state=draft]')
    await gate.page.keyboard.press('u')
  } else {
    const label = (await gate.page.$$eval('[aria-label^="What would mend it"]', (all) => all.map((button) => button.getAttribute('aria-label')!))).find((text) => one.says.test(text))!
    await click(gate.page, `[aria-label="${label.replaceAll('"', '\\"')}"]`)
    await eventually(async () => one.mend instanceof RegExp && one.mend.test(await textOf(gate.page, 'aside .way')), true)
    await click(gate.page, 'aside .way ::-p-text(Do it)')
  }
  await eventually(says(one.says), false)
})

test('labels that are almost the same, and blanks of which nothing is said, are mended in one step each, and taken back', async () => {
  const id = await made('Almost', { inputs: [{ ...Decay, blank: null }], rules: [['Decay >= 40', 'Fell'], ['Decay >= 25', 'fell ']], change: REST })
  await open(id)
  for (const words of [/almost the same label/, /can be blank, and nothing says/]) {
    await eventually(says(words), true)
    const label = (await gate.page.$$eval('[aria-label^="What would mend it"]', (all) => all.map((button) => button.getAttribute('aria-label')!))).find((text) => words.test(text))!
    await click(gate.page, `[aria-label="${label}"]`)
    await click(gate.page, 'aside .way ::-p-text(Do it)')
    await eventually(says(words), false)
    // What the table gives away is told behind it, and moves what stands there.
    await new Promise((resolve) => setTimeout(resolve, 800))
  }
  await eventually(async () => JSON.stringify([(await draft(id)).rules.map(({ entries: [entry] }) => entry), (await draft(id)).inputs[0]!.blank]), JSON.stringify([[{ is: 'Fell' }, { is: 'Fell' }], 'hold']))
  await click(gate.page, '[data-state=draft]')
  await gate.page.keyboard.press('u')
  await gate.page.keyboard.press('u')
  await eventually(says(/almost the same label/), true)
})

test('a finding that is chosen shows where it lies: the rule, the input, and the records that are there', async () => {
  const id = await made('Where', { inputs: [Decay], rules: [['Decay > 40', 'Fell'], ['Decay < 25', 'Leave']] })
  await open(id)
  await eventually(says(/No rule takes Decay from 25 to 40/), true)
  await click(gate.page, 'aside .told ::-p-text(No rule takes Decay)')
  await find(gate.page, '.records ::-p-text(where the finding lies)')
  const shown = Number((await textOf(gate.page, '.records [aria-pressed=true], .records .chosen, .records [aria-selected=true]')).replaceAll(/\D/g, ''))
  const unplaced = Number((await textOf(gate.page, '[data-rule=rest] [data-cell=count]')).replaceAll(/\D/g, ''))
  expect(shown).toBe(unplaced)
  expect(unplaced).toBeGreaterThan(0)
  // The head of its column, and every test that looks at it, are pointed out.
  await eventually(() => gate.page.$$eval('.records [role=columnheader] [style*=underline], .records [role=columnheader] [style*=offset]', (all) => all.length), 1)
  expect(await violationsOn(gate.page)).toEqual([])
})

test.each(['try', 'labels', 'inputs', 'versions'])('axe finds nothing on the side of %s', async (side) => {
  await open((await ask<{ gates: { id: number; name: string }[] }>('/desk')).gates.find(({ name }) => name === 'Where')!.id)
  await click(gate.page, `[data-side=${side}]`)
  await new Promise((resolve) => setTimeout(resolve, 300))
  expect(await violationsOn(gate.page)).toEqual([])
})

test('a record is proposed for each rule, from the table or else made, and one that no rule takes', async () => {
  const id = await made('Proposed', { inputs: [Decay, Lean], rules: [['Decay > 40', 'Fell'], ['Decay > 4000 and Lean > 5', 'Prop'], ['Lean > 8', 'Look']], change: REST })
  await open(id)
  await click(gate.page, '[data-side=try]')
  const gets = () => textOf(gate.page, 'aside output')
  for (const [button, label] of [['rule 1 takes', 'Fell'], ['rule 3 takes', 'Look'], ['no rule takes', 'Leave']]) {
    await click(gate.page, `[aria-label^="Try a record that ${button}"]`)
    await eventually(gets, label!)
  }
  await click(gate.page, '[aria-label="Try a record that rule 2 takes"]')
  await find(gate.page, '::-p-text(No record is known that gets to rule 2)')
  await write(0, 'Decay > 40 and Decay < 3000')
  await click(gate.page, '[data-side=try]')
  await click(gate.page, '[aria-label="Try a record that rule 2 takes"]')
  await eventually(gets, 'Prop')
})
