/** A page's parts as a PDF each, in one ZIP that is sent as it is made. */
import type { Readable } from 'node:stream'
import type { Context } from 'koa'
import type { Page } from 'puppeteer-core'
import { ZipFile } from 'yazl'
import { pdfOf, type PageAsked, type Paper, type Printer } from './printer'

/** What the page marks a part with: the name that its file is to have, without its ending. */
const PART = '[data-file]'

/** @throws what went wrong before the first file was made; a failure on the way breaks the answer off, so that it is not taken for whole */
export async function sendZipOfPages(context: Context, name: string, printer: Printer, asked: PageAsked, paper: Paper): Promise<void> {
  const left = new AbortController()
  context.res.once('close', () => left.abort())
  const zip = new ZipFile()
  const body = zip.outputStream as Readable
  // Before anything is sent nobody listens to it, and what went wrong is told by other means.
  body.on('error', () => undefined)
  await new Promise<void>((begun, failed) => {
    printer.withPage(asked, left.signal, async (page) => {
      const names = uniqueNames(await page.$$eval(PART, (parts) => parts.map((part) => (part as HTMLElement).dataset.file ?? '')))
      for (const [at, one] of names.entries()) {
        await showOnly(page, at)
        // A PDF is compressed already.
        zip.addBuffer(await pdfOf(page, paper), `${one}.pdf`, { compress: false })
        begun()
      }
      zip.end()
      begun()
    }).catch((error: Error) => {
      failed(error)
      body.destroy(error)
    })
  })
  context.attachment(`${name}.zip`)
  context.type = 'application/zip'
  context.body = body
}

async function showOnly(page: Page, at: number): Promise<void> {
  await page.$$eval(PART, (parts, shown) => parts.forEach((part, place) => ((part as HTMLElement).hidden = place !== shown)), at)
}

/** Names that a file can have anywhere, no two of them alike. */
export function uniqueNames(names: readonly string[]): string[] {
  const taken = new Set<string>()
  return names.map((wanted) => {
    const plain = wanted.replace(/[\\/:*?"<>|\p{Cc}]/gu, '-').trim().replace(/^\.+|\.+$/g, '').slice(0, 100) || 'slip'
    let name = plain
    for (let number = 2; taken.has(name.toLowerCase()); number++) name = `${plain} ${number}`
    taken.add(name.toLowerCase())
    return name
  })
}
