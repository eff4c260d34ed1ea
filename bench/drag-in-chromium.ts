import { gateSchema } from '@dime-gate/contract/gate'
import { DECAY_BAND } from '@dime-gate/demo/decay-band'
import { find, openDimeGate, postPlace } from '../e2e/testing/dime-gate'
import { COUNTS_FOLLOW } from '../web/src/bench/useLiveCounts'
import { bringInTrees } from './bring-in-trees'
import { type Figure, median, quantile } from './figure'

const RECORDS = 100_000
const FRAME = 16
const STEPS = 300

export const dragInChromium: Figure = {
  name: 'dragging a cut on 100,000 records: from the move to the counts on the page, p95',
  reach: `within ${FRAME} ms`,
  async measure() {
    const gate = await openDimeGate()
    try {
      const table = await bringInTrees(gate.address, RECORDS, 'Trees')
      const columnId = table.columns.find(({ name }) => name === DECAY_BAND.input.name)!.id
      const made = await fetch(`${gate.address}/api/gates`, { method: 'POST', body: JSON.stringify({ draft: DECAY_BAND, tableId: table.id, columnId }) })
      const page = await gate.newPage(`/gates/${gateSchema.parse(await made.json()).id}`)
      await page.bringToFront()
      await find(page, '[data-band="Failing"]')
      const { x, y } = await postPlace(page, 1)
      await page.mouse.move(x, y)
      await page.mouse.down()
      for (let step = 0; step < STEPS; step++) await page.mouse.move(x + 60 * Math.sin(step / 9), y)
      await page.mouse.up()
      const times = await page.evaluate((name) => performance.getEntriesByName(name).map(({ duration }) => duration), COUNTS_FOLLOW)
      // The first counts were those of the page being opened.
      const moves = times.slice(1)
      const p95 = quantile(moves, 0.95)
      return { measured: `${p95.toFixed(1)} ms (median ${median(moves).toFixed(1)} ms, ${moves.length} moves)`, ok: p95 <= FRAME && moves.length > STEPS / 3 }
    } finally {
      await gate.close()
    }
  },
}
