import fc from 'fast-check'
import { decideRecord } from '../decide/decide-record'
import { lowered } from '../rule/lower'
import { placesOf } from '../table/bitmap'
import { recordAt, type Table } from '../table/table'
import { rulesGates, tables, TODAY } from '../testing/arbitrary-gate'
import type { Gate } from '../gate/document'
import { textOfValue } from '../value/value-text'
import { resultMaker } from './make-results'
import { isOnlyWriting, landedBy, landedIn, landingName, movesBetween, movesOf } from './moves'
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import { anInput, rulesGate } from '../testing/a-gate'
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

test('a gate beside labels that were entered by hand: what differs only in writing is told apart', () => {
  const gate = rulesGate([anInput('Decay', 'number')], [['Decay >= 40', 'Fell now'], ['Decay >= 12', 'Watch']], { otherwise: [{ is: 'Sound' }] })
  const result = resultOf(gate, { length: 6, columns: new Map([['Decay', numberColumn(['50', '50', '20', '3', null, '41'])]]) })
  const hand = landedBy(dictionaryColumn('text', ['Fell now', 'fell-now ', 'Sound', null, 'Watch', 'Fell now']))!
  const { moves, stayed } = movesOf(landedIn(result), hand)
  expect(stayed).toBe(2)
  expect(moves.map((move) => [landingName(move.from), landingName(move.to), move.records, isOnlyWriting(move)])).toEqual(expect.arrayContaining([
    ['label Fell now', 'label fell-now ', 1, true],
    ['label Watch', 'label Sound', 1, false],
    ['label Sound', 'blank', 1, false],
    ['held', 'label Watch', 1, false],
  ]))
  expect(moves).toHaveLength(4)
})

test('a column of too many different values is no column of labels', () => {
  expect(landedBy(numberColumn(Array.from({ length: 2500 }, (_, at) => String(at))))).toBeNull()
  expect(landedBy(numberColumn(['1', '2', '1']))!.landings).toHaveLength(3)
})
