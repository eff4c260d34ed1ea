/** Takes the pictures in docs/screenshots anew, from the demo's own data: `npm run screenshots`. */
import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { chooseFile, find, focus, openDimeGate } from './testing/dime-gate'
import { joinCluster, removeCluster } from '../tools/postgres'
import { shell } from '../tools/shell'

const FOLDER = join('docs', 'screenshots')
const CLUSTER = `pictures-${process.pid}`

/** Late enough for fonts and the records in view. */
const settle = () => new Promise((resolve) => setTimeout(resolve, 900))

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
  await open('/runs/2')
  await find(page, '[data-tube]')
  await take(page, 'run')
  await open('/tables/1')
  await take(page, 'table')
  await open('/')
  await take(page, 'desk')
  await chooseFile(page, join('demo', 'tables', 'climber-course.csv'))
  await find(page, '[aria-label="Type of Trainee"]')
  await take(page, 'bringing-in')
} finally {
  await gate.close()
  await removeCluster(CLUSTER)
}
process.exit(0)
