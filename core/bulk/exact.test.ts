import type { Cell } from '../table/cells'
import { numberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import { Decimal, plain } from '../value/number'
import { decideRecord } from '../decide/decide-record'
import { tableDecider } from './decide-table'
import type { RulesGate } from '../gate/document'
import { lowered } from '../rule/lower'
import { TODAY } from '../testing/arbitrary-gate'

const RECORDS = 20_000
/** The same numbers on every run. */
function chance(seed: number): () => number {
  let state = seed
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32
}

function gateOn(condition: string): RulesGate {
  const names = ['A', 'B', 'C']
  return {
    schema: 1, form: 'rules', name: 'Exact', hitPolicy: 'first', otherwise: [{ is: 'below' }], outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    inputs: names.map((name) => ({ name, type: 'number', isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: null })),
    rules: [{ condition, entries: [{ is: 'reached' }], note: '' }],
  }
}

/**
 * Three values whose figure lands on the cut, or one unit in the 15th to 20th digit beside it.
 * @param last the third value that makes the figure exactly `cut`, from the first two
 */
function adversaries(seed: number, cut: string, last: (a: Decimal, b: Decimal, cut: Decimal) => Decimal): Table {
  const next = chance(seed)
  const columns: Cell[][] = [[], [], []]
  for (let at = 0; at < RECORDS; at++) {
    const a = new Decimal(Math.floor(next() * 1000) + 1).div([1, 10, 100, 1000][at % 4]!)
    const b = new Decimal(Math.floor(next() * 1000) + 1).div([10, 1, 1000, 100][at % 4]!)
    const beside = new Decimal(10).pow(-(14 + Math.floor(next() * 6))).times(Math.floor(next() * 3) - 1)
    const c = last(a, b, new Decimal(cut)).plus(beside)
    for (const [column, value] of [a, b, c].entries()) columns[column]!.push(plain(value))
  }
  return { length: RECORDS, columns: new Map(['A', 'B', 'C'].map((name, at) => [name, numberColumn(columns[at]!)])) }
}

test.each([
  ['a mean', 'mean([A, B, C]) >= 0.8', adversaries(1, '0.8', (a, b, cut) => cut.times(3).minus(a).minus(b))],
  ['a sum', 'A + B + C > 70.1', adversaries(2, '70.1', (a, b, cut) => cut.minus(a).minus(b))],
  ['a ratio', 'A / B + C >= 1.1', adversaries(3, '1.1', (a, b, cut) => cut.minus(a.div(b)))],
  ['a product', 'A * B - C in [0.3..5)', adversaries(4, '0.3', (a, b, cut) => a.times(b).minus(cut))],
  ['two figures', 'A * 3 <= B + C', adversaries(5, '0', (a, b) => a.times(3).minus(b))],
])('%s on a cut, or a hair beside it, gets the label that decimals give', (_, condition, table) => {
  const gate = lowered(gateOn(condition))
  const decisions = tableDecider(table, TODAY).decide(gate)
  let wrong = 0
  for (let at = 0; at < RECORDS; at++) {
    const { status, rule } = decideRecord(gate, recordAt(table, at), TODAY)
    const found = decisions.at(at)
    if (found.status !== status || found.rule !== rule) wrong++
  }
  expect(wrong).toBe(0)
  // Else the values would not have been the trial that they are meant to be.
  expect(decisions.counts.otherwise).toBeGreaterThan(RECORDS / 10)
  expect(decisions.counts.caught[0]).toBeGreaterThan(RECORDS / 10)
})
