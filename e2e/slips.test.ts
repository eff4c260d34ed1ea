import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Link } from '@dime-gate/contract/slip'
import type { Run } from '@dime-gate/contract/run'
import { openZip } from './testing/open-zip'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { click, eventually, find, textOf } from './testing/dime-gate'

let demo: Demo
let run: Run
beforeAll(async () => {
  demo = await openDemo()
  await eventually(async () => (await demo.ask<Run>('/runs/3')).state, 'done')
  run = await demo.ask<Run>('/runs/3')
})
afterAll(() => demo.close())

const open = (path: string) => demo.page.goto(`${demo.address}${path}`, { waitUntil: 'networkidle0' })
const idOf = (name: string) => run.columns.find((column) => column.name === name)!.id
const rows = async (sql: string) => (await demo.database.query(sql)).rows as Record<string, unknown>[]
/** What SQL says of each trainee, in the order of the table. */
const trainees = () => rows(`select record, c${idOf('Trainee')} as who, o1 as label, o2::text as points from records.t${run.tableId} t join runs.r3 using (record) where t.until is null order by record`)
const downloaded = async (ending: string) => {
  await eventually(async () => (await readdir(demo.folder)).filter((name) => name.endsWith(ending)).length, 1)
  return readFile(join(demo.folder, (await readdir(demo.folder)).find((name) => name.endsWith(ending))!))
}

test('each slip says what SQL says of its record, and nothing of another one', async () => {
  await open('/runs/3/slips/print')
  await find(demo.page, '[data-ready]')
  const sheets = await demo.page.$$eval('.slip', (all) => all.map((one) => ({ who: one.querySelector('h1')!.textContent, label: one.querySelector('.label b')!.textContent, text: one.textContent })))
  const wanted = await trainees()
  expect(sheets.map(({ who, label }) => [who, label])).toEqual(wanted.map(({ who, label }) => [who, label ?? 'No label']))
  for (const [at, { text }] of sheets.entries()) for (const { who } of wanted) expect(text.includes(who as string)).toBe(who === wanted[at]!.who)
  expect(await violationsOn(demo.page)).toEqual([])
  await demo.page.emulateMediaType('print')
  expect(await violationsOn(demo.page)).toEqual([])
  await demo.page.emulateMediaType('screen')
})

test('a sentence is written with names put in, seen at once, and kept with the gate', async () => {
  await open('/runs/3/slips')
  const [first] = await trainees()
  await find(demo.page, '.says input')
  await demo.page.click('.says input', { count: 3 })
  await demo.page.keyboard.type('Dear ')
  await click(demo.page, '[aria-label="Put in Trainee"]')
  await demo.page.keyboard.type(': ')
  await click(demo.page, '[aria-label="Put in Label"]')
  await eventually(() => textOf(demo.page, '.sentence'), `Dear ${first!.who}: ${first!.label}`)
  await demo.page.keyboard.press('Enter')
  await eventually(async () => (await rows('select sentence from gate where id = 7'))[0]!.sentence, 'Dear {Trainee}: {Label}')
  await demo.page.keyboard.type(' {Nobody}')
  await find(demo.page, '.says [role=alert] ::-p-text(Nobody)')
  await demo.page.keyboard.press('Enter')
  expect((await rows('select sentence from gate where id = 7'))[0]!.sentence).toBe('Dear {Trainee}: {Label}')
  await demo.page.reload({ waitUntil: 'networkidle0' })
  await eventually(() => demo.page.$eval('.says input', (field) => (field as HTMLInputElement).value), 'Dear {Trainee}: {Label}')
  expect(await violationsOn(demo.page)).toEqual([])
})

test('all as one PDF, with a page each; and a PDF each, named by who it is', async () => {
  await open('/runs/3/slips?label=Crown')
  const crowned = (await trainees()).filter(({ label }) => label === 'Crown')
  await find(demo.page, '.slip')
  await demo.page.keyboard.press('p')
  const pdf = (await downloaded('.pdf')).toString('latin1')
  expect(pdf.startsWith('%PDF-')).toBe(true)
  expect(pdf.match(/\/Type\s*\/Page\b/g)!.length).toBe(crowned.length)
  await find(demo.page, 'header ::-p-text(A PDF each)')
  await demo.page.keyboard.press('z')
  const files = await openZip(await downloaded('.zip'))
  expect([...files.keys()]).toEqual(crowned.map(({ who }) => `Course award, ${who}.pdf`))
  for (const file of files.values()) expect(file.toString('latin1').match(/\/Type\s*\/Page\b/g)!.length).toBe(1)
})

test('a link leads to one slip alone: its page and all that it asks for hold nothing of the others; withdrawn, it leads nowhere', async () => {
  const wanted = await trainees()
  await open('/runs/3/slips')
  await find(demo.page, '.slip')
  await demo.page.keyboard.press('l')
  await eventually(async () => (await demo.ask<Link[]>('/runs/3/links')).length, wanted.length)
  const link = (await demo.ask<Link[]>('/runs/3/links'))[4]!
  const who = wanted.find(({ record }) => record === link.record)!
  const guest = await demo.browser.createBrowserContext()
  const page = await guest.newPage()
  const asked: string[] = []
  const answers: Promise<string>[] = []
  page.on('response', (response) => {
    asked.push(new URL(response.url()).pathname)
    answers.push(response.text().catch(() => ''))
  })
  await page.goto(`${demo.address}/slip/${link.token}`, { waitUntil: 'networkidle0' })
  await eventually(() => textOf(page, '.slip h1'), who.who)
  expect(asked.filter((path) => path.startsWith('/api/'))).toEqual([`/api/v1/slips/${link.token}`])
  const all = [...(await Promise.all(answers)), await page.evaluate(() => document.documentElement.outerHTML)].join('\n')
  for (const other of wanted) expect(all.includes(other.who as string)).toBe(other === who)
  expect(await page.$('nav')).toBeNull()
  expect(await violationsOn(page)).toEqual([])
  await click(demo.page, `[role=option] ::-p-text(${who.who})`)
  await click(demo.page, '.link-line ::-p-text(Withdraw it)')
  await click(demo.page, '.asks ::-p-text(Withdraw it)')
  await eventually(async () => (await demo.ask<Link[]>('/runs/3/links')).length, wanted.length - 1)
  await page.reload({ waitUntil: 'networkidle0' })
  await eventually(() => textOf(page, '[role=alert]').then((text) => text.startsWith('This link leads nowhere.')), true)
  await guest.close()
})

test('whoever is given the page tries the gate with values of their own; nothing of that is sent, nothing is kept', async () => {
  await open('/gates/7?on=2')
  await click(demo.page, '::-p-text(Versions)')
  await click(demo.page, '[data-version="1"] .head')
  await click(demo.page, '.try-links ::-p-text(Make a link)')
  await eventually(async () => (await demo.ask<Link[]>('/gates/7/try-links')).length, 1)
  expect(await violationsOn(demo.page)).toEqual([])
  const [link] = await demo.ask<Link[]>('/gates/7/try-links')
  const guest = await demo.browser.createBrowserContext()
  const page = await guest.newPage()
  await page.goto(`${demo.address}/try/${link!.token}`, { waitUntil: 'networkidle0' })
  await find(page, '[data-try=Modules] input')
  const sent: string[] = []
  page.on('request', (request) => sent.push(request.url()))
  await page.type('[data-try=Modules] input', '3.5; 4; 2.5')
  await eventually(() => textOf(page, '.label b'), 'Climb')
  await eventually(() => textOf(page, '.slip').then((text) => text.includes('For Crown, the next above')), true)
  expect(await violationsOn(page)).toEqual([])
  expect(sent).toEqual([])
  await guest.close()
})

test('the report is a PDF that the server makes, on the paper that is asked for', async () => {
  const sizeOf = async (paper: string) => {
    const answer = await fetch(`${demo.address}/api/v1/runs/1/report.pdf?paper=${paper}`)
    expect([answer.status, answer.headers.get('Content-Type')]).toEqual([200, 'application/pdf'])
    const bytes = Buffer.from(await answer.arrayBuffer())
    expect(bytes.length).toBe(Number(answer.headers.get('Content-Length')))
    return /\/MediaBox\s*\[0 0 ([\d.]+) ([\d.]+)\]/.exec(bytes.toString('latin1'))!.slice(1).map(Number)
  }
  const isNear = (sides: number[], ...wanted: number[]) => sides.every((side, at) => Math.abs(side - wanted[at]!) <= 1)
  expect(isNear(await sizeOf('a4'), 595, 842)).toBe(true)
  expect(isNear(await sizeOf('letter'), 612, 792)).toBe(true)
  expect((await fetch(`${demo.address}/api/v1/runs/999/report.pdf`)).status).toBe(404)
})
