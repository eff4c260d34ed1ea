/** What a person does on a page, each a click, a key, a text that is typed, or a drag, and how many of them it takes. */
import type { ElementHandle, Page } from 'puppeteer-core'
import { click, find } from './dime-gate'

export type Hand = ReturnType<typeof handOn>

export function handOn(page: Page) {
  let actions = 0
  return {
    count: () => actions,
    async click(selector: string) {
      actions++
      await click(page, selector)
    },
    /** Anything else that is one action, such as choosing a file. */
    async doing(act: () => Promise<void>) {
      actions++
      await act()
    },
    async type(text: string) {
      actions++
      await page.keyboard.type(text)
    },
    async key(key: string) {
      actions++
      await page.keyboard.press(key as 'Enter')
    },
    /** A key while another is held down. */
    async keyWith(held: string, key: string) {
      actions++
      await page.keyboard.down(held as 'Shift')
      await page.keyboard.press(key as 'Enter')
      await page.keyboard.up(held as 'Shift')
    },
    /** From the middle of one thing to the middle of another, by way of what lies between. */
    async drag(from: string, ...over: string[]) {
      actions++
      const [first, ...others] = await Promise.all([from, ...over].map(async (selector) => middleOf(await find(page, selector))))
      await page.mouse.move(first!.x, first!.y)
      await page.mouse.down()
      for (const { x, y } of others) await page.mouse.move(x, y, { steps: 6 })
      await page.mouse.up()
    },
  }
}

async function middleOf(element: ElementHandle): Promise<{ x: number; y: number }> {
  const box = (await element.boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}
