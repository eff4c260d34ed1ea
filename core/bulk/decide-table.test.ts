import fc from 'fast-check'
import { countBits, unionOf } from '../table/bitmap'
import { columnOf, recordAt, type Table, valueAt } from '../table/table'
import { textOfValue } from '../value/value-text'
import { decideRecord } from '../decide/decide-record'
import { tableDecider } from './decide-table'
import { AFTER_RULES, type Decisions } from './decisions'
import type { Gate, HitPolicy, Library, RulesGate } from '../gate/document'
import { moveRule, switchRule } from '../gate/edit-rules'
import { lower, lowered } from '../rule/lower'
import { outcomeColumns } from './outcome-columns'
import { anInput, rulesGate } from '../testing/a-gate'
import { formGates, pointsGates, rulesGates, tables, TODAY, wideGates } from '../testing/arbitrary-gate'

const ALONE: Library = { gates: [], conditions: [] }
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
  const { counts } = decisions
  const ends = [...counts.caught.keys(), ...AFTER_RULES]
  expect([...counts.caught, counts.otherwise, counts.unplaced, counts.held, counts.contested]).toEqual(ends.map((end) => countBits(decisions.having([end]))))
  // Of several together: every second one.
  const some = ends.filter((_, at) => at % 2 === 0)
  expect(decisions.having(some)).toEqual(unionOf(some.map((end) => decisions.having([end])), table.length))
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

test.each([0, undefined])('after any change of a rule, an order, or the rest, rules from there on alone are walked, and every record gets what it gets by itself, with cells up to %s', (widest) => {
  const all = fc.oneof(rulesGates(fc.constant<HitPolicy>('first')), wideGates(fc.constant<HitPolicy>('first')))
  const step = fc.record({ kind: fc.constantFrom('condition', 'entries', 'add', 'drop', 'move', 'off', 'otherwise', 'expected'), at: fc.nat(30), to: fc.nat(30) })
  fc.assert(fc.property(all, all, tables, fc.array(step, { minLength: 1, maxLength: 8 }), (start, other, table, steps) => {
    const decider = tableDecider(table, TODAY, widest)
    let gate = start as RulesGate
    // Rules of the other gate, where they can be read with these inputs.
    const others = (other as RulesGate).rules.filter((rule) => 'lowered' in lower({ ...gate, rules: [rule] }, ALONE))
    const put = (kind: string, at: number, to: number): RulesGate => {
      const { rules } = gate
      const [place, from] = [rules.length === 0 ? 0 : at % rules.length, others.length === 0 ? undefined : others[to % others.length]!]
      if (kind === 'add') return from ? { ...gate, rules: rules.toSpliced(place, 0, from) } : gate
      if (kind === 'otherwise') return { ...gate, otherwise: gate.otherwise ? null : (rules[0]?.entries ?? null) }
      if (kind === 'expected') return { ...gate, inputs: gate.inputs.map((input) => (input.type === 'number' ? { ...input, expected: input.expected ? null : { kind: 'range', low: { at: '0', included: true }, high: { at: String(to), included: false } } } : input)) }
      if (rules.length === 0) return gate
      if (kind === 'drop') return { ...gate, rules: rules.toSpliced(place, 1) }
      if (kind === 'move') return moveRule(gate, place, to % rules.length)
      if (kind === 'off') return switchRule(gate, place)
      if (!from) return gate
      return { ...gate, rules: rules.with(place, { ...rules[place]!, ...(kind === 'condition' ? { condition: from.condition } : { entries: from.entries }) }) }
    }
    decider.decide(lowered(gate))
    for (const { kind, at, to } of steps) {
      const next = put(kind, at, to)
      const lowering = lower(next, ALONE)
      if (!('lowered' in lowering)) continue
      gate = next
      const decisions = decider.decide(lowering.lowered)
      const expected = places(table).map((record) => decideRecord(lowering.lowered, recordAt(table, record), TODAY))
      expect(places(table).map((record) => decisions.at(record))).toEqual(expected.map(({ status, rule }) => ({ status, rule })))
      expect(decisions.counts).toEqual(tableDecider(table, TODAY).decide(lowering.lowered).counts)
    }
  }), { numRuns: 400 })
})

test('a record of which so much became open that it is not tried any more is held, though a rule far above took it before', () => {
  const inputs = [anInput('A', 'number'), anInput('B', 'number')]
  const cuts = Array.from({ length: 15 }, (_, at) => at)
  // Whatever A is, one of the first two takes it: found out by trying 16 times 16 ways.
  const rules: [string, string][] = [['A < 5', 'a'], ['A >= 5', 'a'], ...cuts.slice(1).map((at): [string, string] => [`A > ${10 + at} and B > ${at}`, 'b']), ['B > 0', 'b']]
  const gates = [rules, [...rules, ['A > 100', 'b'] as [string, string]], rules].map((one) => lowered(rulesGate(inputs, one)))
  const table: Table = { length: 3, columns: new Map([['A', columnOf('number', [null, null, '7'])], ['B', columnOf('number', [null, '3', '3'])]]) }
  const decider = tableDecider(table, TODAY, 0)
  const decided = gates.map((gate) => places(table).map(decider.decide(gate).at))
  expect(decided).toEqual(gates.map((gate) => places(table).map((at) => { const { status, rule } = decideRecord(gate, recordAt(table, at), TODAY); return { status, rule } })))
  expect(decided.map(([first]) => first!.status)).toEqual(['labelled', 'held', 'labelled'])
})

test('a rule that gives the same as one before it, of which a blank left nothing open, is told as the one that took the record', () => {
  const inputs = [anInput('Due', 'number'), anInput('Height', 'number')]
  // Whatever Due is, the first holds: found out by trying where the second gives something else.
  const gates = (['b', 'a', 'b'] as const).map((label) => lowered(rulesGate(inputs, [['Due < 3 or Due > 2', 'a'], ['Height > 0', label]])))
  const table: Table = { length: 1, columns: new Map([['Due', columnOf('number', [null])], ['Height', columnOf('number', ['7'])]]) }
  const decider = tableDecider(table, TODAY, 0)
  expect(gates.map((gate) => decider.decide(gate).at(0))).toEqual([0, 1, 0].map((rule) => ({ status: 'labelled', rule })))
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
