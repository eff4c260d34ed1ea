/** Takes the pictures in docs/screenshots anew, from the demo's own data: `npm run screenshots`. */
import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { Page } from 'puppeteer-core'
import { choose, chooseFile, click, find, focus, openDimeGate } from './testing/dime-gate'
import { joinCluster, removeCluster } from '../tools/postgres'
import { shell } from '../tools/shell'

const FOLDER = join('docs', 'screenshots')
const CLUSTER = `pictures-${process.pid}`

/** A file as offices write them: a title, a line of full marks, commas in numbers, and things that could be meant in two ways. */
const COURSE = `Evening course, spring 2026;;;;;
Trainee;Started;Drill 1;Drill 2;Attendance;Fee (€)
out of;;5;10;;
Oslo Thornmere;03/04/2025;3,5;7;72%;€ 1.240,00
Wenra Larkby;04/05/2025;4;8;0,91;€ 90,50
Dalvi Stonefold;05/06/2025;;n/a;88%;(35,00)
Mirlo Emberstead;07/06/2025;2,5;9,5;;€ 12,00
`

/** Late enough for fonts and the records in view. */
const settle = () => new Promise((resolve) => setTimeout(resolve, 900))

/** Values that are measured again, and the draft set: so that a run made again has something to tell. */
async function correct(address: string): Promise<void> {
  const ask = async <Answer>(path: string, method = 'GET', body?: object) => (await (await fetch(`${address}/api/v1${path}`, { method, ...(body ? { body: JSON.stringify(body) } : {}) })).json()) as Answer
  const { id: column } = (await ask<Table>('/tables/1')).columns.find(({ name }) => name === 'Decay')!
  const fill = (text: string, records: number[]) => ask('/tables/1/changes', 'POST', { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column, text, filters: [], records })
  await fill('52', [1, 2, 3, 11, 18])
  await fill('14', [22, 47, 48])
  await fill('', [66, 70])
  await fill('23', [24, 43, 100, 120])
  await ask('/gates/1/versions', 'POST', { seen: (await ask<Gate>('/gates/1')).draftVersion })
}

async function take(page: Page, name: string): Promise<void> {
  await settle()
  await writeFile(join(FOLDER, `${name}.png`), await page.screenshot())
  console.log(`${name}.png`)
}

await mkdir(FOLDER, { recursive: true })
await shell(process.execPath, ['--import', 'tsx', 'tools/build-now.ts'])
process.env.TEST_DATABASE_URL = (await joinCluster(CLUSTER)).url
const gate = await openDimeGate({ demo: true })
try {
  const { page, address } = gate
  const open = (path: string) => page.goto(address + path, { waitUntil: 'networkidle0' })
  await open('/gates/1')
  await focus(page, '[data-post="1"]')
  await take(page, 'bench')
  await page.evaluate(() => localStorage.setItem('dime-gate.theme', 'night'))
  await open('/gates/1')
  await focus(page, '[data-post="1"]')
  await take(page, 'bench-night')
  await page.evaluate(() => localStorage.setItem('dime-gate.theme', 'paper'))
  await open('/gates/6')
  await find(page, '.example')
  await take(page, 'rules')
  await click(page, '[data-rule="1"] .caught')
  await settle()
  await click(page, '[data-record]:nth-of-type(2) [data-cell=label]')
  await take(page, 'trial')
  await click(page, '[data-rule="2"] [data-part=subject]')
  await click(page, '[data-rule="2"] [title^="Give this group"]')
  await page.keyboard.type('Weak or whipping')
  await page.keyboard.press('Enter')
  await settle()
  await click(page, '.named [data-field="value 0"] input')
  await page.keyboard.type('Watch')
  await page.keyboard.press('Enter')
  await find(page, '.moves [data-move]')
  await open('/gates/4')
  await find(page, '.tray [data-coin]')
  await click(page, '[data-rail] [data-coin="Holm oak"]')
  await take(page, 'match')
  await open('/gates/5')
  await click(page, '[data-cell-place="2 2"]')
  await take(page, 'grid')
  await open('/gates/1')
  await find(page, '[data-cut="1"] input')
  await page.click('[data-cut="1"] input', { clickCount: 3 })
  await page.keyboard.type('22')
  await page.keyboard.press('Enter')
  await settle()
  await open(`/compare?on=1&a=${encodeURIComponent('gate 1 1')}&b=${encodeURIComponent('gate 1 draft')}`)
  await find(page, '[data-move]')
  await click(page, '[data-record] [data-cell=label]')
  await find(page, '[data-why]')
  await take(page, 'side-by-side')
  await open('/bring-in-gate?on=1')
  await page.focus('textarea')
  await page.keyboard.type('=IF(Decay>=40;"Fell";IF(AND(Decay>=25;Lean>15);"Fell";IF(Decay>=12;"Climb and look";IF(Decay>=25;"Prop";"Next round"))))')
  await find(page, '[data-became] .notes')
  await take(page, 'bringing-a-gate')
  await open('/runs/1?by=3&of=label%20Failing&sort=share%20falling')
  await find(page, '[data-group]')
  await find(page, '[data-expected]')
  await take(page, 'run')
  await correct(address)
  await page.keyboard.press('n')
  await find(page, '[data-reason]')
  await take(page, 'comparison')
  await open('/run-gates?gates=7&tables=2,5')
  await choose(page, '[data-plan="Course award on Night course"] .v-select', 'Mark … (6 columns)')
  await page.keyboard.press('Escape')
  await click(page, '.apply .head .primary')
  await find(page, '[data-beside="Night course"]')
  await page.evaluate(() => document.querySelector('[data-done]')!.scrollIntoView({ block: 'end' }))
  await take(page, 'run-gates')
  await open('/tables/1')
  await take(page, 'table')
  await open('/tables/2')
  await click(page, '#cell-3-4')
  await page.keyboard.type('absent')
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowUp')
  await click(page, '::-p-text(Show the record)')
  await find(page, 'aside ::-p-text(expected)')
  await click(page, '::-p-text(Undo)')
  await open('/tables/2')
  await click(page, '#cell-3-4')
  await click(page, '[role=grid]')
  await page.keyboard.press('End')
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('Enter')
  await find(page, '.working')
  await take(page, 'figure')
  await open('/tables/8')
  await click(page, '#cell-3-2')
  await find(page, '.totals')
  await take(page, 'roll-up')
  await open('/review?gate=1&kind=on%20an%20edge')
  await find(page, '.panel h2')
  await page.keyboard.press('s')
  await page.keyboard.type('Measured again, the reading stands')
  await take(page, 'review')
  await open('/runs/1/report?by=3')
  await find(page, '.paper[data-ready]')
  await take(page, 'report')
  await open('/runs/3/slips')
  await find(page, '.slip')
  await page.keyboard.press('l')
  await find(page, '.link-line a')
  await click(page, '.v-snackbar ::-p-text(Close)')
  await take(page, 'slips')
  await open('/')
  await take(page, 'desk')
  await chooseFile(page, await gate.file('evening course.csv', COURSE))
  await find(page, '.questions')
  await take(page, 'bringing-in')
  await click(page, '::-p-text(Cancel)')
} finally {
  await gate.close()
  await removeCluster(CLUSTER)
}
process.exit(0)
