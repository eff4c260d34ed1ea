import fc from 'fast-check'
import { decideRecord } from '../decide/decide-record'
import { lowered } from '../rule/lower'
import { placesOf } from '../table/bitmap'
import { recordAt, type Table } from '../table/table'
import { rulesGates, tables, TODAY } from '../testing/arbitrary-gate'
import type { Gate } from '../gate/document'
import { textOfValue } from '../value/value-text'
import { resultMaker } from './make-results'
import { landingName, movesBetween } from './moves'
import { COMPUTED } from './tray'

const resultOf = (gate: Gate, table: Table) => resultMaker(() => table, TODAY)([{ gate, lowered: lowered(gate) }])

/** Where each record ends, one by one. */
function landings(gate: Gate, table: Table): string[] {
  const ready = lowered(gate)
  return Array.from({ length: table.length }, (_, at) => {
    const { status, rule } = decideRecord(ready, recordAt(table, at), TODAY)
    if (status !== 'labelled' && status !== 'otherwise') return status
    const entry = (rule === -1 ? ready.otherwise! : ready.rules[rule]!.entries)[0]!
    return `label ${'value' in entry ? textOfValue(entry.value) : COMPUTED}`
  })
}

test('what two gates give differently is what they give differently record by record', () => {
  let moved = 0
  fc.assert(
    fc.property(rulesGates(fc.constant('first')), fc.nat(5), tables, (gate, place, table) => {
      const other = { ...gate, rules: gate.rules.toSpliced(place, 1), otherwise: place % 2 ? null : gate.otherwise }
      const { moves, stayed, places } = movesBetween(resultOf(gate, table), resultOf(other, table))
      const [was, is] = [landings(gate, table), landings(other, table)]
      const pairs = was.flatMap((from, at) => (from === is[at] ? [] : [`${from} > ${is[at]!}`]))
      expect(stayed).toBe(was.length - pairs.length)
      expect(
        moves
          .flatMap(({ from, to, records }) => Array.from({ length: records }, () => `${landingName(from)} > ${landingName(to)}`))
          .toSorted(),
      ).toEqual(pairs.toSorted())
      for (const { from, to } of moves)
        for (const at of placesOf(places(from, to))) expect([was[at], is[at]]).toEqual([landingName(from), landingName(to)])
      moved += pairs.length
    }),
    { numRuns: 150 },
  )
  expect(moved).toBeGreaterThan(100)
})
