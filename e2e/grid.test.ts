import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { GridGate } from '@dime-gate/core/gate/document'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { click, eventually, find, focus, textOf } from './testing/dime-gate'
import { handOn } from './testing/hand'
import { keysOn } from './testing/keys'

let gate: Demo
beforeAll(async () => {
  gate = await openDemo()
})
afterAll(() => gate.close())

const ask = <Answer>(path: string) => gate.ask<Answer>(path)
const draft = async () => (await ask<Gate>(`/gates/${/gates\/(\d+)/.exec(gate.page.url())![1]}`)).draft as GridGate
const counts = () => gate.page.$$eval('.board [role=row]', (rows) => rows.map((row) => [...row.querySelectorAll('[data-cell=count]')].map((one) => Number((one as HTMLElement).innerText.replaceAll(/\D/g, '') || NaN))))
const labels = async () => (await draft()).cells.map((line) => line.map((entries) => { const entry = entries?.[0]; return entry && 'is' in entry ? entry.is : null }))
const cell = (down: number, across: number) => `[data-cell-place="${down} ${across}"]`
const focusedCell = () => gate.page.evaluate(() => (document.activeElement as HTMLElement).dataset.cellPlace ?? document.activeElement?.getAttribute('aria-label') ?? '')
const key = (name: string) => gate.page.keyboard.press(name as 'Enter')

const BANDS = ['< 12', 'between 12 and 24.999', 'between 25 and 39.999', '>= 40']
const PLACES = [['verge'], ['road', 'footway'], ['school', 'play area']]
async function sql(bands: readonly string[], places: readonly string[][]): Promise<number[][]> {
  const { columns } = await ask<Table>('/tables/1')
  const id = (name: string) => columns.find((one) => one.name === name)!.id
  const counted = async (band: string, values: readonly string[]) => {
    const { rows } = await gate.database.query<{ records: string }>(`select count(*) as records from records.t1 where until is null and c${id('Decay')} ${band} and c${id('Stands by')} = any($1)`, [values])
    return Number(rows[0]!.records)
  }
  const found: number[][] = bands.map(() => [])
  // One after the other, as a connection takes questions.
  for (const [line, band] of bands.entries()) for (const values of places) found[line]!.push(await counted(band, values))
  return found
}

async function newGrid(by: ReturnType<typeof handOn>): Promise<void> {
  await gate.page.goto(`${gate.address}/tables/1`, { waitUntil: 'networkidle0' })
  await by.key('n')
  await find(gate.page, '[role=dialog] .start:not(:disabled)')
  await by.click('[role=dialog] [data-side=grid]')
  await by.click('[role=dialog] .choice ::-p-text(Decay)')
  await by.click('[role=dialog] .choice ::-p-text(Stands by)')
  await find(gate.page, '.board [role=gridcell]')
  await eventually(async () => (await counts()).flat().every((one) => !Number.isNaN(one)), true)
}

/** Cuts at 12, 25 and 40, and three lines across, from what a first draft has. */
async function shape(by: ReturnType<typeof handOn>): Promise<void> {
  await by.click('.corner ::-p-text(cut by)')
  await eventually(focusedCell, 'Cuts in a list')
  await by.type('12, 25, 40')
  await by.key('Enter')
  await eventually(async () => (await gate.page.$$('.side.down [data-cut]')).length, 3)
  for (const [line, other] of [['footway', 'road'], ['play area', 'school']] as const) {
    await by.drag(`.side.across .words[title="${line}"]`, `.side.across .words[title="${other}"]`)
    await find(gate.page, `.side.across .words ::-p-text(${other}, ${line})`)
  }
}

test('Hazard grid from nothing: shaped by hand, painted by dragging over cells', async () => {
  const by = handOn(gate.page)
  await newGrid(by)
  await shape(by)
  const linesNow = async () => { const { across } = await draft(); return across.kind === 'list' ? across.lines : [] }
  await eventually(async () => (await linesNow()).length, 3)
  const lines = await linesNow()
  expect(lines.map((values) => values.toSorted().join()).toSorted()).toEqual(PLACES.map((values) => values.toSorted().join()).toSorted())
  await eventually(counts, await sql(BANDS, lines))
  const at = (value: string) => lines.findIndex((line) => line.includes(value))
  const [verge, road, school] = [at('verge'), at('road'), at('school')]
  const name = async (label: string) => {
    await by.key('n')
    await eventually(focusedCell, 'New label')
    await by.type(label)
    await by.key('Enter')
    await eventually(async () => (await labels()).flat().includes(label), true)
  }
  // The first label is everywhere; each of the others is painted over a rectangle of what is left.
  await name('Low')
  const [left, right] = [Math.min(road, school), Math.max(road, school)]
  for (const [down, label] of [[1, 'Middle'], [2, 'High'], [3, 'Extreme']] as const) {
    await by.drag(cell(down, left), cell(3, right))
    await name(label)
  }
  // Verge stands among the others, and gets its own back.
  for (const [down, label] of [[1, 'Low'], [2, 'Middle'], [3, 'High']] as const) {
    await by.click(`[data-paint=${label}]`)
    await by.click(cell(down, verge))
  }
  const row = (verge_: string, others: string) => lines.map((_, line) => (line === verge ? verge_ : others))
  await eventually(labels, [row('Low', 'Low'), row('Low', 'Middle'), row('Middle', 'High'), row('High', 'Extreme')])
  await eventually(counts, await sql(BANDS, lines))
  process.stdout.write(`Hazard grid by mouse: ${by.count()} actions\n`)
  expect(by.count()).toBeLessThanOrEqual(30)
  expect(await violationsOn(gate.page)).toEqual([])
})

test('Hazard grid from nothing by keyboard alone', async () => {
  const { page } = gate
  const { newGate, tabTo, press, pressWith, choose, focused } = keysOn(page, gate.address)
  await newGate(1, 'Grid', ['Decay', 'Stands by'], '.board [role=gridcell]')
  await page.focus('main')
  await tabTo('cut by')
  await press('Enter')
  await eventually(focused, 'Cuts in a list')
  await page.keyboard.type('12, 25, 40')
  await press('Enter')
  await eventually(async () => (await page.$$('.side.down [data-cut]')).length, 3)
  const lines = async () => { const { across } = await draft(); return across.kind === 'list' ? across.lines : [] }
  for (const [line, other] of [['footway', 'road'], ['play area', 'school']] as const) {
    const before = (await lines()).length
    await page.focus('main')
    await tabTo(`What to do with the line ${line}`)
    await press('Enter')
    await find(page, '.v-list-item')
    await choose(`Join with ${other}`)
    await eventually(async () => (await lines()).length, before - 1)
  }
  const all = await lines()
  expect(all.map((values) => values.toSorted().join()).toSorted()).toEqual(PLACES.map((values) => values.toSorted().join()).toSorted())
  const wanted = (values: readonly string[]) => (values.includes('verge') ? ['Low', 'Low', 'Middle', 'High'] : ['Low', 'Middle', 'High', 'Extreme'])
  // The labels first, over all cells; then cell by cell, line after line, by their figures.
  const figures = ['Low', 'Middle', 'High', 'Extreme']
  await page.focus('main')
  await tabTo(`Decay under 12, Stands by ${all[0]!.join(', ')}`)
  await pressWith('Control', 'a')
  for (const label of figures) {
    await press('n')
    await eventually(focusedCell, 'New label')
    await page.keyboard.type(label)
    await press('Enter')
    await find(page, `[data-paint="${label}"]`)
    await eventually(focusedCell, '0 0')
  }
  for (const [across, values] of all.entries()) {
    for (const [down, label] of wanted(values).entries()) {
      await eventually(focusedCell, `${down} ${across}`)
      await press(String(figures.indexOf(label) + 1))
      if (down < 3) await press('ArrowDown')
    }
    if (across === all.length - 1) break
    await press('ArrowRight')
    for (let up = 0; up < 3; up++) await press('ArrowUp')
  }
  await eventually(labels, [0, 1, 2, 3].map((down) => all.map((values) => wanted(values)[down]!)))
  await eventually(counts, await sql(BANDS, all))
  expect(await violationsOn(page)).toEqual([])
})

test('by keyboard: cells are chosen with arrows, and painted by a figure', async () => {
  const by = handOn(gate.page)
  await newGrid(by)
  await gate.page.focus(cell(0, 0))
  const { across, down } = await draft()
  const [width, height] = [across.kind === 'list' ? across.lines.length : 0, down.kind === 'scale' ? down.cuts.length + 1 : 0]
  await by.keyWith('Control', 'a')
  await by.key('n')
  await eventually(focusedCell, 'New label')
  await by.type('Low')
  await by.key('Enter')
  await eventually(labels, Array.from({ length: height }, () => Array<string>(width).fill('Low')))
  await eventually(focusedCell, '0 0')
  await by.key('ArrowDown')
  await eventually(focusedCell, '1 0')
  await by.keyWith('Shift', 'ArrowRight')
  await by.keyWith('Shift', 'ArrowDown')
  await by.key('n')
  await by.type('High')
  await by.key('Enter')
  await eventually(async () => (await labels()).flat().filter((label) => label === 'High').length, 4)
  await by.key('0')
  await eventually(async () => (await labels()).flat().filter((label) => label === null).length, 4)
  // Cells without a label are counted all the same.
  await eventually(async () => (await counts()).flat().some(Number.isNaN), false)
  await key('u')
  await eventually(async () => (await labels()).flat().filter((label) => label === null).length, 0)
  await key('t')
  await eventually(async () => [(await draft()).down.on, (await labels()).length], ['Stands by', width])
})

test('a cut on a side is dragged, nudged and told whose its value is; the counts follow, and undo takes a drag back whole', async () => {
  const desk = await ask<{ gates: { id: number; name: string }[] }>('/desk')
  await gate.page.goto(`${gate.address}/gates/${desk.gates.find(({ name }) => name === 'Hazard grid')!.id}`, { waitUntil: 'networkidle0' })
  await eventually(counts, await sql(BANDS.with(0, 'between 0 and 11.999').with(3, 'between 40 and 100'), PLACES))
  const post = (await (await find(gate.page, '[data-post="down 1"] .pole')).boundingBox())!
  await gate.page.mouse.move(post.x + 6, post.y + 1)
  await gate.page.mouse.down()
  for (let step = 1; step <= 8; step++) await gate.page.mouse.move(post.x + 6, post.y + 1 + step * 2)
  await gate.page.mouse.up()
  const cuts = async () => { const { down } = await draft(); return down.kind === 'scale' ? down.cuts.map(({ at }) => Number(at)) : [] }
  await eventually(async () => (await cuts())[1]! > 25, true)
  const at = (await cuts())[1]!
  await eventually(counts, await sql(['between 0 and 11.999', `>= 12 and c${(await ask<Table>('/tables/1')).columns.find(({ name }) => name === 'Decay')!.id} < ${at}`, `>= ${at} and c${(await ask<Table>('/tables/1')).columns.find(({ name }) => name === 'Decay')!.id} < 40`, 'between 40 and 100'], PLACES))
  await key('u')
  await eventually(cuts, [12, 25, 40])
  await focus(gate.page, '[data-post="down 0"]')
  await key('o')
  await eventually(async () => { const { down } = await draft(); return down.kind === 'scale' ? down.cuts[0]!.owner : '' }, 'below')
  await key('ArrowDown')
  await eventually(async () => (await cuts())[0]! > 12, true)
  await focus(gate.page, '[data-post="down 2"]')
  await key('Delete')
  await eventually(async () => (await counts()).length, 3)
})

test('a cell lists its records; a line does too', async () => {
  await click(gate.page, cell(0, 1))
  const records = (await counts())[0]![1]!
  await eventually(async () => (await textOf(gate.page, '.tab.here')).endsWith(`road, footway ${records}`), true)
  await click(gate.page, '.side.across .words ::-p-text(verge)')
  await eventually(async () => /^Stands by verge \d+$/.test(await textOf(gate.page, '.tab.here')), true)
})
