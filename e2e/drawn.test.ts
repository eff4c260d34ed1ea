import type { Table } from '@dime-gate/contract/table'
import { violationsOn } from './testing/axe'
import { bandCounts, click, choose, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const tableAt = async (path: string) => (await (await fetch(`${gate.address}/api/v1${path}`)).json()) as Table
const tableNamed = async (name: string) => {
  const { tables } = (await (await fetch(`${gate.address}/api/v1/desk`)).json()) as { tables: Table[] }
  return `/tables/${tables.find((one) => one.name === name)!.id}`
}
/** What stands in a column, once it is in view. */
const inColumn = (name: string, row = 0) =>
  gate.page.evaluate(
    (head, at) => {
      const heads = [...document.querySelectorAll<HTMLElement>('[role=columnheader]')]
      const index = heads.find((one) => one.querySelector('.name')?.textContent?.trim() === head)?.getAttribute('aria-colindex')
      return document
        .querySelector<HTMLElement>(`#cell-${at}-${Number(index) - 1}`)
        ?.innerText.replaceAll('\u00a0', ' ')
        .trim()
    },
    name,
    row,
  )
const write = async (text: string) => {
  await click(gate.page, '.expression .cm-content')
  await gate.page.keyboard.type(text)
  await gate.page.keyboard.press('Escape')
}

test('reports are counted for each tree, with a condition; keys that meet nothing are a step away', async () => {
  const { page } = gate
  await open('/tables/1')
  await (await find(page, '#cell-3-1')).click()
  await click(page, '::-p-text(New figure)')
  await click(page, '.offers ::-p-text(count or figure of related records)')
  await eventually(
    async () => (await textOf(page, '.sentence')).startsWith('how many') && (await textOf(page, '.sentence')).includes('Resident reports'),
    true,
  )
  await find(page, '.meetings ::-p-text(2 records of Resident reports meet none here)')
  await write('Kind = "dead wood"')
  await find(page, 'aside ::-p-text(Only records of Resident reports)')
  await type(page, 'aside input', 'Dead wood')
  await click(page, '::-p-text(Add the column)')
  await eventually(async () => /^\d+$/.test((await inColumn('Dead wood', 3)) ?? ''), true)
  const { columns } = await tableAt('/tables/1')
  expect(columns.at(-1)).toMatchObject({ name: 'Dead wood', drawn: { kind: 'related', take: 'count', where: 'Kind = "dead wood"' } })
  await click(page, '[aria-label="More on Dead wood"]')
  await click(page, '::-p-text(How it is computed)')
  await click(page, '.meetings ::-p-text(2 records of Resident reports meet none here)')
  await eventually(() => textOf(page, '.tools [role=status]'), '2 of 930 records')
})

test('a table of groups follows the trees, is gated, and opens down to its records', async () => {
  const { page } = gate
  await open('/tables/1')
  await click(page, '::-p-text(Roll up)')
  await choose(page, '[role=dialog] .v-select', 'Stands by')
  await page.keyboard.press('Escape')
  await click(page, '[role=dialog] ::-p-text(Another column)')
  await click(page, '.told + .told [data-choice="what of them"]')
  await click(page, '.v-list-item::-p-text(the mean of)')
  await click(page, '[role=dialog] ::-p-text(Make the table)')
  await find(page, '::-p-text(groups of another table, kept as that is)')
  await find(page, '.totals ::-p-text(1240)')

  const wards = await tableNamed('Wards')
  await open(wards)
  const before = Number(await inColumn('Trees', 0))
  await (await find(page, '#cell-0-0')).click()
  await click(page, '::-p-text(Its records)')
  await eventually(() => textOf(page, '.tools [role=status]'), `${before} of 1,240 records`)
  // A tree that moves to another ward is counted there at once.
  await (await find(page, '#cell-0-2')).click()
  await page.keyboard.type('Castle')
  await page.keyboard.press('Enter')
  await eventually(() => textOf(page, '.kept'), 'kept')
  await open(wards)
  await eventually(() => inColumn('Trees', 0), String(before - 1))
})

test('a gate on wards says how many wards get which label; one on a label column follows the gate', async () => {
  const { page } = gate
  await open('/gates')
  await click(page, 'a ::-p-text(Ward standing)')
  await find(page, '::-p-text(8 records)')
  await eventually(async () => (await bandCounts(page)).reduce((sum, [, one]) => sum + one, 0), 8)
})

test('an indicator has a calculation, a unit and places of its own; what is corrected elsewhere is in it', async () => {
  const { page } = gate
  const office = await tableNamed('Office indicators')
  await open(office)
  await eventually(() => inColumn('Value', 1), '142 trees')
  // How far it is from its target is measured as it is.
  expect([await inColumn('Beyond target', 0), await inColumn('Beyond target', 1)]).toEqual(['−10.8 %', '−130 trees'])
  await (await find(page, '#cell-1-5')).click()
  await page.keyboard.press('Enter')
  await click(page, 'aside [data-choice="what of them"]')
  await click(page, '.v-list-item::-p-text(what percent)')
  await click(page, '::-p-text(Keep the column)')
  await eventually(() => inColumn('Value', 1), '11 trees')
  await click(page, '::-p-text(Undo)')
  await eventually(() => inColumn('Value', 1), '142 trees')
})

test.each(['paper', 'night'] as const)('axe finds nothing on what is drawn, by %s', async (theme) => {
  const { page } = gate
  await open('/tables/1')
  await page.evaluate((one) => localStorage.setItem('dime-gate.theme', one), theme)
  await open('/tables/1')
  await (await find(page, '#cell-3-1')).click()
  await click(page, '::-p-text(New figure)')
  await click(page, '.offers ::-p-text(count or figure of related records)')
  await find(page, '.meetings')
  expect(await violationsOn(page)).toEqual([])
  await page.keyboard.press('Escape')
  await click(page, '::-p-text(Roll up)')
  await find(page, '[role=dialog] .told')
  expect(await violationsOn(page)).toEqual([])
})

test('a bench on wards follows a correction of a tree: its counts, and what stands in its list', async () => {
  const { page, address } = gate
  const desk = (await (await fetch(`${address}/api/v1/desk`)).json()) as { gates: { id: number; name: string }[] }
  await open(`/gates/${desk.gates.find(({ name }) => name === 'Ward standing')!.id}`)
  const rows = () => page.$$eval('.records .body .row', (all) => all.map((one) => (one as HTMLElement).innerText))
  await eventually(async () => (await rows()).length > 3 && (await rows()).every((row) => !row.includes('…')), true)
  const [before, trees] = [await rows(), await tableAt('/tables/1')]
  const column = trees.columns.findIndex(({ name }) => name === 'Decay')
  const send = async (path: string, body: object) => (await (await fetch(`${address}/api/v1/tables/1/${path}`, { method: 'POST', body: JSON.stringify(body) })).json()) as { cells: unknown[] }[]
  const [tree] = await send('records', { records: [1] })
  const cell = { record: 1, column: trees.columns[column]!.id, text: '99', seen: tree!.cells[column] }
  await send('changes', { kind: 'values', reading: { decimalMark: 'point', dateOrder: 'day' }, cells: [cell] })
  // Of one ward alone something else is told.
  await eventually(async () => (await rows()).filter((row, at) => row !== before[at]).length, 1)
  const after = await rows()
  await page.reload({ waitUntil: 'networkidle0' })
  await eventually(rows, after)
})
