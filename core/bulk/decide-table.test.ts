import fc from 'fast-check'
import { countBits } from '../table/bitmap'
import { columnOf, recordAt, type Table, valueAt } from '../table/table'
import { textOfValue } from '../value/value-text'
import { decideRecord } from '../decide/decide-record'
import { tableDecider } from './decide-table'
import type { Decisions } from './decisions'
import type { Gate, HitPolicy } from '../gate/document'
import { lowered } from '../rule/lower'
import { outcomeColumns } from './outcome-columns'
import { anInput, rulesGate } from '../testing/a-gate'
import { formGates, pointsGates, rulesGates, tables, TODAY, wideGates } from '../testing/arbitrary-gate'

const places = (table: Table) => Array.from({ length: table.length }, (_, at) => at)

function expectEqual(gate: Gate, table: Table, widest?: number): void {
  const ready = lowered(gate)
  const decider = tableDecider(table, TODAY, widest)
  const decisions = decider.decide(ready)
  const expected = places(table).map((at) => decideRecord(ready, recordAt(table, at), TODAY))
  expect(places(table).map((at) => decisions.at(at))).toEqual(expected.map(({ status, rule }) => ({ status, rule })))
  expect(places(table).map((at) => decider.explain(ready, at))).toEqual(expected)
  const columns = [...outcomeColumns(ready, table, decisions, decider).values()]
  expect(places(table).map((at) => columns.map((column) => textOfValue(valueAt(column, at))))).toEqual(expected.map(({ outcomes }) => columns.map((_, place) => textOfValue(outcomes[place] ?? null))))
  const { caught, otherwise, unplaced, held, contested, counts } = decisions
  expect([...counts.caught, counts.otherwise, counts.unplaced, counts.held, counts.contested]).toEqual([...caught, otherwise, unplaced, held, contested].map(countBits))
  expect([...counts.caught, counts.otherwise, counts.unplaced, counts.held, counts.contested].reduce((a, b) => a + b)).toBe(table.length)
}

describe('a table is decided as its records are, one by one', () => {
  test.each<HitPolicy>(['first', 'unique', 'any', 'priority', 'rule order', 'output order', 'collect', 'collect count'])('rules, %s', (policy) => {
    fc.assert(fc.property(rulesGates(fc.constant(policy)), tables, (gate, table) => expectEqual(gate, table)), { numRuns: policy === 'first' ? 400 : 100 })
  })
  test.each<HitPolicy>(['first', 'unique', 'priority', 'collect', 'collect count'])('rules with tests and results of every kind, %s', (policy) => {
    fc.assert(fc.property(wideGates(fc.constant(policy)), tables, (gate, table) => expectEqual(gate, table)), { numRuns: policy === 'first' ? 400 : 100 })
  })
  test.each<HitPolicy>(['collect sum', 'collect min', 'collect max'])('points, %s', (policy) => {
    fc.assert(fc.property(pointsGates(fc.constant(policy)), tables, (gate, table) => expectEqual(gate, table)), { numRuns: 100 })
  })
  test('scales, match lists and grids', () => fc.assert(fc.property(formGates, tables, (gate, table) => expectEqual(gate, table)), { numRuns: 400 }))

  test('rule by rule, where records are too different for cells', () => {
    fc.assert(fc.property(rulesGates(fc.constant('first')), tables, (gate, table) => expectEqual(gate, table, 0)), { numRuns: 400 })
    fc.assert(fc.property(wideGates(fc.constant('first')), tables, (gate, table) => expectEqual(gate, table, 0)), { numRuns: 300 })
    fc.assert(fc.property(formGates, tables, (gate, table) => expectEqual(gate, table, 0)), { numRuns: 200 })
  })
})

test('what rules would take alone is counted alike, in cells and rule by rule', () => {
  fc.assert(fc.property(rulesGates(fc.constant('first')), rulesGates(fc.constant('first')), tables, (gate, other, table) => {
    const [cells, rows] = [tableDecider(table, TODAY), tableDecider(table, TODAY, 0)]
    for (const one of [{ ...gate, inputs: other.inputs }, gate, other, gate]) {
      const ready = lowered(one)
      for (const decider of [cells, rows]) decider.decide(ready)
      expect(rows.alone(ready)).toEqual(cells.alone(ready))
    }
  }), { numRuns: 200 })
})

const told = ({ at, counts }: Decisions, table: Table) => ({ counts, each: places(table).map(at) })

test('a test that nobody asks any more leaves nothing to be tried', () => {
  // Of the ratio only its blank is asked for in the end; before, where it lies was asked too.
  const inputs = [anInput('Height', 'number'), anInput('Trunk', 'number'), anInput('Ratio', 'number', { source: { kind: 'figure', feel: 'Height / Trunk' } })]
  const [before, after] = ['Ratio = null and Ratio < 5', 'Ratio = null'].map((condition) => lowered(rulesGate(inputs, [[condition, 'a']])))
  const table: Table = { length: 2, columns: new Map([['Height', columnOf('number', ['1', '2'])], ['Trunk', columnOf('number', [null, '4'])]]) }
  const decider = tableDecider(table, TODAY)
  decider.decide(before!)
  expect(told(decider.decide(after!), table)).toEqual(told(tableDecider(table, TODAY).decide(after!), table))
})

test('a changed gate gives what it would give from scratch', () => {
  const policies = fc.constantFrom<HitPolicy>('first', 'unique')
  fc.assert(fc.property(rulesGates(policies), rulesGates(policies), tables, (before, after, table) => {
    for (const widest of [undefined, 0]) {
      const decider = tableDecider(table, TODAY, widest)
      // Another gate on the same inputs, then one whose inputs are rounded and held otherwise.
      decider.decide(lowered({ ...before, inputs: after.inputs }))
      decider.decide(lowered(before))
      expect(told(decider.decide(lowered(after)), table)).toEqual(told(tableDecider(table, TODAY).decide(lowered(after)), table))
    }
  }), { numRuns: 200 })
})
