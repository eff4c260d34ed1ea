/** Debian's Chromium, headless, with a profile of its own that goes when it closes. Nothing but our own pages is opened in it. */
import { existsSync } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser } from 'puppeteer-core'

/** Offline by design: nothing but the page that is asked for is to be reached. */
const QUIET = ['--disable-quic', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run', '--disable-dev-shm-usage']

/** Where the program is, or would be: `CHROMIUM` says so where it is elsewhere than Debian puts it. */
export function chromiumPath(): string {
  return process.env.CHROMIUM ?? '/usr/bin/chromium'
}

export function isChromiumThere(): boolean {
  return existsSync(chromiumPath())
}

export interface OpenBrowser {
  browser: Browser
  close(): Promise<void>
}

/** It ends with this process, whatever becomes of that. @throws Error where it is not there, or does not start */
export async function launchChromium(): Promise<OpenBrowser> {
  // Most who start the program never print: they need not wait for what prints.
  const { default: puppeteer } = await import('puppeteer-core')
  const profile = await mkdtemp(join(tmpdir(), 'dime-gate-chromium-'))
  const forget = () => rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 })
  try {
    const browser = await puppeteer.launch({
      executablePath: chromiumPath(),
      userDataDir: profile,
      // Chromium refuses to keep root in its sandbox.
      args: process.getuid?.() === 0 ? ['--no-sandbox', ...QUIET] : QUIET,
      defaultViewport: { width: 1280, height: 800 },
      // By a pipe it notices when the one who opened it is gone.
      pipe: true,
      handleSIGINT: false, handleSIGTERM: false, handleSIGHUP: false,
    })
    return { browser, close: () => browser.close().catch(() => undefined).then(forget) }
  } catch (error) {
    await forget()
    throw error
  }
}
