import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { bandCounts, chooseFile, click, type DimeGate, eventually, find, focus, openDimeGate, postPlace, textOf, trayCount, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate()
})
afterAll(() => gate.close())

/** Ropes and what they held: not the demo, decimal comma, semicolons, and flaws of its own. */
const LOADS = [
  '4,5', '12', '12,0', '8,25', '', 'n/a', '19,99', '20', '20,000', '31', '44,4', '59,9', '60', '60,5', '75', '88,1', '90', '120', '3', '18',
  '22', '27,3', '35', '41', '12,0000000000000000001', '59,999999999999999999',
]
const ROPES = LOADS.map((load, index) => ({ name: `R${String(index + 1).padStart(2, '0')}`, load, note: index % 7 === 0 ? 'wet; "old"' : '' }))
const quoted = (text: string) => (/[";]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)
const FILE = ['Rope;Load (kN);Note', ...ROPES.map(({ name, load, note }) => [name, load, note].map(quoted).join(';'))].join('\r\n') + '\r\n'

/** The loads by hand, as whole numbers of 10^-19, so that nothing here is rounded. */
const UNIT = 10n ** 19n
function exact(text: string): bigint | null {
  const parts = /^(\d+)(?:,(\d+))?$/.exec(text)
  return parts ? BigInt(parts[1]!) * UNIT + BigInt((parts[2] ?? '').padEnd(19, '0')) : null
}
const values = LOADS.map(exact)
/** How many loads are at least `from` and below `to`. */
const between = (from: number, to: number) => values.filter((value) => value !== null && value >= BigInt(from * 10) * (UNIT / 10n) && value < BigInt(to * 10) * (UNIT / 10n)).length

test('a table comes in, one figure is cut, every record gets its label, and the labelled table goes out', async () => {
  const { page } = gate

  // The file is looked at before it is brought in.
  await chooseFile(page, await gate.file('ropes.csv', FILE))
  await find(page, '[aria-label="Type of Load"]')
  expect(await page.$eval('[aria-label="Type of Load"]', (select) => (select as HTMLSelectElement).value)).toBe('number')
  expect(await page.$$eval('thead input.unit', (inputs) => inputs.map((input) => (input as HTMLInputElement).value))).toEqual(['', 'kN', ''])
  await type(page, '.table-name input', 'Ropes')
  await click(page, '::-p-text(Bring it in)')
  await find(page, 'h1::-p-text(Ropes)')
  await find(page, '::-p-text(1 unreadable)')

  // A first scale, on the column of numbers.
  await click(page, '::-p-text(New gate)')
  await click(page, '[role=dialog] [data-side=scale]')
  await click(page, '.choice ::-p-text(Load)')
  await find(page, '[data-band="High"]')
  await type(page, '[aria-label="Name of the gate"]', 'Rope class')
  await page.keyboard.press('Enter')

  // Type the cuts.
  await type(page, '[data-cut="0"] input', '12')
  await page.keyboard.press('Enter')
  await type(page, '[data-cut="1"] input', '60')
  await page.keyboard.press('Enter')
  await eventually(() => bandCounts(page), [['High', between(60, 1000)], ['Middle', between(12, 60)], ['Low', between(0, 12)]])
  expect(await trayCount(page, 'held')).toBe(2)
  expect(await trayCount(page, 'unreadable')).toBe(1)
  expect(await trayCount(page, 'on an edge')).toBe(3)

  // One more cut from the keyboard, put on 20; then drag it, and the counts follow to where it stands.
  await page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await page.keyboard.press('c')
  await find(page, '[data-cut="2"]')
  const middle = await page.$$eval('.value input', (inputs) => inputs.findIndex((input) => input.classList.contains('selected')))
  expect(middle).toBe(2)
  await type(page, '[data-cut="2"] input', '100')
  await page.keyboard.press('Enter')
  await eventually(async () => (await bandCounts(page)).map(([, records]) => records), [between(100, 1000), between(60, 100), between(12, 60), between(0, 12)])

  const from = await postPlace(page, 0)
  const to = await postPlace(page, 1)
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x + (to.x - from.x) / 6, from.y, { steps: 8 })
  await page.mouse.up()
  const dragged = Number(await page.$eval('[data-cut="0"] input', (input) => (input as HTMLInputElement).value.replace(',', '.')))
  expect(dragged).toBeGreaterThan(15)
  expect(dragged).toBeLessThan(25)
  await eventually(async () => (await bandCounts(page)).map(([, records]) => records), [between(100, 1000), between(60, 100), between(dragged, 60), between(0, dragged)])

  // A drag is one step back; and forth; and the keyboard nudges.
  await page.keyboard.press('u')
  await eventually(() => page.$eval('[data-cut="0"] input', (input) => (input as HTMLInputElement).value), '12')
  await page.keyboard.press('U')
  await eventually(async () => Number(await page.$eval('[data-cut="0"] input', (input) => (input as HTMLInputElement).value)), dragged)
  await type(page, '[data-cut="0"] input', '20')
  await page.keyboard.press('Enter')
  await focus(page, '[data-post="0"]')
  await page.keyboard.press('o')
  await eventually(() => page.$eval('[data-side="below"]', (side) => side.getAttribute('aria-checked')), 'true')
  await eventually(async () => (await bandCounts(page)).map(([, records]) => records), [between(100, 1000), between(60, 100), between(20, 60) - 2, between(0, 20) + 2])
  // Take the cut at 100 away again, set a ceiling instead.
  await focus(page, '[data-post="2"]')
  await page.keyboard.press('Delete')
  await click(page, '::-p-text(no ceiling)')
  await type(page, 'input[aria-label="ceiling"]', '100')
  await page.keyboard.press('Enter')
  await eventually(() => trayCount(page, 'unplaced'), 1)

  // Name the lowest band; look at one tray.
  await type(page, '[data-band="Low"] .name', 'twine')
  await page.keyboard.press('Enter')
  await click(page, '[data-band="twine"] .shows')
  const listed = () => page.$$eval('.body [data-record]', (rows) => rows.map((row) => Number((row as HTMLElement).dataset.record)))
  const twine = values.flatMap((value, index) => (value !== null && value <= 20n * UNIT ? [index + 1] : []))
  await eventually(listed, twine)
  await click(page, '[data-tray="held"]')
  await eventually(listed, [5, 6])
  expect(await page.$$eval('[data-cell=reason]', (cells) => cells.map((cell) => cell.textContent))).toEqual(['blank, so held', '“n/a” is not a number'])

  // Set version 1, keep a run, and find it again after the server was gone.
  await click(page, '::-p-text(Set version 1)')
  await click(page, '::-p-text(Keep a run)')
  await find(page, '[data-tube="twine"]')
  const path = new URL(page.url()).pathname
  await gate.restartServer()
  await page.goto(gate.address + path, { waitUntil: 'networkidle0' })
  expect(await textOf(page, 'h1')).toBe('Rope class, run 1')
  const tubes = () => page.$$eval('[data-tube]', (all) => all.map((tube) => [(tube as HTMLElement).dataset.tube, Number((tube as HTMLElement).querySelector<HTMLElement>('.records')!.innerText)]))
  const counts = { twine: twine.length, Middle: between(20, 60) - 2, High: between(60, 100), unplaced: 1, held: 2 }
  expect(await tubes()).toEqual(Object.entries(counts))
  await eventually(() => page.$$eval('.body [data-cell=reason]', (cells) => cells.filter((cell) => cell.textContent !== '').length), 6)

  // The labelled table goes out: every value as it came in, and what the gate said beside it.
  await page.keyboard.press('e')
  const name = 'Ropes, Rope class run 1.csv'
  await eventually(async () => (await readdir(gate.folder)).filter((file) => file === name), [name])
  const expected = ROPES.map(({ name: rope, load, note }, index) => {
    const value = values[index] ?? null
    const said = value === null ? ['', 'held', ''] : value <= 20n * UNIT ? ['twine', 'labelled', '<= 20'] : value < 60n * UNIT ? ['Middle', 'labelled', '(20..60)'] : value <= 100n * UNIT ? ['High', 'labelled', '[60..100]'] : ['', 'unplaced', '']
    return [rope, load, note, ...said].map((text) => (/[",]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)).join(',')
  })
  await eventually(() => readFile(join(gate.folder, name), 'utf8'), ['Rope,Load (kN),Note,Rope class,Rope class status,Rope class limits', ...expected, ''].join('\r\n'))
})
