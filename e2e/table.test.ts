import { choose, click, type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'
import type { HTTPRequest, Page } from 'puppeteer-core'
import { violationsOn } from './testing/axe'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const COURSE = '/tables/2'
const open = (path: string, page = gate.page) => page.goto(gate.address + path, { waitUntil: 'networkidle0' })
const cell = (row: number, column: number, page: Page = gate.page) => textOf(page, `#cell-${row}-${column}`)
const kept = (page: Page = gate.page) => eventually(() => textOf(page, '.kept'), 'kept')

async function at(row: number, column: number, page: Page = gate.page): Promise<void> {
  await (await find(page, `#cell-${row}-${column}`)).click()
}

async function typed(text: string, then = 'Enter', page: Page = gate.page): Promise<void> {
  await page.keyboard.type(text)
  await page.keyboard.press(then as 'Enter')
}

test('a value is corrected by keyboard, kept at once, counted at its head, and taken back', async () => {
  const { page } = gate
  await open(COURSE)
  await at(0, 3)
  const before = await cell(0, 3)
  await typed('absent')
  await eventually(() => cell(0, 3), 'absent')
  await kept()
  await eventually(
    async () => (await page.$$eval('.quality button', (all) => all.map((one) => one.textContent))).includes('1 unreadable'),
    true,
  )
  await typed('5', 'Tab')
  await eventually(() => cell(1, 3), '5')
  // The keyboard stands where Tab led.
  expect(await page.$eval('[role=grid]', (grid) => grid.getAttribute('aria-activedescendant'))).toBe('cell-1-4')
  await click(page, '::-p-text(Undo)')
  await click(page, '::-p-text(Undo)')
  await eventually(() => cell(0, 3), before)
  await click(page, '::-p-text(Redo)')
  await eventually(() => cell(0, 3), 'absent')
  // It is kept: a reload shows the same.
  await open(COURSE)
  await eventually(() => cell(0, 3), 'absent')
})

test('what is typed before the records are here is typed all the same, and waits for what stands there', async () => {
  const { page } = gate
  const held: HTTPRequest[] = []
  let isHolding = true
  const hold = (request: HTTPRequest) => {
    if (isHolding && request.url().endsWith('/tables/2/records')) held.push(request)
    else void request.continue()
  }
  await page.setRequestInterception(true)
  page.on('request', hold)
  try {
    await page.goto(gate.address + COURSE)
    await at(2, 4)
    expect(await cell(2, 4)).toBe('…')
    await typed('3.7')
    await typed('2.9')
    // To change what stands there one has to wait for it.
    await page.keyboard.press('F2')
    isHolding = false
    await Promise.all(held.map((request) => request.continue()))
    await find(page, '#cell-4-4 input')
    await page.keyboard.press('Escape')
    await eventually(async () => [await cell(2, 4), await cell(3, 4)], ['3.7', '2.9'])
    await kept()
    await click(page, '::-p-text(Undo)')
    await click(page, '::-p-text(Undo)')
    await eventually(async () => [await cell(2, 4), await cell(3, 4)].includes('3.7'), false)
  } finally {
    page.off('request', hold)
    await page.setRequestInterception(false)
  }
})

test('a record tells what is expected of a value that does not fit, and what became of it', async () => {
  const { page } = gate
  await open(COURSE)
  await at(0, 3)
  await page.keyboard.press('Escape')
  await click(page, '::-p-text(Show the record)')
  await find(page, 'aside ::-p-text(expected: a number from 0 to 5)')
  await find(page, 'aside ::-p-text(absent)')
  await find(page, 'aside ::-p-text(From the file)')
})

test('one step from a head leads to exactly the records with trouble, and the address says so', async () => {
  const { page } = gate
  await open('/tables/1')
  await click(page, '[role=columnheader]:nth-of-type(1) ~ [role=columnheader] .quality ::-p-text(2 unreadable)')
  await eventually(() => page.$$eval('.body [data-record]', (rows) => rows.length), 2)
  expect(await textOf(page, '.tools [role=status]')).toBe('2 of 1,240 records')
  const address = page.url()
  await open(address.replace(gate.address, ''))
  await eventually(() => page.$$eval('.body [data-record]', (rows) => rows.length), 2)
  await page.keyboard.press('Escape')
  await eventually(async () => (await page.$$eval('.body [data-record]', (rows) => rows.length)) > 10, true)
})

test('records are found, sorted by several columns, and listed by a range', async () => {
  const { page } = gate
  await open(COURSE)
  await click(page, '[aria-label="Find in all columns"]')
  await page.keyboard.type('Copperholt')
  await page.keyboard.press('Enter')
  await eventually(
    async () => await page.$$eval('.body [data-column="0"]', (cells) => cells.every((one) => one.textContent!.includes('Copperholt'))),
    true,
  )
  await open(COURSE)
  await click(page, '.name ::-p-text(Group)')
  await page.keyboard.down('Shift')
  await click(page, '.name ::-p-text(Trainee)')
  await page.keyboard.up('Shift')
  await eventually(async () => {
    const pairs = await page.$$eval('.body [data-record]', (rows) =>
      rows
        .slice(0, 12)
        .map((row) =>
          [row.querySelector('[data-column="1"]')!.textContent!, row.querySelector('[data-column="0"]')!.textContent!].join(' '),
        ),
    )
    return (
      pairs.length > 5 && JSON.stringify(pairs) === JSON.stringify(pairs.toSorted()) && pairs.every((pair) => pair.startsWith('Monday'))
    )
  }, true)
  await click(page, '[aria-label="More on Module 1"]')
  await page.type('[aria-label="Module 1 from"]', '4.5')
  await page.keyboard.press('Enter')
  await eventually(async () => (await textOf(page, '.chip')).trim().startsWith('Module 1 from 4.5'), true)
  await eventually(
    () => page.$$eval('.body [data-column="3"]', (cells) => cells.length > 0 && cells.every((one) => Number(one.textContent) >= 4.5)),
    true,
  )
})

test('a block is pasted, many cells are cleared at once, and each is one step back', async () => {
  const { page } = gate
  await open(COURSE)
  await at(4, 3)
  const before = [await cell(4, 3), await cell(4, 4), await cell(5, 3)]
  // Whoever goes on before the first change is kept quarrels with nobody.
  const letGo = await gate.holdRecords(2)
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.setData('text/plain', '1\t2\n3\tlate')
    document
      .querySelector('[role=grid]')!
      .dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await eventually(async () => [await cell(4, 3), await cell(4, 4), await cell(5, 3), await cell(5, 4)], ['1', '2', '3', 'late'])
  await page.keyboard.down('Shift')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.up('Shift')
  await page.keyboard.press('Delete')
  await eventually(async () => [await cell(4, 3), await cell(5, 4)], ['blank', 'blank'])
  expect(await textOf(page, '.kept')).toBe('keeping …')
  await letGo()
  await kept()
  await eventually(async () => [await cell(4, 3), await cell(5, 4)], ['blank', 'blank'])
  await page.keyboard.press('Escape')
  await click(page, '::-p-text(Undo)')
  await click(page, '::-p-text(Undo)')
  await eventually(async () => [await cell(4, 3), await cell(4, 4), await cell(5, 3)], before)
})

test('a record and a column are added and removed, and that is taken back', async () => {
  const { page } = gate
  await open(COURSE)
  await click(page, '::-p-text(Add a record)')
  await eventually(() => page.$eval('[role=grid]', (grid) => grid.getAttribute('aria-activedescendant')), 'cell-64-0')
  await typed('Wenmere Hazelby')
  await eventually(() => cell(64, 0), 'Wenmere Hazelby')
  await at(64, 0)
  await click(page, '::-p-text(Remove the record)')
  await find(page, '::-p-text(64 records, 14 columns)')
  await click(page, '.v-snackbar ::-p-text(Take it back)')
  await find(page, '::-p-text(65 records, 14 columns)')

  await click(page, '::-p-text(Add a column)')
  await page.type('[role=dialog] input[type=text]', 'Knots')
  await click(page, '::-p-text(Add it)')
  await find(page, '.name ::-p-text(Knots)')
  await click(page, '[aria-label="More on Knots"]')
  await click(page, '::-p-text(Remove the column)')
  await eventually(() => page.$$eval('.headbox .name', (names) => names.some((name) => name.textContent!.includes('Knots'))), false)
})

test('a column is hidden, and that is remembered; it is given another type, and what does not fit is kept', async () => {
  const { page } = gate
  await open(COURSE)
  await click(page, '[aria-label="More on Group"]')
  await click(page, '.menu ::-p-text(Hide)')
  await find(page, '::-p-text(1 hidden column)')
  await open(COURSE)
  await click(page, '::-p-text(1 hidden column)')
  await click(page, '::-p-text(Show Group)')
  await find(page, '.name ::-p-text(Group)')
  await click(page, '[aria-label="More on Group"]')
  await click(page, '::-p-text(Name, type, unit)')
  await choose(page, '[role=dialog] .v-select', 'number')
  await click(page, '[role=dialog] ::-p-text(Keep)')
  await find(page, '::-p-text(64 unreadable)').catch(() => find(page, '::-p-text(65 unreadable)'))
  await eventually(() => cell(0, 1), 'Monday')
  await click(page, '::-p-text(Undo)')
  await eventually(() => page.$$eval('.quality button', (all) => all.some((one) => /6[45] unreadable/.test(one.textContent!))), false)
})

test('two look at one table: what one changes the other sees; of two changes to one value the second is told, and sees both', async () => {
  await open(COURSE)
  const other = await gate.newPage(COURSE)
  await find(other, '#cell-2-5')
  await gate.page.bringToFront()
  await at(2, 5)
  await typed('1.5')
  await kept()
  await other.bringToFront()
  await eventually(() => cell(2, 5, other), '1.5')

  // The other has the field open while the value moves under it.
  await at(3, 5, other)
  await other.keyboard.press('F2')
  const table = 2
  const column = await other.evaluate(async () => {
    const found = (await (await fetch('/api/v1/tables/2')).json()) as { columns: { id: number; name: string }[] }
    return found.columns.find(({ name }) => name === 'Module 3')!.id
  })
  const record = await other.$eval('#cell-3-5', (one) => Number((one.closest('[data-record]') as HTMLElement).dataset.record))
  const seen = (await (
    await fetch(`${gate.address}/api/v1/tables/${table}/records`, { method: 'POST', body: JSON.stringify({ records: [record] }) })
  ).json()) as { cells: [string | null, string | null][] }[]
  await fetch(`${gate.address}/api/v1/tables/${table}/changes`, {
    method: 'POST',
    body: JSON.stringify({
      kind: 'values',
      reading: { decimalMark: 'point', dateOrder: 'day' },
      cells: [{ record, column, text: '0.5', seen: seen[0]!.cells[5] }],
    }),
  })
  // The other page has seen it by now, and its field is still open on what stood there before.
  await new Promise((resolve) => setTimeout(resolve, 1500))
  await other.keyboard.type('4')
  await other.keyboard.press('Enter')
  await find(other, '[role=dialog] ::-p-text(Changed elsewhere meanwhile)')
  expect(await textOf(other, '[role=dialog] tbody tr')).toMatch(/0\.5.*4|4.*0\.5/s)
  await click(other, '::-p-text(Store mine)')
  await eventually(() => cell(3, 5, other), '4')
  await other.close()
})

test('a gate whose bench is open follows what is corrected in the table', async () => {
  const { page } = gate
  await open(COURSE)
  const bench = await gate.newPage('/gates/7?on=2')
  const labels = () => textOf(bench, '[role=table]')
  await find(bench, '.body [data-record]')
  const before = await labels()
  await page.bringToFront()
  await at(6, 3)
  await typed('0')
  await kept()
  await bench.bringToFront()
  await eventually(async () => (await labels()) !== before, true)
  await bench.close()
})

test('a table is taken out in the format that is chosen', async () => {
  const { page } = gate
  await open(COURSE)
  await click(page, '::-p-text(Take out)')
  const links = await page.$$eval('.v-list-item[href]', (items) => items.map((item) => item.getAttribute('href')))
  // Each has a ticket, by which it is told whether it waits.
  expect(links.map((link) => link!.replace(/\?ticket=[0-9a-f-]{36}$/, ''))).toEqual(['csv', 'xlsx', 'ods', 'json', 'jsonl', 'arrow'].map((format) => `/api/v1/tables/2/file.${format}`))
  for (const link of links) expect((await fetch(gate.address + link!)).status).toBe(200)
})

test('a change is taken back from the history, also after a reload', async () => {
  const { page } = gate
  await open('/tables/6')
  const before = await cell(1, 3)
  await at(1, 3)
  await typed('Elsewhere')
  await kept()
  await open('/tables/6')
  await click(page, '::-p-text(History)')
  await find(page, '.history ::-p-text(Base changed in 1 record)')
  await click(page, '.history ::-p-text(Take back)')
  await eventually(() => cell(1, 3), before)
})

test('a file that is dropped on a table goes into it: what it would do is told first, and it can be taken back', async () => {
  const { page } = gate
  await open('/tables/6')
  const [first] = await page.$$eval('.body [data-column="0"]', (cells) => cells.map((one) => one.textContent!))
  await page.evaluate((name) => {
    const data = new DataTransfer()
    data.items.add(new File([`Name,Ropes\n${name},7\nOrlo Newby,2\n`], 'ropes.csv'))
    window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
  }, first!)
  await find(page, '.plan')
  const plan = await textOf(page, '.plan')
  expect(plan).toMatch(/found again by Name.*1 added Orlo Newby.*1 changed.*Ropes: blank → 7.*1 new column Ropes/)
  await eventually(() => page.$eval('.incoming .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled), true)
  await click(page, '.incoming .v-btn.primary')
  await find(page, '.name ::-p-text(Ropes)')
  await find(page, '::-p-text(39 records, 7 columns)')
  await click(page, '.v-snackbar ::-p-text(Take it back)')
  await find(page, '::-p-text(38 records, 6 columns)')
})

test.each(['paper', 'night'])('axe finds nothing on a table in use, nor on a file on its way into it, by %s', async (theme) => {
  const { page } = gate
  await page.evaluate((name) => localStorage.setItem('dime-gate.theme', name), theme)
  // What is scrolled half-way under the columns that stay in view is no target there.
  await page.setViewport({ width: 2000, height: 900 })
  await open('/tables/1')
  await at(2, 4)
  await click(page, '::-p-text(Show the record)')
  await find(page, 'aside ::-p-text(From the file)')
  await click(page, '[aria-label="More on Decay"]')
  await find(page, '.menu')
  expect(await violationsOn(page)).toEqual([])
  await page.keyboard.press('Escape')
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.items.add(new File(['Tree no,Decay (%),Seen\n0001,0.72,03/04/2026\n0002,12 %,04/05/2026\n0003,n/a,05/06/2026\n'], 'seen.csv'))
    window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
  })
  await find(page, '.plan')
  await find(page, '.questions')
  expect(await violationsOn(page)).toEqual([])
  await click(page, '::-p-text(Cancel)')
})
