import { tableDecider } from '@dime-gate/core/bulk/decide-table'
import type { Lowered } from '@dime-gate/core/rule/rules'
import type { Table } from '@dime-gate/core/table/table'
import type { ValueKind } from '@dime-gate/core/value/value'
import { type Figure, median } from './figure'
import { countsOf, decided, FOUR, fourColumns, gateOf, numbers, repeating, DAYS, SPECIES, tableOf, TODAY, twentyRules } from './million'

const ROUNDS = 7
const MOST = 1.5
const MIXED: Record<string, ValueKind> = { A: 'number', B: 'number', Species: 'text', Due: 'date' }

/** Twenty rules like the others, with a text or a date in place of every other number. */
function mixedRules(moved = 0): string[] {
  return twentyRules(moved).map((_, rule) => {
    const number = `${rule % 2 ? 'A' : 'B'} >= ${(97 - rule * 1.7 - (rule === 9 ? moved : 0)).toFixed(1)}`
    const day = DAYS[1200 + rule * 80]!
    return rule % 2 ? `${number} and Due < @"${day}"` : `${number} and Species in ("${SPECIES[rule]}", "${SPECIES[(rule * 7 + 3) % 24]}", "${SPECIES[(rule + 11) % 24]}")`
  })
}

export const blanksTextsDates: Figure = {
  name: 'the same with 5 % blanks, and with text and date tests, against the plain one: from scratch and one cut moved',
  reach: `within ${MOST} × each`,
  async measure() {
    const plain = { table: fourColumns(0), gate: (moved: number) => gateOf(FOUR, twentyRules(moved)) }
    const blanks = { table: fourColumns(0.05), gate: plain.gate }
    const mixed = {
      table: tableOf({ A: numbers(1, 0), B: numbers(2, 0), Species: repeating(3, 'text', SPECIES, 0), Due: repeating(4, 'date', DAYS, 0) }),
      gate: (moved: number) => gateOf(MIXED, mixedRules(moved)),
    }
    const scratch = compare([plain, blanks, mixed], ({ table, gate }) => {
      const ready = gate(0)
      return () => decided(table, ready)
    })
    const move = compare([plain, blanks, mixed], ({ table, gate }) => {
      const decider = tableDecider(table, TODAY)
      let moved = 0
      return () => {
        moved = (moved + 0.1) % 3
        const ready = gate(moved)
        const start = performance.now()
        countsOf(decider.decide(ready))
        return performance.now() - start
      }
    }, 15)
    const ratios = [scratch[1]! / scratch[0]!, scratch[2]! / scratch[0]!, move[1]! / move[0]!, move[2]! / move[0]!]
    const [a, b, c, d] = ratios.map((ratio) => ratio.toFixed(2))
    const times = (all: number[]) => all.map((time) => time.toFixed(1)).join(' / ')
    return { measured: `blanks ${a} × and ${c} ×, texts and dates ${b} × and ${d} × (plain / blanks / mixed: ${times(scratch)} ms from scratch, ${times(move)} ms moved)`, ok: ratios.every((ratio) => ratio <= MOST) }
  },
}

interface Case {
  table: Table
  gate(moved: number): Lowered
}

/** Median milliseconds of each case, turn and turn about. A prepared run may tell its own time, less what it had to get ready. */
function compare(cases: readonly Case[], prepare: (one: Case) => () => unknown, rounds = ROUNDS): number[] {
  const runs = cases.map(prepare)
  const times: number[][] = cases.map(() => [])
  for (let round = 0; round <= rounds; round++) {
    runs.forEach((run, at) => {
      const start = performance.now()
      const told = run()
      const took = typeof told === 'number' ? told : performance.now() - start
      if (round > 0) times[at]!.push(took)
    })
  }
  return times.map(median)
}
