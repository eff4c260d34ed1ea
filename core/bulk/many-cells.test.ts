import { numberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { decideRecord } from '../decide/decide-record'
import { lowered } from '../rule/lower'
import { tableDecider } from './decide-table'

/** The same numbers on every run. */
function chance(seed: number): () => number {
  let state = seed
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32
}

const NAMES = ['A', 'B', 'C', 'D', 'E', 'F']
const next = chance(7)
const table: Table = { length: 3000, columns: new Map(NAMES.map((name) => [name, numberColumn(Array.from({ length: 3000 }, () => (next() < 0.03 ? null : String(Math.floor(next() * 1000) / 10))))])) }
const rules = (moved: number) => Array.from({ length: 90 }, (_, rule): [string, string] => [
  `${NAMES[rule % 6]} >= ${(90 - rule * 0.7 + (rule === 40 ? moved : 0)).toFixed(1)} and ${NAMES[(rule * 5 + 1) % 6]} < ${(20 + rule * 0.6).toFixed(1)}`, `label ${rule % 7}`,
])

test('more combinations than can be kept for all are decided as their records are, also when a cut moves', () => {
  const decider = tableDecider(table, TODAY)
  for (const moved of [0, 0.3, 30]) {
    const gate = lowered(rulesGate(NAMES.map((name) => anInput(name, 'number')), rules(moved), { otherwise: [{ is: 'rest' }] }))
    const { at, counts } = decider.decide(gate)
    let held = 0
    for (let place = 0; place < table.length; place++) {
      const { status, rule } = decideRecord(gate, recordAt(table, place), TODAY)
      expect({ place, ...at(place) }).toEqual({ place, status, rule })
      if (status === 'held') held++
    }
    expect(counts.held).toBe(held)
    expect(held).toBeGreaterThan(50)
  }
})
