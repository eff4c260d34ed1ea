/** Dime Gate as it is served, in a real browser, on a database of its own. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { temporaryDatabase } from '../../server/testing/temporary-server'
import { openChromium } from '../../tools/chromium'
import { freePort } from '../../tools/free-port'
import { startServer, stopServer } from '../../tools/server-process'

/** How long a page may take over one thing, in milliseconds, on a machine that is busy with others. */
const PATIENCE = 45_000

export interface DimeGate {
  browser: Browser
  page: Page
  address: string
  /** Of its database, for whoever wants to ask that itself. */
  databaseUrl: string
  /** A folder for files to bring in and to take away. */
  folder: string
  /** Writes a file and gives its path. */
  file(name: string, content: string | Uint8Array): Promise<string>
  newPage(path: string): Promise<Page>
  /** Keeps everybody from reading a table's records. @returns what lets them go on */
  holdRecords(tableId: number): Promise<() => Promise<void>>
  /** Ends all connections to the database, and lets nobody in. @returns what lets them in again */
  takeDatabaseAway(): Promise<() => Promise<void>>
  restartServer(): Promise<void>
  stopServer(): Promise<void>
  /** Ends it outright, in the middle of whatever it does. */
  killServer(): Promise<void>
  close(): Promise<void>
}

export async function openDimeGate({ demo = false }: { demo?: boolean } = {}): Promise<DimeGate> {
  const database = await temporaryDatabase()
  const port = await freePort()
  const address = `http://127.0.0.1:${port}`
  let server = await startServer(database.url, port, { DEMO: demo ? 'on' : 'off' })
  const { browser, close } = await openChromium()
  const folder = await mkdtemp(join(tmpdir(), 'dime-gate-e2e-'))
  const troubles: string[] = []

  const newPage = async (path: string) => {
    const page = await browser.newPage()
    page.on('pageerror', (error) => troubles.push(String(error)))
    // What breaks within a component is told in the console alone.
    page.on('console', (said) => said.type() === 'error' && /^(\w*Error|Uncaught)\b/.test(said.text()) && troubles.push(said.args()[0]?.remoteObject().description ?? said.text()))
    // Asked whether to leave with changes that cannot be kept, the tests leave.
    page.on('dialog', (dialog) => void dialog.accept())
    const session = await page.createCDPSession()
    await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder })
    // What slides or fades in cannot be clicked where it will be.
    await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }])
    await page.goto(address + path, { waitUntil: 'networkidle0' })
    return page
  }
  return {
    browser,
    page: await newPage('/'),
    address,
    databaseUrl: database.url,
    folder,
    newPage,
    async file(name, content) {
      await writeFile(join(folder, name), content)
      return join(folder, name)
    },
    async holdRecords(tableId) {
      const client = new pg.Client(database.url)
      await client.connect()
      await client.query('begin')
      await client.query(`lock table records.t${tableId} in access exclusive mode`)
      return () => client.end()
    },
    async takeDatabaseAway() {
      const name = new URL(database.url).pathname.slice(1)
      const client = new pg.Client(Object.assign(new URL(database.url), { pathname: '/postgres' }).toString())
      await client.connect()
      await client.query(`alter database ${name} with allow_connections false`)
      await client.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name])
      return async () => {
        await client.query(`alter database ${name} with allow_connections true`)
        await client.end()
      }
    },
    async restartServer() {
      await stopServer(server)
      server = await startServer(database.url, port, { DEMO: demo ? 'on' : 'off' })
    },
    stopServer: () => stopServer(server),
    async killServer() {
      const gone = new Promise((resolve) => server.once('exit', resolve))
      server.kill('SIGKILL')
      await gone
    },
    async close() {
      await close()
      await stopServer(server)
      await database.drop()
      await rm(folder, { recursive: true })
      // A page that broke is a fault, whatever the test was about.
      if (troubles.length > 0) throw new Error(`The page broke: ${troubles.join('; ')}`)
    },
  }
}

/** The element that `selector` names (CSS, or `::-p-text()`), once it is there. */
export async function find(page: Page, selector: string): Promise<ElementHandle<HTMLElement>> {
  try {
    return (await page.waitForSelector(selector, { timeout: PATIENCE, visible: true })) as ElementHandle<HTMLElement>
  } catch (error) {
    // What stands there instead is what whoever reads of it would ask next.
    const said = await page.evaluate(() => document.body.innerText.replaceAll(/\s+/g, ' ')).catch(() => 'nothing')
    throw new Error(`${selector} did not come. The page says: ${said.slice(0, 1500)}`, { cause: error })
  }
}

export async function click(page: Page, selector: string): Promise<void> {
  const element = await find(page, selector)
  await eventually(() => element.evaluate((found) => found.closest('button')?.disabled ?? false), false)
  // A menu or dialog that is still finding its place would be clicked where it was.
  const looks = (await element.evaluate((found) => found.closest('.v-overlay') !== null)) ? 8 : 1
  const places: string[] = []
  await eventually(async () => {
    places.push(JSON.stringify(await element.boundingBox()))
    return places.length > looks && new Set(places.slice(-1 - looks)).size === 1
  }, true)
  await element.click()
}

/** Chooses an item of a select; one that was still opening is opened again, as a person would. */
export async function choose(page: Page, select: string, item: string): Promise<void> {
  await eventually(async () => {
    if (!(await page.$('.v-list-item'))) await click(page, select)
    const found = await page.waitForSelector(`.v-list-item ::-p-text(${item})`, { timeout: 1000 })
    await new Promise((resolve) => setTimeout(resolve, 200))
    await found!.click()
    await new Promise((resolve) => setTimeout(resolve, 200))
    return (await textOf(page, select)).includes(item)
  }, true)
}

/** Puts the keyboard's focus on an element, SVG ones included. */
export async function focus(page: Page, selector: string): Promise<void> {
  await (await find(page, selector)).evaluate((element) => element.focus())
}

export async function textOf(page: Page, selector: string): Promise<string> {
  const element = await find(page, selector)
  return element.evaluate((found) => found.innerText.replaceAll(/\s+/g, ' ').trim())
}

/** Waits until `read` gives `expected`. @throws Error where it never does */
export async function eventually<Value>(read: () => Promise<Value>, expected: Value): Promise<void> {
  const until = Date.now() + PATIENCE
  for (;;) {
    const value = await read().catch(() => undefined)
    const [is, wanted] = [JSON.stringify(value), JSON.stringify(expected)]
    if (is === wanted) return
    if (Date.now() > until) throw new Error(`expected ${wanted}, and it stayed ${is}`)
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}

/** Chooses a file on the desk, as the file chooser would. */
export async function chooseFile(page: Page, path: string): Promise<void> {
  const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>
  await input.uploadFile(path)
}

/** Sets a form field's whole text. */
export async function type(page: Page, selector: string, text: string): Promise<void> {
  const field = await find(page, selector)
  await eventually(() => field.evaluate((found) => (found as HTMLInputElement).disabled), false)
  await field.click({ count: 3 })
  await page.keyboard.press('Backspace')
  await field.type(text)
}

/** Name and count of every band on the bench, highest first. */
export function bandCounts(page: Page): Promise<[string, number][]> {
  return page.$$eval('[data-band]', (rows) => rows.map((row): [string, number] => [row.querySelector<HTMLInputElement>('input')!.value, Number(row.querySelector<HTMLElement>('[data-cell=count]')!.innerText.replace(/\D/g, ''))]))
}

/** The count of a tray in the panel beside the line. */
export async function trayCount(page: Page, tray: string): Promise<number> {
  return Number((await textOf(page, `[data-tray="${tray}"] .records`)).replace(/\D/g, ''))
}

/** Where a post's foot stands on the screen. */
export async function postPlace(page: Page, post: number): Promise<{ x: number; y: number }> {
  const foot = await page.waitForSelector(`[data-post="${post}"] .foot`)
  const box = (await foot!.boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}
