/** The browser that tests, figures and pictures are made with; installed where it is not there. */
import type { Browser } from 'puppeteer-core'
import { isChromiumThere, launchChromium, type OpenBrowser } from '../server/paper/chromium'
import { installFromDebian } from './shell'

export async function installChromium(): Promise<void> {
  if (!isChromiumThere()) await installFromDebian('Chromium', ['chromium'])
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

export async function openChromium(): Promise<OpenBrowser> {
  await installChromium()
  return launchChromium()
}
