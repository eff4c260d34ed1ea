import { askAt, bringIn } from '../server/testing/bring-in'
import { bandCounts, click, type DimeGate, eventually, find, focus, openDimeGate, textOf, trayCount, type } from './testing/dime-gate'

let gate: DimeGate
beforeAll(async () => {
  gate = await openDimeGate({ demo: true })
})
afterAll(() => gate.close())

const open = async (path: string) => {
  await gate.page.goto(gate.address + path, { waitUntil: 'networkidle0' })
}
const cutValue = (cut: number) => gate.page.$eval(`[data-cut="${cut}"] input`, (input) => (input as HTMLInputElement).value)
const listed = () => gate.page.$$eval('.body [data-record]', (rows) => rows.map((row) => Number((row as HTMLElement).dataset.record)))
const leaveFocus = () => gate.page.evaluate(() => (document.activeElement as HTMLElement).blur())

describe('the keys of a post', () => {
  beforeEach(async () => {
    await open('/gates/1')
    await focus(gate.page, '[data-post="1"]')
  })

  test('arrows nudge by the last place measured, ten times with Shift, and a row of nudges is one step back', async () => {
    for (const key of ['ArrowRight', 'ArrowRight', 'ArrowLeft', 'ArrowUp'] as const) await gate.page.keyboard.press(key)
    await eventually(() => cutValue(1), '25.2')
    await gate.page.keyboard.down('Shift')
    await gate.page.keyboard.press('ArrowDown')
    await gate.page.keyboard.up('Shift')
    await eventually(() => cutValue(1), '24.2')
    await leaveFocus()
    await gate.page.keyboard.press('u')
    await eventually(() => cutValue(1), '25')
  })

  test('Enter goes to the value to be typed, and Escape leaves it as it was', async () => {
    await gate.page.keyboard.press('Enter')
    await gate.page.keyboard.press('Backspace')
    await gate.page.keyboard.type('9')
    await gate.page.keyboard.press('Escape')
    expect(await cutValue(1)).toBe('25')
  })

  test('a screen reader is told the value and whose it is', async () => {
    const said = await gate.page.$eval('[data-post="1"]', (post) => [post.getAttribute('role'), post.getAttribute('aria-valuetext')])
    expect(said).toEqual(['slider', '25, belongs to Weak'])
    await gate.page.keyboard.press('o')
    await eventually(() => gate.page.$eval('[data-post="1"]', (post) => post.getAttribute('aria-valuetext')), '25, belongs to Watch')
    await gate.page.keyboard.press('o')
  })
})

describe('what stands below the line', () => {
  beforeEach(() => open('/gates/1'))

  test('the records come in the order of their values when asked, blanks last', async () => {
    await click(gate.page, '.head .looked button')
    await eventually(async () => (await listed())[0], 871)
    expect(await textOf(gate.page, '.body [data-record="871"] [data-cell=reason]')).toBe('beyond the ceiling of 100')
    await click(gate.page, '.head .looked button')
    await eventually(async () => (await gate.page.$$eval('.body .row .looked', (cells) => cells.slice(0, 2).map((cell) => Number(cell.textContent)))).every((value) => value <= 1), true)
  })

  test('the records on one cut are one click away', async () => {
    await click(gate.page, '[data-cut="1"] .on')
    await eventually(async () => (await listed()).length, 3)
    expect(await gate.page.$$eval('.body [data-cell=reason]', (cells) => new Set(cells.map((cell) => cell.textContent)).size)).toBe(1)
    await leaveFocus()
    await gate.page.keyboard.press('Escape')
    await eventually(() => gate.page.$eval('[data-tab=all]', (tab) => tab.getAttribute('aria-pressed')), 'true')
  })

  test('labels and records follow when a cut moves', async () => {
    const label = () => textOf(gate.page, '.body [data-record="6"] [data-cell=label]')
    expect(await label()).toBe('Watch')
    await type(gate.page, '[data-cut="0"] input', '14.5')
    await gate.page.keyboard.press('Enter')
    await eventually(label, 'Sound')
    await leaveFocus()
    await gate.page.keyboard.press('u')
    await eventually(label, 'Watch')
  })

  test('every record is reached by scrolling, and only those in view are drawn', async () => {
    await gate.page.$eval('.scroller', (list) => list.scrollTo(0, list.scrollHeight))
    await eventually(async () => (await listed()).at(-1), 1240)
    expect((await listed()).length).toBeLessThan(60)
    await eventually(async () => (await textOf(gate.page, '.body [data-record="1240"]')).includes('1240'), true)
  })
})

describe('how a band looks', () => {
  beforeEach(() => open('/gates/1'))

  test('mark and colour are chosen, and palettes colour all bands in order', async () => {
    const shape = () => gate.page.$eval('[data-band="Weak"] .mark path', (path) => path.getAttribute('d'))
    const before = await shape()
    await click(gate.page, '[aria-label="Mark and colour of Weak"]')
    await click(gate.page, '.choice[aria-label="star"]')
    await eventually(async () => (await shape()) !== before, true)
    await gate.page.keyboard.press('Escape')
    await click(gate.page, '[data-side=labels]')
    await click(gate.page, '.palette ::-p-text(ordered)')
    const colours = () => gate.page.$$eval('.bands .bar', (bars) => bars.map((bar) => (bar as HTMLElement).style.background))
    await eventually(async () => new Set(await colours()).size, 4)
    await click(gate.page, '[title^="Colour the labels good to bad"]')
    await eventually(async () => (await colours())[0], 'rgb(142, 52, 36)')
  })

  test('an end can be taken off and set again, and says whether it is on the scale itself', async () => {
    await click(gate.page, '[aria-label="Remove the ceiling"]')
    await eventually(() => trayCount(gate.page, 'unplaced'), 0)
    await eventually(async () => (await bandCounts(gate.page))[0], ['Failing', 179])
    await click(gate.page, '::-p-text(no ceiling)')
    await type(gate.page, 'input[aria-label="ceiling"]', '40')
    await gate.page.keyboard.press('Enter')
    await eventually(() => trayCount(gate.page, 'unplaced'), 173)
    await click(gate.page, '[data-end=ceiling] [aria-pressed]')
    expect(await textOf(gate.page, '.refused')).toBe('The ceiling has to lie above 40. ×')
  })
})

test('one value is tried without touching a record', async () => {
  await open('/gates/1')
  await click(gate.page, '[data-side=try]')
  await type(gate.page, '.trial input', '25')
  await eventually(async () => [await textOf(gate.page, '.trial output'), await textOf(gate.page, '.trial + p')], ['Weak', 'exactly 25, so Weak'])
  await type(gate.page, '.trial input', '24.5')
  await eventually(async () => [await textOf(gate.page, '.trial output'), await textOf(gate.page, '.trial + p')], ['Watch', '0.5 short of the cut at 25'])
  await type(gate.page, '.trial input', 'n/a')
  await eventually(() => textOf(gate.page, '.trial output'), 'held')
})

test('the as-of date is stated, changed in one place, and there after a reload', async () => {
  await open('/')
  await click(gate.page, 'header .pill')
  await gate.page.$eval('input[type=date]', (input) => {
    ;(input as HTMLInputElement).value = '2026-04-01'
    input.dispatchEvent(new Event('input', { bubbles: true }))
  })
  await click(gate.page, '::-p-text(Set the date)')
  await eventually(() => textOf(gate.page, 'header .pill'), 'as of 1 Apr 2026')
  await open('/tables/2')
  await eventually(() => textOf(gate.page, 'header .pill'), 'as of 1 Apr 2026')
})

describe('a date of a page alone', () => {
  const set = async (day: string, ...ticked: string[]) => {
    await click(gate.page, 'header .pill')
    for (const label of ticked) await click(gate.page, `.v-overlay label::-p-text(${label})`)
    await gate.page.$eval(
      'input[type=date]',
      (input, value) => {
        ;(input as HTMLInputElement).value = value
        input.dispatchEvent(new Event('input', { bubbles: true }))
      },
      day,
    )
    await click(gate.page, '::-p-text(Set the date)')
  }
  const overdue = async () => Object.fromEntries(await bandCounts(gate.page)).Overdue ?? 0

  test('counts there and in runs kept from there, is in the address, and can be given up', async () => {
    await open('/gates/3')
    await set('2026-03-02')
    await eventually(() => textOf(gate.page, 'header .pill'), 'as of 2 Mar 2026')
    await gate.page.reload({ waitUntil: 'networkidle0' })
    await eventually(async () => (await overdue()) > 0, true)
    const everywhere = await overdue()
    await set('2031-01-01', 'On this page alone')
    await eventually(() => textOf(gate.page, 'header .pill'), 'as of 1 Jan 2031, here alone')
    await eventually(async () => (await overdue()) > everywhere, true)
    await gate.page.reload({ waitUntil: 'networkidle0' })
    await eventually(async () => (await overdue()) > everywhere, true)
    await click(gate.page, '::-p-text(Keep a run)')
    await eventually(async () => (await textOf(gate.page, '.about')).includes('as of 1 Jan 2031 (as it was asked for)'), true)
    await open('/')
    expect(await textOf(gate.page, 'header .pill')).toBe('as of 2 Mar 2026')
    await gate.page.goBack()
    await find(gate.page, '.about')
    await gate.page.goBack()
    await eventually(() => textOf(gate.page, 'header .pill'), 'as of 1 Jan 2031, here alone')
    await click(gate.page, 'header .pill')
    await click(gate.page, '::-p-text(Back to 2 Mar 2026)')
    await eventually(overdue, everywhere)
  })

  test('whatever day it is can be chosen, and what that means is said first', async () => {
    await open('/gates/3')
    await click(gate.page, 'header .pill')
    await click(gate.page, '.v-overlay label::-p-text(Whatever day it is)')
    expect(await textOf(gate.page, '.v-overlay .say')).toMatch(/will move from day to day/)
    await click(gate.page, '::-p-text(Follow the day)')
    await eventually(async () => (await textOf(gate.page, 'header .pill')).startsWith('as of today, '), true)
    await set('2026-04-01', 'This date')
    await eventually(() => textOf(gate.page, 'header .pill'), 'as of 1 Apr 2026')
  })
})

test('a table without numbers can have rules, and says why it cannot be cut', async () => {
  await bringIn({ ask: askAt(gate.address) }, 'Words', 'word\nash\n')
  await open('/')
  await click(gate.page, '[data-table="Words"] button')
  await find(gate.page, '[role=dialog] .start:not(:disabled)')
  await click(gate.page, '[role=dialog] [data-side=scale]')
  await find(gate.page, '[role=dialog] ::-p-text(A scale needs a column of numbers or dates, and this table has none.)')
})

test.each(['/', '/tables/1', '/gates/1', '/gates/4', '/gates/5', '/bring-in-gate', '/compare?on=1&a=gate%204%201&b=gate%205%201'])('at 360 pixels %s has everything within its width', async (path) => {
  const page = await gate.newPage(path)
  await page.setViewport({ width: 360, height: 740 })
  await page.reload({ waitUntil: 'networkidle0' })
  await find(page, 'h1, .title')
  expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0)
  await page.close()
})

test('an address that names nothing says so, and leads back', async () => {
  await open('/gates/999')
  expect(await textOf(gate.page, '.notice')).toMatch(/no such gate/)
  await click(gate.page, '::-p-text(Go to the desk)')
  await find(gate.page, '[data-gate="Decay band"]')
})
