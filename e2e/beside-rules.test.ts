import type { Gate } from '@dime-gate/contract/gate'
import { isSame } from '@dime-gate/core/gate/is-same'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import type { Table } from '@dime-gate/contract/table'
import { click, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
let id: number
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
  id = await made(GATE)
})
afterAll(() => gate.close())

const GATE: RulesGate = rulesGate(
  [
    anInput('Decay', 'number', { unit: '%', blank: null }),
    anInput('Lean', 'number', { unit: '°', blank: null }),
    anInput('Stands by', 'text', { blank: null }),
  ],
  [
    ['Decay >= 40', 'Fell'],
    ['Decay >= 25 and Stands by in ("school", "play area")', 'Climb'],
    ['Lean > 15', 'Climb'],
  ],
  {
    name: 'Looked at',
    otherwise: [{ is: 'Leave' }],
    outcomes: [
      {
        name: 'Label',
        type: 'text',
        labels: [
          ['Fell', '#8e3424', 'square'],
          ['Climb', '#d08a45', 'drop'],
          ['Leave', '#7fa99a', 'disc'],
        ].map(([value, colour, mark], at) => ({ value: value!, colour: colour!, mark: mark as 'disc', rank: 2 - at })),
      },
    ],
  },
)

const ask = async <Answer>(path: string, method = 'GET', body?: object) =>
  (await (await fetch(`${gate.address}/api/v1${path}`, { method, ...(body ? { body: JSON.stringify(body) } : {}) })).json()) as Answer
async function made(draft: RulesGate): Promise<number> {
  const { columns } = await ask<Table>('/tables/1')
  const inputs = Object.fromEntries(draft.inputs.map(({ name }) => [name, { column: columns.find((column) => column.name === name)!.id }]))
  return (await ask<Gate>('/gates', 'POST', { draft, binding: { tableId: 1, inputs } })).id
}
const open = async (of = id) => {
  await gate.page.goto(`${gate.address}/gates/${of}?on=1`, { waitUntil: 'networkidle0' })
  await find(gate.page, '.stream')
}
const draft = async (of = id) => (await ask<Gate>(`/gates/${of}`)).draft as RulesGate
const counts = () =>
  gate.page.$$eval('[data-stop] [data-cell=count]', (all) => all.map((one) => Number(one.textContent!.replaceAll(/\D/g, ''))))
/** Whatever the order of keys. */
const becomes = (read: () => Promise<unknown>, expected: unknown) => eventually(async () => isSame(await read(), expected), true)
const tab = (name: string) => click(gate.page, `[data-side=${name}]`)
const undo = () => click(gate.page, '::-p-text(Undo)')

test('a record is taken from the list; its coin falls where it is caught, and each test says what it saw', async () => {
  await open()
  await click(gate.page, '[data-rule="1"] .caught')
  await eventually(() => textOf(gate.page, '.tab.here').then((words) => words.startsWith('taken by rule 2')), true)
  await click(gate.page, '[data-record] [data-cell=label]')
  await eventually(() => textOf(gate.page, '.gets output'), 'Climb')
  expect(await gate.page.$$('.coin')).toHaveLength(1)
  expect(await textOf(gate.page, '.walk')).toMatch(
    /^Decay at least 40 %, \d+(\.\d+)?, \d+(\.\d+)? short Decay at least 25 %, \d+(\.\d+)?, .* Stands by is one of school, play area, (school|play area)$/,
  )
  // It is told who it is.
  expect(await textOf(gate.page, '[role=tablist] + section h2')).toMatch(/as \d{4}$/)
})

test('values at every cut, and just beside it, are a click away', async () => {
  await open()
  await tab('try')
  await click(gate.page, '[aria-label="Try Decay 40"]')
  await eventually(() => textOf(gate.page, '.gets output'), 'Fell')
  expect(await textOf(gate.page, '.walk')).toContain('exactly on it')
  await click(gate.page, '[aria-label="Try Decay 39.9"]')
  await eventually(() => textOf(gate.page, '.gets output'), 'held')
  await type(gate.page, '[data-try=Lean] input', '2')
  await type(gate.page, '[data-try="Stands by"] input', 'verge')
  await eventually(() => textOf(gate.page, '.gets output'), 'Leave')
})

test('an example is kept with the gate; a change that breaks it is told at the rule, and mended by undoing it', async () => {
  await open()
  await tab('try')
  await type(gate.page, '[data-try=Decay] input', '41')
  await click(gate.page, '::-p-text(Keep as an example that gets “Fell”)')
  await find(gate.page, '[data-example]')
  await becomes(async () => (await draft()).examples, [{ values: { Decay: '41' }, label: 'Fell' }])
  await click(gate.page, '[data-rule="0"] [data-part="value 0"]')
  await find(gate.page, '[data-rule="0"] .conditions')
  await gate.page.keyboard.type('50')
  await gate.page.keyboard.press('Enter')
  await eventually(
    () => textOf(gate.page, '[data-example]').then((words) => /gets no label now|gets held now|gets \w+ now/.test(words)),
    true,
  )
  await type(gate.page, '[data-try=Lean] input', '20')
  await click(gate.page, '::-p-text(Undo)')
  await eventually(async () => (await gate.page.$$('[data-example].broken')).length, 0)
  await click(gate.page, '[aria-label="Remove this example"]')
  await eventually(async () => (await draft()).examples, undefined)
})

test('a finding that is meant so is not asked again, is kept with the gate, and can be asked again', async () => {
  await open(
    await made({ ...GATE, name: 'Never', rules: [...GATE.rules, { condition: 'Decay > 60', entries: [{ is: 'Climb' }], note: '' }] }),
  )
  const told = '[aria-label^="It is meant so: Rule 4 is never reached"]'
  await find(gate.page, told)
  expect(await textOf(gate.page, '[data-rule="3"]')).toContain('Rule 4 is never reached')
  await click(gate.page, told)
  await find(gate.page, '::-p-text(1 finding is meant to be so)')
  expect(await gate.page.$(told)).toBeNull()
  const of = Number(/gates\/(\d+)/.exec(gate.page.url())![1])
  await eventually(async () => (await draft(of)).meant?.map(({ finding }) => finding.slice(0, 23)), ['Rule 4 is never reached'])
  await gate.page.reload({ waitUntil: 'networkidle0' })
  await click(gate.page, 'summary')
  await click(gate.page, '[aria-label^="Ask again: Rule 4"]')
  await find(gate.page, told)
})

test('labels are renamed, reordered, ranked and coloured in one place; an outcome more is given beside them', async () => {
  await open()
  await tab('labels')
  await type(gate.page, '[data-label=Climb] input', 'Look')
  await gate.page.keyboard.press('Enter')
  await eventually(
    async () => (await draft()).rules.map(({ entries: [entry] }) => entry && 'is' in entry && entry.is),
    ['Fell', 'Look', 'Look'],
  )
  await (await find(gate.page, '[data-label=Leave] .grip')).focus()
  await gate.page.keyboard.press('ArrowUp')
  await eventually(
    async () => (await draft()).outcomes[0]!.labels.map(({ value, rank }) => [value, rank]),
    [
      ['Fell', 2],
      ['Leave', 1],
      ['Look', 0],
    ],
  )
  await click(gate.page, '::-p-text(Add an outcome)')
  await gate.page.keyboard.press('Escape')
  await click(gate.page, '[aria-label$="change what rule 1 gives"]')
  await type(gate.page, '[aria-label="Wording of rule 1"]', 'Take it down')
  await gate.page.keyboard.press('Tab')
  await eventually(async () => (await draft()).rules[0]!.entries, [{ is: 'Fell' }, { is: 'Take it down' }])
  await type(gate.page, '[aria-label="Wording of rule 2"], [aria-label="Wording of rule 1"]', '= "at " + string(Decay)')
  await gate.page.keyboard.press('Tab')
  await eventually(async () => (await draft()).rules[0]!.entries[1], { feel: '"at " + string(Decay)' })
  for (let step = 0; step < 5; step++) await undo()
  await becomes(async () => (await draft()).outcomes, GATE.outcomes)
})

test('what a blank does, rounding and what is expected are said of an input, with the records that each concerns', async () => {
  await open()
  const before = await counts()
  await tab('inputs')
  expect(await textOf(gate.page, '[data-input-panel=Decay] .head')).toMatch(/\d+ blank, 2 unreadable/)
  await click(gate.page, '[data-input-panel=Lean] .head')
  await click(gate.page, '[data-input-panel=Lean] .v-select')
  await click(gate.page, '.v-list-item ::-p-text(counts as not true)')
  await eventually(async () => (await counts())[0]! < before[0]!, true)
  await click(gate.page, '[data-input-panel=Decay] .head')
  await click(gate.page, '::-p-text(no greatest value)')
  await eventually(async () => /1 not expected/.test(await textOf(gate.page, '[data-input-panel=Decay] .head')), true)
  await undo()
  await undo()
  await eventually(counts, before)
})

test('a version is set with a note; what the draft does differently is told in words and in records, and can be gone back on', async () => {
  await open()
  await tab('versions')
  await type(gate.page, '.note input', 'as the office agreed')
  await click(gate.page, '::-p-text(Set version 1)')
  await eventually(() => textOf(gate.page, '[data-version="1"] .said'), 'as the office agreed')
  const before = await counts()
  await click(gate.page, '[data-rule="0"] [data-part="value 0"]')
  await find(gate.page, '[data-rule="0"] .conditions')
  await gate.page.keyboard.type('35')
  await gate.page.keyboard.press('Enter')
  await eventually(async () => (await counts())[1]! > before[1]!, true)
  await click(gate.page, '[data-version="1"] .head')
  await eventually(
    () => textOf(gate.page, '[data-version="1"] .change'),
    'Rule 1 takes “Decay at least 35 %”, before “Decay at least 40 %”',
  )
  const moved = async () =>
    gate.page.$$eval('[data-move]', (all) => all.map((one) => (one as HTMLElement).innerText.replaceAll(/\s+/g, ' ').trim()))
  await eventually(async () => (await moved()).length > 0, true)
  const total = (await moved()).reduce((sum, words) => sum + Number(/\d+$/.exec(words)![0]), 0)
  expect(total).toBeGreaterThan(0)
  await click(gate.page, '[data-move]')
  await eventually(
    async () => Number(/(\d+)$/.exec(await textOf(gate.page, '.records .tab.here'))![1]) === Number(/\d+$/.exec((await moved())[0]!)![0]),
    true,
  )
  await click(gate.page, '::-p-text(Go back to this one)')
  await eventually(counts, before)
  await eventually(() => textOf(gate.page, '[data-state=draft]'), 'same as version 1')
})

test('rules are moved, copied, switched off and removed by keyboard, and every step can be taken back', async () => {
  await open()
  const { page } = gate
  const before = await counts()
  const conditions = async () => (await draft()).rules.map(({ condition, isOff }) => `${isOff ? 'off ' : ''}${condition.slice(0, 8)}`)
  await click(page, '[data-rule="0"] .number')
  await page.keyboard.down('Alt')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.up('Alt')
  await eventually(conditions, ['Decay >=', 'Decay >=', 'Lean > 1'])
  await eventually(async () => (await draft()).rules[0]!.condition.startsWith('Decay >= 25'), true)
  await page.keyboard.press('x')
  await eventually(conditions, ['Decay >=', 'off Decay >=', 'Lean > 1'])
  await page.keyboard.press('y')
  await eventually(async () => (await conditions()).length, 4)
  await page.keyboard.press('Delete')
  await eventually(async () => (await conditions()).length, 3)
  for (let step = 0; step < 4; step++) await page.keyboard.press('u')
  await eventually(counts, before)
})

test('two change one draft: the second is told what the first did, and loses nothing', async () => {
  await open()
  const { page } = gate
  const { draftVersion, draft: stored } = await ask<Gate>(`/gates/${id}`)
  const other = stored as RulesGate
  await ask(`/gates/${id}/draft`, 'PUT', {
    draft: { ...other, rules: other.rules.with(2, { ...other.rules[2]!, condition: 'Lean > 18' }) },
    seen: draftVersion,
  })
  await click(page, '[data-rule="0"] [data-part="value 0"]')
  await find(page, '[data-rule="0"] .conditions')
  await page.keyboard.type('44')
  await page.keyboard.press('Enter')
  await eventually(() => textOf(page, '.theirs'), 'What was done elsewhere: Rule 3 takes “Lean above 18°”, before “Lean above 15°”.')
  expect(await textOf(page, '[data-rule="0"] .takes')).toContain('holds for')
  await click(page, '::-p-text(Take the other)')
  await eventually(async () => (await textOf(page, '[data-rule="2"] .takes')).includes('18'), true)
  await ask(`/gates/${id}/draft`, 'PUT', { draft: other, seen: draftVersion + 1 })
})

test('a text that is no condition is told where it is wrong, changes nothing, and is not lost', async () => {
  await open()
  const { page } = gate
  const before = (await draft()).rules
  await click(page, '[data-rule="2"] [data-part="value 0"]')
  await click(page, '[data-rule="2"] ::-p-text(As an expression)')
  await eventually(() => page.evaluate(() => document.activeElement?.getAttribute('aria-label')), 'Condition of rule 3')
  await page.keyboard.press('End')
  await page.keyboard.type(' and Decay >')
  await find(page, '[data-rule="2"] .trouble')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await eventually(
    () => textOf(page, '[data-rule="2"] .takes').then((words) => words.includes('not finished: Lean > 15 and Decay >')),
    true,
  )
  expect((await draft()).rules).toEqual(before)
  await click(page, '[data-rule="2"] .takes code')
  await find(page, '[data-rule="2"]')
})

test('a rule is carried by its number, the counts move along, and one undo takes it back', async () => {
  await open()
  const conditions = async () => (await draft()).rules.map(({ condition }) => condition)
  const [before, [held, ...taken]] = [await conditions(), await counts()]
  const middle = async (rule: number) => {
    const { x, y, width, height } = (await (await find(gate.page, `[data-rule="${rule}"] .number`)).boundingBox())!
    return [x + width / 2, y + height / 2] as const
  }
  const [from, to] = [await middle(2), await middle(0)]
  await gate.page.mouse.move(...from)
  await gate.page.mouse.down()
  await gate.page.mouse.move(to[0], to[1] - 8, { steps: 12 })
  await gate.page.mouse.up()
  await becomes(conditions, [before[2], before[0], before[1]])
  await eventually(async () => (await counts()).length, taken.length + 1)
  expect(await counts()).not.toEqual([held, ...taken])
  await gate.page.keyboard.press('u')
  await becomes(conditions, before)
  await eventually(async () => JSON.stringify(await counts()), JSON.stringify([held, ...taken]))
})
