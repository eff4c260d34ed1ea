import type { Page } from 'puppeteer-core'
import { gateSchema } from '@dime-gate/contract/gate'
import { DECAY_BAND } from '@dime-gate/demo/decay-band'
import { find, openDimeGate, postPlace } from '../e2e/testing/dime-gate'
import { COUNTS_FOLLOW } from '../web/src/records/useResult'
import { treesFor } from './bring-in-trees'
import { type Figure, median, quantile } from './figure'

const FRAME = 16
const STEPS = 200
const ROUNDS = 3
/** A task on the page's own thread as long as this is felt. */
const LONG_TASK = 50

/** @param most milliseconds of work for a move. @param mostToOpen milliseconds from the click on a gate to its counts; null where that is not asked */
function benchInChromium(records: number, most: number, mostToOpen: number | null): Figure {
  const many = records.toLocaleString('en')
  return {
    name: `${mostToOpen === null ? '' : 'opening the bench, and '}dragging a cut on ${many} records in Chromium: work from the move to the counts on the page, p95`,
    reach: `${mostToOpen === null ? '' : `opened within ${mostToOpen} ms; `}at most ${most} ms, and no task of ${LONG_TASK} ms`,
    async measure() {
      const gate = await openDimeGate()
      try {
        const table = await (await treesFor(gate.address, records))('Trees')
        const columnId = table.columns.find(({ name }) => name === DECAY_BAND.on)!.id
        const made = await fetch(`${gate.address}/api/v1/gates`, { method: 'POST', body: JSON.stringify({ draft: DECAY_BAND, binding: { tableId: table.id, inputs: { [DECAY_BAND.on]: { column: columnId } } } }) })
        const { id } = gateSchema.parse(await made.json())
        const page = await gate.newPage('/gates')
        await page.bringToFront()
        const opened: number[] = []
        for (let round = 0; round < ROUNDS; round++) {
          await page.goto(`${gate.address}/gates`, { waitUntil: 'networkidle0' })
          opened.push(await open(page, id))
        }
        const rounds: Drag[] = []
        for (let round = 0; round < ROUNDS; round++) rounds.push(await drag(page))
        // What else the machine does only ever adds; the calmest drag says most of the work.
        const { work, shown, longest } = rounds.toSorted((a, b) => quantile(a.work, 0.95) - quantile(b.work, 0.95))[0]!
        const [p95, toOpen] = [quantile(work, 0.95), median(opened)]
        const told = `${p95.toFixed(1)} ms (median ${median(work).toFixed(1)} ms; with all waiting ${median(shown).toFixed(1)} ms, p95 ${quantile(shown, 0.95).toFixed(1)} ms; longest task ${longest.toFixed(0)} ms; ${work.length} moves, the calmest of ${ROUNDS} drags)`
        return {
          measured: mostToOpen === null ? told : `opened in ${Math.round(toOpen)} ms; ${told}`,
          ok: p95 <= most && longest < LONG_TASK && work.length > STEPS / 3 && (mostToOpen === null || toOpen <= mostToOpen),
        }
      } finally {
        await gate.close()
      }
    },
  }
}

export const dragInChromium = benchInChromium(100_000, 8, null)
export const millionInChromium = benchInChromium(1_000_000, 16, 2000)

/** Milliseconds from the click on a gate to its counts. */
async function open(page: Page, id: number): Promise<number> {
  await find(page, `a[href="/gates/${id}"]`)
  return page.evaluate(async (link) => {
    const start = performance.now()
    document.querySelector<HTMLElement>(link)!.click()
    while (!/\d/.test(document.querySelector<HTMLElement>('[data-band="Failing"] [data-cell=count]')?.innerText ?? '')) await new Promise((resolve) => setTimeout(resolve, 5))
    return performance.now() - start
  }, `a[href="/gates/${id}"]`)
}

interface Drag {
  /** Milliseconds of work, and until the counts were on the page, for each move of one drag. */
  work: number[]
  shown: number[]
  /** The longest task on the page's own thread, in milliseconds; 0 where none took 50. */
  longest: number
}

async function drag(page: Page): Promise<Drag> {
  const { x, y } = await postPlace(page, 1)
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.evaluate((name) => {
    performance.clearMeasures(name)
    const tasks: number[] = []
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({ type: 'longtask' })
    Object.assign(window, { longTasks: tasks })
  }, COUNTS_FOLLOW)
  for (let step = 0; step < STEPS; step++) {
    await page.mouse.move(x + 60 * Math.sin(step / 9), y)
    // A hand moves on with the screen, which shows sixty pictures a second.
    await new Promise((resolve) => setTimeout(resolve, FRAME))
  }
  await page.mouse.up()
  const times = await page.evaluate((name) => performance.getEntriesByName(name).map((entry) => [(entry as PerformanceMeasure).detail.work as number, entry.duration] as const), COUNTS_FOLLOW)
  const longest = await page.evaluate(() => Math.max(0, ...(window as unknown as { longTasks: number[] }).longTasks))
  return { longest, work: times.map(([worked]) => worked), shown: times.map(([, duration]) => duration) }
}
