/** Debian's Chromium, headless, with a profile of its own that goes when it closes. */
import { existsSync } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer, { type Browser } from 'puppeteer-core'
import { installFromDebian } from './shell'

const PROGRAM = '/usr/bin/chromium'

/** Offline by design: nothing but the page under test is to be reached. */
const QUIET = ['--no-sandbox', '--disable-quic', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run', '--disable-dev-shm-usage']

export async function installChromium(): Promise<void> {
  if (!existsSync(PROGRAM)) await installFromDebian('Chromium', ['chromium'])
}

/** Runs `work` with a browser, which is closed whatever happens. */
export async function withChromium<Result>(work: (browser: Browser) => Promise<Result>): Promise<Result> {
  const { browser, close } = await openChromium()
  try {
    return await work(browser)
  } finally {
    await close()
  }
}

export async function openChromium(): Promise<{ browser: Browser; close: () => Promise<void> }> {
  await installChromium()
  const profile = await mkdtemp(join(tmpdir(), 'dime-gate-chromium-'))
  const browser = await puppeteer.launch({
    executablePath: PROGRAM,
    userDataDir: profile,
    args: QUIET,
    defaultViewport: { width: 1280, height: 800 },
  })
  const close = async () => {
    await browser.close()
    await rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 })
  }
  return { browser, close }
}
