/** What is wrong on a page by WCAG 2.2 up to level AA: what axe finds, and names that are read out and do not hold what is seen. */
import { readFileSync } from 'node:fs'
import type { Page } from 'puppeteer-core'

const AXE = readFileSync('node_modules/axe-core/axe.min.js', 'utf8')

export async function violationsOn(page: Page): Promise<string[]> {
  await page.evaluate(AXE)
  return [...(await namesBesideTexts(page)), ...(await foundByAxe(page))]
}

const NAMED = ['button', 'a', '[role=button]', '[role=gridcell]', '[role=tab]', '[role=menuitem]'].map((one) => `${one}[aria-label]`).join()
const wordsIn = (text: string) => text.toLowerCase().match(/[\p{L}\p{N}]+/gu)?.join(' ') ?? ''

/** Clause 2.5.3: who speaks to the page says what stands there. Words alone count, in their order; signs, and keys to press, do not. */
async function namesBesideTexts(page: Page): Promise<string[]> {
  const named = await page.$$eval(NAMED, (all) =>
    all.map((element) => ({
      name: element.getAttribute('aria-label')!,
      text: (element as HTMLElement).innerText ?? '',
      unsaid: [...element.querySelectorAll<HTMLElement>('kbd, [aria-hidden=true]')].map((one) => one.innerText ?? ''),
    })),
  )
  return named.flatMap(({ name, text, unsaid }) => {
    const seen = unsaid.reduce((left, one) => left.replace(wordsIn(one), '').trim(), wordsIn(text))
    return wordsIn(name).includes(seen) ? [] : [`label-in-name: “${seen}” is read out as “${name}”`]
  })
}

function foundByAxe(page: Page): Promise<string[]> {
  return page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run(options: object): Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }> }
    }
    const { violations } = await axe.run({
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
      // It joins texts that stand apart from one another.
      rules: { 'label-content-name-mismatch': { enabled: false } },
    })
    return violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes.map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary.slice(0, 200)}`).join(' | ')}`,
    )
  })
}
