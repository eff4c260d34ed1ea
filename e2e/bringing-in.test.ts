import { choose, chooseFile, click, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate()
})
afterAll(() => gate.close())
beforeEach(() => gate.page.goto(gate.address, { waitUntil: 'networkidle0' }))

const problem = () => textOf(gate.page, '.incoming .notice[role=alert]')
const mayBringIn = () => gate.page.$eval('.incoming .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled)

test.each([
  ['nothing', '', /empty.*no line/i],
  ['a ragged line', 'a,b\n1,2\n3\n', /Line 3 has 1 value where 2 were expected.*: it stops after column 1/],
  ['no columns', '\n\n', /no columns/],
  ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 1]), /picture.*line 1/i],
])('a file with %s says where and why, and cannot be brought in', async (_, content, message) => {
  await chooseFile(gate.page, await gate.file('wrong.csv', content))
  expect(await problem()).toMatch(message)
  expect(await mayBringIn()).toBe(false)
})

test('two columns of one name are named, and can be renamed on the spot', async () => {
  await chooseFile(gate.page, await gate.file('twins.csv', 'Lean,Decay,Lean\n1,2,3\n'))
  expect(await problem()).toMatch(/Columns 1 and 3 are both named “Lean” \(line 1\)/)
  await type(gate.page, '[aria-label="Name of column 3"]', 'Lean again')
  await eventually(mayBringIn, true)
})

test('another encoding is told by line, and can be chosen', async () => {
  await chooseFile(gate.page, await gate.file('latin.csv', Buffer.from('a,b\n1,caf\u00e9\n', 'latin1')))
  expect(await problem()).toMatch(/Line 2, character 6, is not UTF-8/)
  await choose(gate.page, '.fields .encoding', 'Windows-1252')
  await find(gate.page, 'td::-p-text(caf\u00e9)')
  expect(await mayBringIn()).toBe(true)
})

test('a type changed before bringing in shows at once what it cannot read, and is kept', async () => {
  await chooseFile(gate.page, await gate.file('codes.csv', 'Code,Size\n0871,5\n0412,x\n'))
  await find(gate.page, '[aria-label="Type of Size"]')
  await gate.page.select('[aria-label="Type of Size"]', 'number')
  await eventually(() => textOf(gate.page, 'th:nth-child(2) .said'), '1 unreadable')
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, '::-p-text(1 unreadable)')
  await eventually(() => gate.page.$$eval('.body [data-record] [role=gridcell]', (cells) => cells.map((cell) => cell.textContent)), ['0871', '5', '0412', 'x'])
})

test('a file that goes wrong far down is refused before anything is stored', async () => {
  await chooseFile(gate.page, await gate.file('far.csv', `a,b\n${'1,2\n'.repeat(200_000)}3\n`))
  expect(await problem()).toMatch(/Line 200002/)
  expect(await mayBringIn()).toBe(false)
  await click(gate.page, '::-p-text(Cancel)')
  await gate.page.goto(gate.address, { waitUntil: 'networkidle0' })
  expect(await gate.page.$('[data-table="far"]')).toBeNull()
})

test('what could be meant in two ways is asked, and answered with one click; what was decided before stays', async () => {
  await chooseFile(gate.page, await gate.file('course.csv', 'Night course\n\nTrainee,Started,Attendance\nYarlo,03/04/2025,72%\nTesdry,04/05/2025,0.91\n'))
  await type(gate.page, '[aria-label="Name of column 1"]', 'Who')
  expect(await gate.page.$$eval('.questions li', (all) => all.length)).toBe(2)
  expect(await mayBringIn()).toBe(false)
  await click(gate.page, '.answers ::-p-text(4 Mar 2025)')
  await click(gate.page, '.answers ::-p-text(91 %)')
  await eventually(mayBringIn, true)
  await click(gate.page, '::-p-text(Bring it in)')
  await eventually(() => gate.page.$$eval('.body [data-record] [role=gridcell]', (cells) => cells.map((cell) => cell.textContent)), ['Yarlo', '4 Mar 2025', '72', 'Tesdry', '5 Apr 2025', '91'])
  expect(await textOf(gate.page, '[role=columnheader]')).toMatch(/^Who/)
})

test('of several files none is lost, and each becomes a table', async () => {
  const input = await gate.page.$('input[type=file]')
  await input!.uploadFile(await gate.file('first.csv', 'a\nx\n'), await gate.file('second.csv', 'b\ny\n'))
  await find(gate.page, '[aria-label="Name of column 1"]')
  expect(await gate.page.$$eval('.files [role=tab]', (tabs) => tabs.map((tab) => tab.textContent!.trim()))).toEqual(['first.csv', 'second.csv'])
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, '::-p-text(“first” is in, with 1 record.)')
  await eventually(() => gate.page.$eval('.table-name input', (input) => (input as HTMLInputElement).value), 'second')
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, 'h1::-p-text(second)')
})

test('cells that are pasted on any page come in as a file does', async () => {
  await gate.page.evaluate(() => {
    const data = new DataTransfer()
    data.setData('text/plain', 'Tree\tTrunk (cm)\nT1\t35\nT2\t12\n')
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
  })
  await eventually(() => gate.page.$eval('[aria-label="Unit of Trunk"]', (input) => (input as HTMLInputElement).value).catch(() => ''), 'cm')
})

test('a server that is gone is said, and the file can be brought in when it is back', async () => {
  const path = await gate.file('later.csv', 'a\n1\n')
  await chooseFile(gate.page, path)
  await find(gate.page, '[aria-label="Type of a"]')
  await gate.stopServer()
  await click(gate.page, '::-p-text(Bring it in)')
  expect(await problem()).toMatch(/does not answer/)
  await gate.restartServer()
  // The name is changed to show that the page still stands as it was left.
  await type(gate.page, '.table-name input', 'Later')
  await gate.page.select('[aria-label="Type of a"]', 'number')
  await eventually(mayBringIn, true)
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, 'h1::-p-text(Later)')
})
