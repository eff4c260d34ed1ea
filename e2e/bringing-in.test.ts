import { choose, chooseFile, click, type DimeGate, eventually, find, openDimeGate, textOf, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate()
})
afterAll(() => gate.close())
beforeEach(() => gate.page.goto(gate.address, { waitUntil: 'networkidle0' }))

const problem = () => textOf(gate.page, '[role=dialog] .notice[role=alert]')
const mayBringIn = () => gate.page.$eval('[role=dialog] .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled)

test.each([
  ['nothing', '', /empty.*no line/i],
  ['a ragged line', 'a,b\n1,2\n3\n', /Line 3 has 1 value .* 2: it stops after column 1/],
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
  await choose(gate.page, '[role=dialog] .v-select:last-of-type', 'Windows-1252')
  await find(gate.page, 'td::-p-text(caf\u00e9)')
  expect(await mayBringIn()).toBe(true)
})

test('a type changed before bringing in shows at once what it cannot read, and is kept', async () => {
  await chooseFile(gate.page, await gate.file('codes.csv', 'Code,Size\n0871,5\n0412,x\n'))
  await find(gate.page, '[aria-label="Type of Size"]')
  await gate.page.select('[aria-label="Type of Size"]', 'number')
  expect(await textOf(gate.page, 'th:nth-child(2) .said')).toBe('1 unreadable below')
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, '::-p-text(1 unreadable)')
  await eventually(() => gate.page.$$eval('.body [data-record] [role=cell]', (cells) => cells.map((cell) => cell.textContent)), ['0871', '5', '0412', 'x'])
})

test('a file that goes wrong far down is refused when it is read, and nothing of it stays', async () => {
  await chooseFile(gate.page, await gate.file('far.csv', `a,b\n${'1,2\n'.repeat(200_000)}3\n`))
  await click(gate.page, '::-p-text(Bring it in)')
  expect(await problem()).toMatch(/Line 200002/)
  await click(gate.page, '::-p-text(Cancel)')
  await gate.page.goto(gate.address, { waitUntil: 'networkidle0' })
  expect(await gate.page.$('[data-table="far"]')).toBeNull()
})

test('a server that is gone is said, and the file can be brought in when it is back', async () => {
  const path = await gate.file('later.csv', 'a\n1\n')
  await chooseFile(gate.page, path)
  await find(gate.page, '[aria-label="Type of a"]')
  await gate.stopServer()
  await click(gate.page, '::-p-text(Bring it in)')
  expect(await problem()).toMatch(/does not answer/)
  await gate.restartServer()
  // The name is changed to show that the dialog still stands as it was left.
  await type(gate.page, '.table-name input', 'Later')
  await gate.page.select('[aria-label="Type of a"]', 'number')
  await eventually(mayBringIn, true)
  await click(gate.page, '::-p-text(Bring it in)')
  await find(gate.page, 'h1::-p-text(Later)')
})
