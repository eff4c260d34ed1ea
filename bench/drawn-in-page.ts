/** When something is drawn, by the page's own clock: what a person waits for, and not until somebody outside is told of it. */
import type { Page } from 'puppeteer-core'

/** Goes to an address. @returns milliseconds from the beginning of the way there until each selector is drawn for the first time */
export async function drawnAfter(page: Page, address: string, selectors: readonly string[], patience: number): Promise<number[]> {
  const { identifier } = await page.evaluateOnNewDocument((wanted) => {
    const drawn: Record<string, number> = {}
    Object.assign(window, { drawn })
    new MutationObserver(() => {
      const there = wanted.filter((selector) => !(selector in drawn) && document.querySelector(selector))
      // The next frame shows them: a task of its own behind it comes after that.
      if (there.length > 0) requestAnimationFrame(() => setTimeout(() => there.forEach((selector) => (drawn[selector] ??= performance.now()))))
    }).observe(document, { childList: true, subtree: true })
  }, selectors)
  try {
    await page.goto(address, { waitUntil: 'domcontentloaded' })
    const found = await page.waitForFunction((wanted) => {
      const { drawn } = window as unknown as { drawn: Record<string, number> }
      return wanted.every((selector) => selector in drawn) && wanted.map((selector) => drawn[selector]!)
    }, { timeout: patience, polling: 50 }, selectors)
    return (await found.jsonValue()) as number[]
  } finally {
    await page.removeScriptToEvaluateOnNewDocument(identifier)
  }
}
