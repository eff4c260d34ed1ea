/** Grids and match lists on a million records, as the hand feels them. */
import { gateSchema } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { newGrid, paint } from '@dime-gate/core/gate/edit-grid'
import { addTray, newMatch, sortInto } from '@dime-gate/core/gate/edit-match'
import { givenInput } from '@dime-gate/core/gate/given-input'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import type { Page } from 'puppeteer-core'
import { type DimeGate, find, openDimeGate } from '../e2e/testing/dime-gate'
import { COUNTS_FOLLOW } from '../web/src/records/useResult'
import { treesFor } from './bring-in-trees'
import { type Figure, median, quantile } from './figure'

const RECORDS = 1_000_000
const FRAME = 16
const STEPS = 120
const ROUNDS = 3
const MOST_OF_A_MOVE = 16
const MOST_OF_A_COIN = 30
const VALUES = 2000
const TRAYS = 5
const DROPS = 40
const MOST_OF_A_COMPARISON = 1000
const TURNS = 7

async function onMillion<Result>(work: (gate: DimeGate, table: Table) => Promise<Result>): Promise<Result> {
  const gate = await openDimeGate()
  try {
    return await work(gate, await (await treesFor(gate.address, RECORDS))('Trees'))
  } finally {
    await gate.close()
  }
}

async function benchOf({ address, newPage }: DimeGate, table: Table, draft: Gate): Promise<Page> {
  const inputs = Object.fromEntries(draft.inputs.map(({ name }) => [name, { column: table.columns.find((column) => column.name === name)!.id }]))
  const made = await fetch(`${address}/api/v1/gates`, { method: 'POST', body: JSON.stringify({ draft, binding: { tableId: table.id, inputs } }) })
  const page = await newPage(`/gates/${gateSchema.parse(await made.json()).id}`)
  await page.bringToFront()
  return page
}

function rulesOf(...pairs: [condition: string, label: string][]): Gate {
  return {
    schema: 1, form: 'rules', name: 'Rules', inputs: ['Decay', 'Height', 'Trunk'].map((name) => givenInput(name, 'number')), hitPolicy: 'first', otherwise: null, outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    rules: pairs.map(([condition, label]) => ({ condition, entries: [{ is: label }], note: '' })),
  }
}

const worked = (page: Page) => page.evaluate((name) => performance.getEntriesByName(name).map((entry) => (entry as PerformanceMeasure).detail.work as number), COUNTS_FOLLOW)

export const dragOnAGrid: Figure = {
  name: `a cut of a grid's side dragged, 6 × 6, ${RECORDS.toLocaleString('en')} records in Chromium: work from the move to the counts, p95`,
  reach: `at most ${MOST_OF_A_MOVE} ms`,
  measure: () => onMillion(async (gate, table) => {
    const side = (on: string, cuts: string[]) => ({ kind: 'scale' as const, on, cuts: cuts.map((at) => ({ at, owner: 'above' as const })), floor: null, ceiling: null })
    let grid = newGrid('Grid', [givenInput('Decay', 'number'), givenInput('Trunk', 'number')], side('Decay', ['5', '12', '25', '40', '60']), side('Trunk', ['15', '25', '35', '50', '70']))
    for (let down = 0; down < 6; down++) for (let across = 0; across < 6; across++) grid = paint(grid, [[down, across]], ['Low', 'Middle', 'High', 'Extreme'][(down + across) >> 2]!)
    const page = await benchOf(gate, table, grid)
    await page.waitForFunction(() => [...document.querySelectorAll('.board [data-cell=count]')].every((one) => /\d/.test(one.textContent!)), { timeout: 120_000 })
    // Until the values are here, the line has nothing but the cuts to go by.
    await page.waitForFunction(() => document.querySelectorAll('.axis .bars:not([d=""])').length === 2, { timeout: 120_000 })
    // A pole bends: it is taken where it begins.
    const [x, y] = await (await find(page, '[data-post="down 2"] .pole')).evaluate((pole) => {
      const path = pole as unknown as SVGPathElement
      const point = path.getPointAtLength(12).matrixTransform(path.getScreenCTM()!)
      return [point.x, point.y] as const
    })
    const rounds: number[][] = []
    for (let round = 0; round < ROUNDS; round++) {
      await page.mouse.move(x, y)
      await page.mouse.down()
      await page.evaluate((name) => performance.clearMeasures(name), COUNTS_FOLLOW)
      for (let step = 0; step < STEPS; step++) {
        await page.mouse.move(x, y + 24 * Math.sin((step * 2 * Math.PI) / STEPS))
        await new Promise((resolve) => setTimeout(resolve, FRAME))
      }
      await page.mouse.move(x, y)
      await page.mouse.up()
      rounds.push(await worked(page))
    }
    // What else the machine does only ever adds; the calmest drag says most of the work.
    const work = rounds.toSorted((a, b) => quantile(a, 0.95) - quantile(b, 0.95))[0]!
    const p95 = quantile(work, 0.95)
    return { measured: `${p95.toFixed(1)} ms (median ${median(work).toFixed(1)} ms, ${work.length} moves, the calmest of ${ROUNDS} drags)`, ok: p95 <= MOST_OF_A_MOVE && work.length > 10 }
  }),
}

export const coinOfMany: Figure = {
  name: `a coin dropped among ${VALUES.toLocaleString('en')} different values, ${RECORDS.toLocaleString('en')} records in Chromium: until the counts are there, median`,
  reach: `at most ${MOST_OF_A_COIN} ms`,
  measure: () => onMillion(async (gate, table) => {
    const input = givenInput('Planted', 'date')
    const days = Array.from({ length: VALUES }, (_, at) => new Date(Date.UTC(1990, 0, 1) + at * 86_400_000).toISOString().slice(0, 10))
    let list = newMatch('List', input)
    for (let tray = 0; tray < TRAYS; tray++) list = addTray(list, `Tray ${tray + 1}`).gate
    days.forEach((day, at) => (list = at % 20 === 0 ? list : sortInto(list, [day], at % TRAYS)))
    const page = await benchOf(gate, table, list)
    await page.waitForFunction(() => [...document.querySelectorAll('.tray [data-cell=count]')].every((one) => /\d/.test((one as HTMLElement).innerText)) && document.querySelector('[data-rail] [data-coin]') !== null, { timeout: 120_000 })
    await page.evaluate((name) => performance.clearMeasures(name), COUNTS_FOLLOW)
    await page.focus('[data-rail] [data-coin]')
    for (let drop = 0; drop < DROPS; drop++) {
      await page.keyboard.press(String(1 + (drop % TRAYS)) as '1')
      await new Promise((resolve) => setTimeout(resolve, 150))
    }
    const took = await page.evaluate((name) => performance.getEntriesByName(name).map(({ duration }) => duration), COUNTS_FOLLOW)
    const middle = median(took)
    return { measured: `${middle.toFixed(1)} ms (p95 ${quantile(took, 0.95).toFixed(1)} ms, ${took.length} coins)`, ok: middle <= MOST_OF_A_COIN && took.length > DROPS / 2 }
  }),
}

export const sideBySide: Figure = {
  name: `two gates side by side over ${RECORDS.toLocaleString('en')} records in Chromium, their columns at hand: until what differs is told, median`,
  reach: `at most ${MOST_OF_A_COMPARISON} ms`,
  measure: () => onMillion(async (gate, table) => {
    const bands = (cuts: string[]) => plainScale('Scale', givenNumber('Decay', '%'), cuts.map((at) => ({ at, owner: 'above' as const })), ['Sound', 'Watch', 'Weak', 'Failing'].map((label) => ({ label, colour: '#56625f', mark: 'disc' as const })))
    const felling = rulesOf(['Decay >= 40 and Height > 12', 'Failing'], ['Decay >= 25 or Trunk > 90', 'Weak'], ['Decay >= 12', 'Watch'], ['-', 'Sound'])
    const ids: number[] = []
    for (const draft of [bands(['12', '25', '40']), felling]) ids.push(Number(/gates\/(\d+)/.exec((await benchOf(gate, table, draft)).url())![1]))
    const side = (id: number) => encodeURIComponent(`gate ${id} draft`)
    const page = await gate.newPage(`/compare?on=${table.id}&a=${side(ids[0]!)}&b=${side(ids[1]!)}`)
    await page.bringToFront()
    await page.waitForSelector('[data-move]', { timeout: 240_000 })
    const took: number[] = []
    for (let turn = 0; turn < TURNS; turn++) {
      took.push(await page.evaluate(async () => {
        const before = document.querySelector<HTMLElement>('[data-move]')!.innerText
        const since = performance.now()
        document.querySelector<HTMLElement>('[aria-label="Swap the sides"]')!.click()
        for (;;) {
          await new Promise((resolve) => requestAnimationFrame(resolve))
          const now = document.querySelector<HTMLElement>('[data-move]')?.innerText
          if (now !== undefined && now !== before) return performance.now() - since
        }
      }))
    }
    const middle = median(took)
    return { measured: `${middle.toFixed(0)} ms (worst ${Math.max(...took).toFixed(0)} ms, ${took.length} turns)`, ok: middle <= MOST_OF_A_COMPARISON }
  }),
}
