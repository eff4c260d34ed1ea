import type { Column, Table } from '@dime-gate/contract/table'
import { violationsOn } from './testing/axe'
import { bandCounts, click, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const COURSE = '/tables/2'
const CREWS = '/tables/6'
const open = (path: string) => gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const tableAt = async (path: string) => (await (await fetch(`${gate.address}/api/v1${path}`)).json()) as Table
const columnNamed = async (path: string, name: string): Promise<Column> => (await tableAt(path)).columns.find((one) => one.name === name)!
/** What stands in a column for the record in the first row in view. */
const inColumn = (name: string, row = 0) =>
  gate.page.evaluate(
    (head, at) => {
      const heads = [...document.querySelectorAll<HTMLElement>('[role=columnheader]')]
      const index = heads.find((one) => one.querySelector('.name')?.textContent?.trim() === head)?.getAttribute('aria-colindex')
      return document.querySelector<HTMLElement>(`#cell-${at}-${Number(index) - 1}`)?.innerText.trim()
    },
    name,
    row,
  )
const expression = () => textOf(gate.page, '.expression .cm-content')
const write = async (text: string) => {
  await click(gate.page, '.expression .cm-content')
  await gate.page.keyboard.down('Control')
  await gate.page.keyboard.press('a')
  await gate.page.keyboard.up('Control')
  await gate.page.keyboard.type(text)
  // A list of completions that is open would lie over what comes below.
  await gate.page.keyboard.press('Escape')
}
const scrollRight = () => gate.page.$eval('.scroller', (scroller) => (scroller.scrollLeft = 10_000))

test('a figure is said as a sentence, shown as an expression, tried on the record in focus, and is a column then', async () => {
  const { page } = gate
  await open(COURSE)
  await (await find(page, '#cell-1-0')).click()
  await click(page, '::-p-text(New figure)')
  await click(page, '.offers li:nth-child(1) button')
  await eventually(expression, 'mean(Modules)')
  expect(await textOf(page, '.sentence')).toMatch(/^the mean.* of Modules/)
  await eventually(async () => /mean\(\[4, 5, 4.5, 4, 4.5, 4.5\]\)/.test(await textOf(page, '.working')), true)
  await click(page, '[data-choice="what of them"]')
  await click(page, '.v-list-item::-p-text(the best)')
  await eventually(expression, 'max(Modules)')
  await eventually(async () => (await textOf(page, '.working')).includes('= 5'), true)
  await type(page, 'aside input', 'Best module')
  await click(page, '::-p-text(Add the figure)')
  await eventually(() => inColumn('Best module', 1), '5')
  expect(await columnNamed(COURSE, 'Best module')).toMatchObject({ feel: 'max(Modules)', unit: 'of 5' })
  // A correction shows in it at once.
  await page.$eval('.scroller', (scroller) => (scroller.scrollLeft = 0))
  await (await find(page, '#cell-1-4')).click()
  await page.keyboard.type('2')
  await page.keyboard.press('Enter')
  await eventually(() => textOf(page, '#cell-1-4'), '2')
  await scrollRight()
  await eventually(() => inColumn('Best module', 1), '4.5')
})

test('an expression is completed, told what is wrong with it where it is wrong, and a sentence where one says the same', async () => {
  const { page } = gate
  await open(COURSE)
  await click(page, '::-p-text(New figure)')
  await click(page, '.expression .cm-content')
  await page.keyboard.type('Module 2 - Module 1 + Modle 3')
  await eventually(async () => /Nothing is named.*Did you mean/.test(await textOf(page, 'aside .trouble-words')), true)
  await find(page, '.cm-lintRange-error')
  await write('100 * (Module 2 - Module 1) / Mod')
  await page.keyboard.press('Backspace')
  await page.keyboard.press('Backspace')
  await page.keyboard.type('od')
  await find(page, '.cm-tooltip-autocomplete li')
  // What has just opened under the fingers is not taken yet.
  await new Promise((resolve) => setTimeout(resolve, 200))
  await page.keyboard.press('Enter')
  await eventually(expression, '100 * (Module 2 - Module 1) / Module 1')
  await eventually(async () => (await textOf(page, '.sentence')).startsWith('the percent by which'), true)
  expect(await page.$('aside .trouble-words')).toBeNull()
})

test('a new assessment that is brought in is in the mean, and in the grades, without anybody touching them', async () => {
  const { page } = gate
  const { id } = await columnNamed(COURSE, 'Mean of modules')
  const response = await fetch(`${gate.address}/api/v1/gates`, {
    method: 'POST',
    body: JSON.stringify({
      draft: {
        schema: 1,
        form: 'scale',
        name: 'Standing',
        on: 'Mean',
        cuts: [{ at: '3', owner: 'above' }],
        floor: null,
        ceiling: null,
        otherwise: null,
        inputs: [
          {
            name: 'Mean',
            type: 'number',
            isSet: false,
            unit: 'of 5',
            source: { kind: 'given' },
            expected: null,
            precision: { kind: 'as measured' },
            tolerance: null,
            blank: null,
          },
        ],
        outcomes: [
          {
            name: 'Label',
            type: 'text',
            labels: ['Come again', 'Climb'].map((value, rank) => ({ value, colour: '#7fa99a', mark: 'disc', rank })),
          },
        ],
        bands: [{ entries: [{ is: 'Come again' }] }, { entries: [{ is: 'Climb' }] }],
      },
      binding: { tableId: 2, inputs: { Mean: { column: id } } },
    }),
  })
  expect(response.status).toBe(201)
  const standing = ((await response.json()) as { id: number }).id
  const bench = await gate.newPage(`/gates/${standing}?on=2`)
  const climbing = async () => Object.fromEntries(await bandCounts(bench)).Climb ?? 0
  await eventually(async () => (await climbing()) > 0, true)
  const before = await climbing()
  await page.bringToFront()
  await open(COURSE)
  const names = await page.$$eval('.body [data-column="0"]', (cells) => cells.map((cell) => cell.textContent!.trim()))
  await page.evaluate((all) => {
    const data = new DataTransfer()
    data.items.add(new File([`Trainee,Module 7\n${all.map((name) => `${name},0`).join('\n')}\n`], 'module-7.csv'))
    window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
  }, names)
  await find(page, '.plan')
  await eventually(() => page.$eval('.incoming .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled), true)
  await click(page, '.incoming .v-btn.primary')
  await eventually(async () => (await tableAt(COURSE)).columns.some(({ name }) => name === 'Module 7'), true)
  await bench.bringToFront()
  await eventually(async () => (await climbing()) < before, true)
  await bench.close()
})

test('a length of service is told in years, in months and in days, so that nobody is robbed of eleven months', async () => {
  const { page } = gate
  await open(CREWS)
  const rows = await page.$$eval('.body [data-record]', (all) => all.map((row) => (row as HTMLElement).innerText))
  const robbed = rows.findIndex((row) => row.includes('12 Mar 2018') || row.includes('13 Mar 2018') || row.includes('10 Mar 2018'))
  expect(robbed).toBeGreaterThanOrEqual(0)
  await (await find(page, `#cell-${robbed}-0`)).click()
  await click(page, '::-p-text(New figure)')
  await click(page, '.offers button::-p-text(completed years)')
  await eventually(async () => /= 7.*In full: 7 years and 11 months, or 2,91\d days/.test(await textOf(page, '.working')), true)
  await click(page, '[data-choice="counted in"]')
  await click(page, '.v-list-item::-p-text(the completed months)')
  await eventually(async () => (await textOf(page, '.working')).includes('= 95'), true)
})

test('what is computed is not typed over; how it is computed is a key away, and can be changed and taken back', async () => {
  const { page } = gate
  await open(CREWS)
  const before = await inColumn('Months of service')
  const at = (await tableAt(CREWS)).columns.findIndex(({ name }) => name === 'Months of service')
  await (await find(page, `#cell-0-${at}`)).click()
  await page.keyboard.press('Delete')
  await find(page, '.v-snackbar ::-p-text(is computed)')
  expect(await inColumn('Months of service')).toBe(before)
  await page.keyboard.press('Enter')
  await find(page, 'aside[aria-label="The figure Months of service"]')
  await write('Years of service * 12')
  await eventually(async () => (await textOf(page, 'aside')).includes('38 computed'), true)
  await click(page, '::-p-text(Keep the figure)')
  await eventually(async () => (await columnNamed(CREWS, 'Months of service')).feel, 'Years of service * 12')
  await eventually(async () => (await inColumn('Months of service')) !== before, true)
  await click(page, '::-p-text(Undo)')
  await eventually(() => inColumn('Months of service'), before)
})

test('who is in a set is told where it is used, and can be changed there', async () => {
  const { page } = gate
  await open(COURSE)
  await click(page, '::-p-text(New figure)')
  await click(page, '.offers li:nth-child(1) button')
  expect(await textOf(page, '.set')).toMatch(
    /^Modules is Module 1 to Module \d, \d columns, and any column of numbers named “Module …” that comes later/,
  )
  await click(page, '.set button')
  await click(page, '[role=dialog] label::-p-text(chosen here)')
  for (const name of ['Module 1', 'Module 2']) await click(page, `[role=dialog] .choices label::-p-text(${name})`)
  await click(page, '::-p-text(Keep the set)')
  await eventually(async () => (await tableAt(COURSE)).sets[0]!.by.kind, 'columns')
  await eventually(async () => /^Modules is Module 3 to|^Modules is Module 3,/.test(await textOf(page, '.set')), true)
})

test.each(['paper', 'night'])('axe finds nothing on a figure that is being written, by %s', async (theme) => {
  const { page } = gate
  await page.evaluate((name) => localStorage.setItem('dime-gate.theme', name), theme)
  await open(COURSE)
  await (await find(page, '#cell-1-0')).click()
  await click(page, '::-p-text(New figure)')
  await click(page, '.offers li:nth-child(1) button')
  await find(page, '.working')
  expect(await violationsOn(page)).toEqual([])
})
