import { tableDecider } from '@dime-gate/core/bulk/decide-table'
import { type Figure, median, quantile } from './figure'
import { countsOf, FOUR, fourColumns, gateOf, TODAY, twentyRules } from './million'

const MOVES = 120
const MOST = 5

export const moveOneCut: Figure = {
  name: '1,000,000 records by 20 rules, one cut moved and counted again, p95',
  reach: `within ${MOST} ms`,
  async measure() {
    const decider = tableDecider(fourColumns(0), TODAY)
    const times = Array.from({ length: MOVES + 10 }, (_, move) => {
      const gate = gateOf(FOUR, twentyRules((move % 37) / 10))
      const start = performance.now()
      countsOf(decider.decide(gate))
      return performance.now() - start
    }).slice(10)
    const p95 = quantile(times, 0.95)
    return { measured: `${p95.toFixed(1)} ms (median ${median(times).toFixed(1)} ms, ${MOVES} moves)`, ok: p95 <= MOST }
  },
}
