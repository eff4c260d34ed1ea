/** What is done with nothing but keys, as somebody who has no mouse does it. */
import type { Page } from 'puppeteer-core'
import { eventually, find } from './dime-gate'

export function keysOn(page: Page, address: string) {
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? (document.activeElement as HTMLElement).innerText)
  const press = (key: string) => page.keyboard.press(key as 'Enter')
  /** A menu takes the focus to itself in the frame after it left. */
  const settled = () => page.evaluate(() => new Promise((resolve) => requestAnimationFrame(resolve)))

  /** From where the focus is, as often as it takes. */
  async function tabTo(what: string): Promise<void> {
    for (let steps = 0; steps < 200; steps++) {
      if ((await focused()).startsWith(what)) return
      await press('Tab')
      await settled()
    }
    throw new Error(`the focus never came to ${what}`)
  }

  return {
    focused,
    press,
    tabTo,
    async pressWith(held: string, key: string): Promise<void> {
      await page.keyboard.down(held as 'Shift')
      await press(key)
      await page.keyboard.up(held as 'Shift')
    },
    /** Chooses in a menu that has just been opened. */
    async choose(item: string): Promise<void> {
      for (let steps = 0; steps < 40; steps++) {
        if ((await focused()).startsWith(item)) return press('Enter')
        await press('ArrowDown')
      }
      throw new Error(`the menu has no ${item}`)
    },
    /** A new gate of a form on columns of a table, from the table's page. @param ready what its bench has */
    async newGate(table: number, form: string, columns: readonly string[], ready: string): Promise<void> {
      await page.goto(`${address}/tables/${table}`, { waitUntil: 'networkidle0' })
      await press('n')
      await find(page, '[role=dialog] .start:not(:disabled)')
      await page.focus('[role=dialog] [role=tab][aria-selected=true]')
      for (let tab = await focused(); !tab.startsWith(form); ) {
        await press('ArrowRight')
        const before = tab
        await eventually(async () => (tab = await focused()) !== before, true)
      }
      for (const column of columns) {
        await tabTo(column)
        await press('Enter')
      }
      await find(page, ready)
    },
  }
}
