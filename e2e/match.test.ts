import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { MatchGate } from '@dime-gate/core/gate/document'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { click, eventually, find, textOf } from './testing/dime-gate'
import { handOn } from './testing/hand'
import { keysOn } from './testing/keys'

let gate: Demo
beforeAll(async () => {
  gate = await openDemo()
})
afterAll(() => gate.close())

const LARGE = ['Common lime', 'London plane', 'Norway maple', 'Common ash', 'Horse chestnut', 'Sycamore', 'Pedunculate oak', 'Sessile oak', 'Black poplar', 'Tulip tree', 'Sweet gum', 'Foxglove tree']
const SMALL = ['Silver birch', 'Hornbeam', 'Field maple', 'Wild cherry', 'Rowan', 'Whitebeam', 'Turkish hazel', 'Small-leaved lime', 'Crab apple']
const NEEDLE = ['Ginkgo', 'Dawn redwood']

const ask = <Answer>(path: string) => gate.ask<Answer>(path)
const draft = async () => (await ask<Gate>(`/gates/${/gates\/(\d+)/.exec(gate.page.url())![1]}`)).draft as MatchGate
const trayCounts = () => gate.page.$$eval('.tray', (all) => Object.fromEntries(all.map((one) => [(one.querySelector('.name') as HTMLInputElement).value, Number((one.querySelector('[data-cell=count]') as HTMLElement).innerText.replaceAll(/\D/g, '') || NaN)])))
const onRail = () => gate.page.$$eval('[data-rail] [data-coin]', (all) => all.map((one) => (one as HTMLElement).dataset.coin!))
const focused = () => gate.page.evaluate(() => (document.activeElement as HTMLElement).dataset.coin ?? document.activeElement?.getAttribute('aria-label') ?? '')
const key = (name: string) => gate.page.keyboard.press(name as 'Enter')
const coin = (value: string) => `[data-coin="${value}"]`

/** Records by group, as the database itself counts them; case and spaces do not count. */
async function sql(groups: Record<string, string[]>): Promise<Record<string, number>> {
  const { columns } = await ask<Table>('/tables/1')
  const species = columns.find(({ name }) => name === 'Species')!.id
  const found: Record<string, number> = {}
  for (const [label, values] of Object.entries(groups)) {
    const { rows } = await gate.database.query<{ records: string }>(`select count(*) as records from records.t1 where until is null and lower(regexp_replace(trim(c${species}), '\\s+', ' ', 'g')) = any($1)`, [values.map((value) => value.toLowerCase())])
    found[label] = Number(rows[0]!.records)
  }
  return found
}

async function newList(by: ReturnType<typeof handOn>): Promise<void> {
  await gate.page.goto(`${gate.address}/tables/1`, { waitUntil: 'networkidle0' })
  await by.key('n')
  await find(gate.page, '[role=dialog] .start:not(:disabled)')
  await by.click('[role=dialog] [data-side=match]')
  await by.click('[role=dialog] .choice ::-p-text(Species)')
  await find(gate.page, '::-p-text(No tray yet)')
  await eventually(async () => (await onRail()).length > 20, true)
}

test('Leaf group from nothing, coin by coin, by keyboard alone', async () => {
  const by = handOn(gate.page)
  const keys = keysOn(gate.page, gate.address)
  await keys.newGate(1, 'Match list', ['Species'], '::-p-text(No tray yet)')
  await eventually(async () => (await onRail()).length > 20, true)
  // Spellings become one before anything is sorted.
  await gate.page.focus('main')
  await keys.tabTo('case and spaces')
  await by.key('Enter')
  await find(gate.page, '.told ::-p-text(of several spellings would be one each)')
  await keys.tabTo('Let case and spaces not count')
  await by.key('Enter')
  await eventually(async () => (await draft()).folds, true)
  await key('Escape')
  const trayOf = (value: string) => ([LARGE, SMALL, NEEDLE].findIndex((values) => values.some((one) => one.toLowerCase() === value.trim().toLowerCase().replaceAll(/\s+/g, ' '))) + 1)
  for (const label of ['Broad leaf, large', 'Broad leaf, small', 'Fan or needle']) {
    await by.key('n')
    await eventually(focused, 'Label of the new tray')
    await by.type(label)
    await by.key('Enter')
    await find(gate.page, `.tray[aria-label="Tray ${label}"]`)
  }
  await gate.page.focus(`[data-rail] ${coin((await onRail())[0]!)}`)
  let waiting = (await onRail()).length
  while (waiting > 1) {
    const value = await focused()
    const tray = trayOf(value)
    // What stands in no list stays where it is.
    if (tray === 0) await by.key('ArrowRight')
    else {
      await by.key(String(tray))
      waiting--
      await eventually(async () => (await onRail()).length, waiting)
    }
  }
  const groups = { 'Broad leaf, large': LARGE, 'Broad leaf, small': SMALL, 'Fan or needle': NEEDLE }
  await eventually(trayCounts, await sql(groups))
  expect(await onRail()).toEqual(['Holm oak'])
  process.stdout.write(`Leaf group by keyboard: ${by.count()} actions\n`)
  expect(by.count()).toBeLessThanOrEqual(40)
  expect(await violationsOn(gate.page)).toEqual([])
})

test('by mouse: coins are dragged into trays, many at once, and back; undo takes a drop back', async () => {
  const by = handOn(gate.page)
  await newList(by)
  await click(gate.page, '.first .v-btn')
  await eventually(focused, 'Label of the new tray')
  await by.type('Oaks')
  await by.key('Enter')
  await find(gate.page, '.tray[aria-label="Tray Oaks"]')
  await by.drag(`[data-rail] ${coin('Holm oak')}`, '.tray')
  await eventually(async () => (await draft()).lines[0]!.values, ['Holm oak'])
  await by.click('.match .find')
  await by.type('oak')
  await by.click('::-p-text(Choose all)')
  await by.drag(`[data-rail] ${coin('Pedunculate oak')}`, '.tray')
  await eventually(async () => (await draft()).lines[0]!.values.toSorted(), ['Holm oak', 'Pedunculate oak', 'Sessile oak', 'holm oak'].toSorted())
  await by.drag(`.tray ${coin('Holm oak')}`, '.bar')
  await by.drag(`.tray ${coin('Holm oak')}`, '[data-rail]')
  await eventually(async () => (await draft()).lines[0]!.values.includes('Holm oak'), false)
  await click(gate.page, '[data-state=draft]')
  await key('u')
  await eventually(async () => (await draft()).lines[0]!.values.includes('Holm oak'), true)
})

test('what is chosen is listed; what looks like a sorted value says so, and joins it', async () => {
  const by = handOn(gate.page)
  await newList(by)
  await by.click(`[data-rail] ${coin('Common lime')}`)
  await eventually(async () => /^Common lime \d+$/.test(await textOf(gate.page, '.tab.here')), true)
  await by.key('n')
  await by.type('Limes')
  await by.key('Enter')
  await eventually(async () => (await draft()).lines.map(({ values }) => values), [['Common lime']])
  await find(gate.page, '.head .link ::-p-text(already sorted)')
  const near = (await gate.page.$$('.offer')).length
  expect(near).toBeGreaterThan(0)
  const waiting = (await onRail()).length
  await by.click('::-p-text(Join)')
  await eventually(async () => (await onRail()).length, waiting - near)
  await eventually(async () => (await draft()).lines[0]!.values.length, 1 + near)
})

test('a list of two columns is pasted: what it comes to is told first', async () => {
  const by = handOn(gate.page)
  await newList(by)
  await by.key('p')
  await find(gate.page, '[role=dialog] textarea')
  await gate.page.focus('[role=dialog] textarea')
  await gate.page.evaluate((text) => {
    const field = document.activeElement as HTMLTextAreaElement
    field.value = text
    field.dispatchEvent(new Event('input', { bubbles: true }))
  }, `Species\tGroup\n${SMALL.map((value) => `${value}\tSmall`).join('\n')}\nYew\tNeedle\nnonsense\n`)
  await find(gate.page, '[role=dialog] ::-p-text(10 values)')
  await find(gate.page, '[role=dialog] ::-p-text(1 value is in no record: “Yew”.)')
  await find(gate.page, '[role=dialog] ::-p-text(line 12, “nonsense”)')
  await by.click('::-p-text(Sort them so)')
  await eventually(async () => (await draft()).lines.map(({ values, entries }) => [(entries[0] as { is: string }).is, values.length]), [['Small', SMALL.length], ['Needle', 1]])
  // Needle is there although no record has it.
  await eventually(() => textOf(gate.page, `.tray ${coin('Yew')}`), 'Yew 0')
})

test('a tray is renamed, moved and removed; what stays on the rail can get a label', async () => {
  await click(gate.page, '[aria-label="Name of the tray Small"]')
  await gate.page.keyboard.down('Control')
  await key('a')
  await gate.page.keyboard.up('Control')
  await gate.page.keyboard.type('Small trees')
  await key('Enter')
  await eventually(async () => (await draft()).outcomes[0]!.labels.map(({ value }) => value), ['Small trees', 'Needle'])
  await click(gate.page, '[aria-label="What to do with the tray Needle"]')
  await click(gate.page, '::-p-text(Remove the tray)')
  await eventually(async () => (await draft()).lines.length, 1)
  await click(gate.page, '[aria-label="Label of what is in no tray"]')
  await gate.page.keyboard.type('Other')
  await key('Enter')
  await eventually(async () => (await draft()).otherwise, [{ is: 'Other' }])
  await eventually(async () => (await gate.page.$('[data-tray=otherwise]')) !== null || (await gate.page.$('[data-tray=unplaced]')) !== null, true)
  // A record that is tried says where it falls, and can be kept as an example.
  await click(gate.page, '[data-side=try]')
  await gate.page.focus('[data-try=Species] input')
  await gate.page.keyboard.type('Rowan')
  await eventually(() => textOf(gate.page, 'aside output'), 'Small trees')
  await find(gate.page, '.tray.tried')
})

test('a value that is corrected elsewhere moves from coin to coin, and the counts with it', async () => {
  const { id } = (await ask<{ gates: { id: number; name: string }[] }>('/desk')).gates.find(({ name }) => name === 'Leaf group')!
  await gate.page.goto(`${gate.address}/gates/${id}?on=1`, { waitUntil: 'networkidle0' })
  await eventually(() => textOf(gate.page, `[data-rail] ${coin('Holm oak')} .figure`), '12')
  const { columns } = await ask<Table>('/tables/1')
  const species = columns.find(({ name }) => name === 'Species')!.id
  const { rows: [first] } = await gate.database.query<{ record: number }>(`select record from records.t1 where until is null and c${species} = 'Holm oak' limit 1`)
  const change = { kind: 'values', reading: { decimalMark: 'point', dateOrder: 'day' }, cells: [{ record: Number(first!.record), column: species, text: 'Service tree', seen: ['Holm oak', null] }] }
  const { status } = await fetch(`${gate.address}/api/v1/tables/1/changes`, { method: 'POST', body: JSON.stringify(change) })
  expect(status).toBe(200)
  await eventually(async () => (await onRail()).toSorted(), ['Holm oak', 'Service tree'])
  await eventually(() => textOf(gate.page, `[data-rail] ${coin('Holm oak')} .figure`), '11')
})
