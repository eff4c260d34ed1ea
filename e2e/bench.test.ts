import { violationsOn } from './testing/axe'
import { bandCounts, click, type DimeGate, eventually, find, focus, openDimeGate, postPlace, textOf, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = async (path: string) => {
  await gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
}
const decayCounts: [string, number][] = [['Failing', 178], ['Weak', 101], ['Watch', 255], ['Sound', 675]]

test('the demo is there from the first minute', async () => {
  await open('/')
  await click(gate.page, '[data-gate="Decay band"]')
  await eventually(() => bandCounts(gate.page), decayCounts)
})

test('the bench fits a screen of 1280 by 800 without scrolling', async () => {
  await open('/gates/1')
  await find(gate.page, '[data-band="Failing"]')
  const overflow = await gate.page.evaluate(() => [document.documentElement.scrollHeight - innerHeight, document.documentElement.scrollWidth - innerWidth])
  expect(overflow).toEqual([0, 0])
})

test('a post stops at its neighbours, and a typed value past one is refused in words', async () => {
  await open('/gates/1')
  const [first, second] = [await postPlace(gate.page, 0), await postPlace(gate.page, 1)]
  await gate.page.mouse.move(first.x, first.y)
  await gate.page.mouse.down()
  await gate.page.mouse.move(second.x + 80, second.y, { steps: 6 })
  await gate.page.mouse.up()
  expect(await textOf(gate.page, '.refused')).toMatch(/above 0 and below 25/)
  await type(gate.page, '[data-cut="1"] input', '99')
  await gate.page.keyboard.press('Enter')
  expect(await textOf(gate.page, '.refused')).toMatch(/below 40/)
  await type(gate.page, '[data-cut="1"] input', 'many')
  await gate.page.keyboard.press('Enter')
  expect(await gate.page.$eval('[data-cut="1"] input', (input) => [(input as HTMLInputElement).value, input.getAttribute('aria-invalid')])).toEqual(['many', 'true'])
})

test('keys act on the page only while no menu is open', async () => {
  await open('/gates/1')
  await click(gate.page, '[data-input=Decay]')
  await find(gate.page, '.v-menu .choice')
  const posts = () => gate.page.$$eval('[data-post]', (all) => all.length)
  await gate.page.keyboard.press('c')
  await gate.page.keyboard.press('k')
  expect([await posts(), new URL(gate.page.url()).pathname]).toEqual([3, '/gates/1'])
  await gate.page.keyboard.press('Escape')
  await eventually(async () => (await gate.page.$('.v-menu .choice')) === null, true)
  await gate.page.keyboard.press('c')
  await eventually(posts, 4)
  await gate.page.keyboard.press('u')
  await eventually(posts, 3)
})

test('where a cut goes the focus goes on to the next, and after the last one to where another is made', async () => {
  await open('/gates/1')
  const focused = () => gate.page.evaluate(() => (document.activeElement as HTMLElement).dataset.post ?? (document.activeElement as HTMLElement).innerText)
  await find(gate.page, '[data-post="1"]')
  const before = await bandCounts(gate.page)
  await focus(gate.page, '[data-post="1"]')
  for (const next of ['1', '0', 'Add a cutC']) {
    await gate.page.keyboard.press('Delete')
    await eventually(focused, next)
  }
  for (let undone = 0; undone < 3; undone++) await gate.page.keyboard.press('u')
  await eventually(() => bandCounts(gate.page), before)
})

test('a cut far from all values leaves their picture as it is', async () => {
  const slender = await gate.newPage('/gates/2')
  const picture = () => slender.$eval('.cut-line path[clip-path]', (path) => path.getAttribute('d'))
  await find(slender, '[data-cut="1"] input')
  const before = await picture()
  await type(slender, '[data-cut="1"] input', '12345678901234567890')
  await slender.keyboard.press('Enter')
  await eventually(() => textOf(slender, '[data-band=Whip] [data-cell=count]'), '0')
  expect(await picture()).toBe(before)
  await slender.close()
})

test('clicking the strip cuts there; undo takes the cut back', async () => {
  await open('/gates/1')
  const before = await gate.page.$$eval('[data-post]', (posts) => posts.length)
  const { y } = await postPlace(gate.page, 0)
  const strip = (await (await gate.page.waitForSelector('.strip:last-of-type'))!.boundingBox())!
  await gate.page.mouse.click(strip.x + strip.width * 0.75, y)
  await eventually(() => gate.page.$$eval('[data-post]', (posts) => posts.length), before + 1)
  await gate.page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await gate.page.keyboard.press('u')
  await eventually(() => gate.page.$$eval('[data-post]', (posts) => posts.length), before)
})

test('a draft is kept as it is made, and is there after a reload', async () => {
  await open('/gates/1')
  await type(gate.page, '[data-cut="1"] input', '26.5')
  await gate.page.keyboard.press('Enter')
  await eventually(() => textOf(gate.page, '[data-state=draft]'), 'draft after version 1')
  await open('/gates/1')
  expect(await gate.page.$eval('[data-cut="1"] input', (input) => (input as HTMLInputElement).value)).toBe('26.5')
})

test('Escape gives a drag up', async () => {
  await open('/gates/1')
  const cut = () => gate.page.$eval('[data-cut="1"] input', (input) => (input as HTMLInputElement).value)
  const before = await cut()
  const place = await postPlace(gate.page, 1)
  await gate.page.mouse.move(place.x, place.y)
  await gate.page.mouse.down()
  await gate.page.mouse.move(place.x + 30, place.y, { steps: 4 })
  await eventually(async () => (await cut()) === before, false)
  await gate.page.keyboard.press('Escape')
  await eventually(cut, before)
  await gate.page.mouse.move(place.x + 60, place.y, { steps: 4 })
  await gate.page.mouse.up()
  expect(await cut()).toBe(before)
})

test('while a column is on its way the bench says so, and nothing that is not so', async () => {
  // One that was sent before would be sent again without asking the database.
  await gate.restartServer()
  const letGo = await gate.holdRecords(1)
  try {
    await gate.page.goto(`${gate.address}/gates/1`, { waitUntil: 'domcontentloaded' })
    expect(await textOf(gate.page, '.fetching')).toBe('Fetching what it looks at: 0 of 1,240 records')
    expect(await gate.page.$$eval('[data-cell=count]', (cells) => cells.map((cell) => (cell as HTMLElement).innerText))).toEqual(['…', '…', '…', '…'])
    expect(await textOf(gate.page, '.records .empty')).toBe('The records follow once their values are here.')
    expect(await textOf(gate.page, 'aside')).toContain('Findings follow once the records are counted.')
  } finally {
    await letGo()
  }
  await eventually(async () => (await bandCounts(gate.page)).reduce((sum, [, records]) => sum + records, 0), 1209)
})

test('two tabs: the later change is not lost silently, and either can be taken', async () => {
  await open('/gates/1')
  const other = await gate.newPage('/gates/1')
  await type(other, '[data-cut="1"] input', '27')
  await other.keyboard.press('Enter')
  await eventually(() => textOf(other, '[data-state=draft]'), 'draft after version 1')
  await gate.page.bringToFront()
  await type(gate.page, '[data-cut="1"] input', '28')
  await gate.page.keyboard.press('Enter')
  expect(await textOf(gate.page, '.keeping')).toMatch(/changed elsewhere, once/)
  await click(gate.page, '::-p-text(Keep mine)')
  await eventually(async () => (await gate.page.$('.keeping')) === null, true)
  await other.bringToFront()
  await other.reload({ waitUntil: 'networkidle0' })
  expect(await other.$eval('[data-cut="1"] input', (input) => (input as HTMLInputElement).value)).toBe('28')
  await other.close()
  await gate.page.bringToFront()
})

test('while the server is gone changes stay, and are kept when it is back', async () => {
  await open('/gates/1')
  await gate.stopServer()
  await type(gate.page, '[data-cut="1"] input', '29')
  await gate.page.keyboard.press('Enter')
  expect(await textOf(gate.page, '.keeping')).toMatch(/does not answer/)
  expect(await textOf(gate.page, '.away')).toMatch(/does not answer/)
  // Nobody has to ask for it again.
  await gate.restartServer()
  await eventually(async () => (await gate.page.$('.keeping')) === null, true)
  await open('/gates/1')
  await eventually(() => gate.page.$eval('[data-cut="1"] input', (input) => (input as HTMLInputElement).value), '29')
})

describe('every view can be used by everyone', () => {
  beforeAll(async () => {
    await open('/gates/1')
    await find(gate.page, '[data-post="0"]')
  })

  test.each([
    ['/', 'paper'], ['/tables/1', 'paper'], ['/gates/1', 'paper'], ['/runs/1', 'paper'], ['/nowhere', 'paper'],
    ['/', 'night'], ['/tables/1', 'night'], ['/gates/1', 'night'], ['/gates/4', 'night'], ['/gates/5', 'night'], ['/bring-in-gate', 'night'], ['/compare?on=1&a=gate%204%201&b=gate%205%201', 'night'], ['/runs/1', 'night'],
  ])('axe finds nothing on %s, %s', async (path, theme) => {
    await gate.page.evaluate((name) => localStorage.setItem('dime-gate.theme', name), theme)
    await open(path)
    if (path === '/gates/1') await focus(gate.page, '[data-post="1"]')
    expect(await violationsOn(gate.page)).toEqual([])
  })
})

test('a tolerance says how near to a cut a value still asks for a look', async () => {
  await gate.page.goto(`${gate.address}/gates/1?on=1`, { waitUntil: 'networkidle0' })
  const near = () => textOf(gate.page, '[data-tray="near an edge"] .records')
  await click(gate.page, '::-p-text(no tolerance)')
  await find(gate.page, '[data-tray="near an edge"] ::-p-text(within 0.5 % of a cut)')
  await eventually(async () => Number(await near()) > 0, true)
  const within = Number(await near())
  await type(gate.page, '[aria-label=tolerance]', '-1')
  await gate.page.keyboard.press('Enter')
  expect(await gate.page.$eval('[aria-label=tolerance]', (field) => field.getAttribute('aria-invalid'))).toBe('true')
  await type(gate.page, '[aria-label=tolerance]', '3')
  await gate.page.keyboard.press('Enter')
  await eventually(async () => Number(await near()) > within, true)
  await click(gate.page, '[aria-label="Remove the tolerance"]')
  await find(gate.page, '::-p-text(no tolerance)')
  expect(await gate.page.$('[data-tray="near an edge"]')).toBeNull()
})
