/** What axe finds wrong on a page, by WCAG 2.2 up to level AA. */
import { readFileSync } from 'node:fs'
import type { Page } from 'puppeteer-core'

const AXE = readFileSync('node_modules/axe-core/axe.min.js', 'utf8')

export async function violationsOn(page: Page): Promise<string[]> {
  await page.evaluate(AXE)
  return page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run(options: object): Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }> }
    }
    const { violations } = await axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })
    return violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes.map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary.slice(0, 200)}`).join(' | ')}`,
    )
  })
}
