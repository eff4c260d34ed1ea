/** The interface's own pages on paper: opened in Chromium as a reader would open them, and printed to PDF. One after the other. */
import type { FileHandle } from 'node:fs/promises'
import type { Page } from 'puppeteer-core'
import { unnamedFile } from '../file/unnamed-file'
import { refusals } from '../http/refusal'
import { isChromiumThere, launchChromium, type OpenBrowser } from './chromium'

export const PAPERS = ['a4', 'letter'] as const
export type Paper = (typeof PAPERS)[number]

/** @property locale how numbers are written (BCP 47) @property zone what time of day it is (IANA), empty for the machine's own */
export interface PageAsked {
  address: string
  locale: string
  zone: string
}

/** Milliseconds without anything to print after which the browser is closed. */
const IDLE = 20_000
/** Milliseconds that a page may take until it is there in whole, and that printing it may take. */
const PATIENCE = 120_000

export class Printer {
  private opened: Promise<OpenBrowser> | null = null
  private last: Promise<unknown> = Promise.resolve()
  private idle: NodeJS.Timeout | undefined
  private waiting = 0
  private isClosed = false

  get isThere(): boolean {
    return isChromiumThere()
  }

  /** @returns a file, which whoever asked closes. @throws Refusal `no-printer`, `not-printed` */
  async pdf(asked: PageAsked, paper: Paper, signal: AbortSignal): Promise<{ file: FileHandle; size: number }> {
    return this.withPage(asked, signal, async (page) => {
      const file = await unnamedFile()
      try {
        return { file, size: await writePdf(page, paper, file) }
      } catch (error) {
        await file.close()
        throw error
      }
    })
  }

  /** Opens a page and waits until it says that it is whole. @throws Refusal `no-printer`, `not-printed` where it says what keeps it from being whole */
  async withPage<Result>(asked: PageAsked, signal: AbortSignal, work: (page: Page) => Promise<Result>): Promise<Result> {
    if (!this.isThere) throw refusals.noPrinter()
    this.waiting++
    const done = this.last.then(async () => {
      signal.throwIfAborted()
      clearTimeout(this.idle)
      const page = await this.newPage()
      const leave = () => void page.close().catch(() => undefined)
      signal.addEventListener('abort', leave)
      try {
        await open(page, asked)
        return await work(page)
      } finally {
        signal.removeEventListener('abort', leave)
        await page.close().catch(() => undefined)
      }
    })
    this.last = done.catch(() => undefined).finally(() => {
      if (--this.waiting === 0) this.idle = setTimeout(() => void this.closeBrowser(), IDLE).unref()
    })
    return done
  }

  private async newPage(): Promise<Page> {
    try {
      const known = await this.opened
      // It may have ended by itself.
      if (!known?.browser.connected) this.opened = launchChromium()
      return await (await this.opened!).browser.newPage()
    } catch (error) {
      this.opened = null
      throw refusals.printerFails((error as Error).message.split('\n')[0]!)
    }
  }

  private async closeBrowser(): Promise<void> {
    const { opened } = this
    this.opened = null
    await opened?.then(({ close }) => close()).catch(() => undefined)
  }

  async close(): Promise<void> {
    if (this.isClosed) return
    this.isClosed = true
    clearTimeout(this.idle)
    await this.closeBrowser()
  }
}

/** A page says `data-ready` of what is whole; where it cannot be, it says why as an alert. */
async function open(page: Page, { address, locale, zone }: PageAsked): Promise<void> {
  const session = await page.createCDPSession()
  await session.send('Emulation.setLocaleOverride', { locale })
  if (zone !== '') await page.emulateTimezone(zone)
  await page.goto(address, { waitUntil: 'domcontentloaded', timeout: PATIENCE })
  const found = await page.waitForSelector('[data-ready], [role=alert]', { timeout: PATIENCE })
  const trouble = await found!.evaluate((element) => (element.hasAttribute('data-ready') ? null : (element.firstChild?.textContent ?? '')))
  if (trouble !== null) throw refusals.notPrinted(trouble.trim())
}

// Margins, and what stands in them, are the page's own.
const optionsFor = (paper: Paper) => ({ format: paper, printBackground: true, tagged: true, outline: true, timeout: PATIENCE }) as const

/** @returns how many bytes were written */
async function writePdf(page: Page, paper: Paper, file: FileHandle): Promise<number> {
  const pieces = await page.createPDFStream(optionsFor(paper))
  let size = 0
  for await (const piece of pieces as unknown as AsyncIterable<Uint8Array>) size += (await file.write(piece, 0, piece.length, size)).bytesWritten
  return size
}

/** A page that is small. */
export async function pdfOf(page: Page, paper: Paper): Promise<Buffer> {
  return Buffer.from(await page.pdf(optionsFor(paper)))
}
