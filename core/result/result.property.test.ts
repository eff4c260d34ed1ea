import fc from 'fast-check'
import { decideRecord, verdictsOf } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE } from '../decide/verdict'
import type { Gate } from '../gate/document'
import { lowered } from '../rule/lower'
import { countBits, hasBit } from '../table/bitmap'
import { type Column, recordAt, type Table } from '../table/table'
import { formGates, rulesGates, tables, TODAY, wideGates } from '../testing/arbitrary-gate'
import { addCounts, type AllCounts } from './counts'
import { resultMaker } from './make-results'
import type { Result } from './result'
import type { Tray } from './tray'

const gates: fc.Arbitrary<Gate> = fc.tuple(fc.oneof(formGates, rulesGates(fc.constantFrom('first', 'unique', 'collect')), wideGates(fc.constant('first'))), fc.constantFrom('0.2', '10%'))
  .map(([gate, tolerance]) => ({ ...gate, inputs: gate.inputs.map((input) => (input.type === 'number' && !input.isSet ? { ...input, tolerance, expected: { kind: 'range', low: { at: '0', included: true }, high: null } } : input)) }))

const allOf = (result: Result): AllCounts => ({ ...result.counts(), ...result.further() })
const resultOf = (gate: Gate, table: Table) => resultMaker(() => table, TODAY)([{ gate, lowered: lowered(gate) }])

function part(table: Table, from: number, to: number): Table {
  const cut = (column: Column): Column => {
    const unreadable = new Map([...column.unreadable].flatMap(([at, text]) => (at >= from && at < to ? [[at - from, text]] : [])))
    if (column.kind === 'dictionary') return { ...column, length: to - from, codes: column.codes.slice(from, to), unreadable }
    const valid = { length: to - from, words: new Uint32Array((to - from + 31) >>> 5) }
    for (let at = from; at < to; at++) if (hasBit(column.valid, at)) valid.words[(at - from) >>> 5]! |= 1 << ((at - from) & 31)
    return { ...column, length: to - from, doubles: column.doubles.slice(from, to), valid, unreadable, exact: new Map([...column.exact].flatMap(([at, text]) => (at >= from && at < to ? [[at - from, text]] : []))) }
  }
  return { length: to - from, columns: new Map([...table.columns].map(([name, column]) => [name, 'kind' in column ? cut(column) : (column.map(cut) as never)])) }
}

test('a table decided in parts has the counts of the table decided at once', () => fc.assert(fc.property(gates, tables, fc.nat(70), (gate, table, at) => {
  const middle = Math.min(at, table.length)
  const parts = [part(table, 0, middle), part(table, middle, table.length)].map((one) => allOf(resultOf(gate, one)))
  expect(parts.reduce<AllCounts | null>(addCounts, null)).toEqual(allOf(resultOf(gate, table)))
}), { numRuns: 150 }))

test('counts, trays and reasons say the same of every record', () => fc.assert(fc.property(gates, tables, (gate, table) => {
  const result = resultOf(gate, table)
  const { inputs, edges, caught, ...rest } = result.counts()
  const { alone, exceptions } = result.further()
  const places = Array.from({ length: table.length }, (_, at) => at)
  const ready = lowered(gate)
  const each = places.map((at) => ({ decision: decideRecord(ready, recordAt(table, at), TODAY), reasons: result.reasons(at), verdicts: verdictsOf(ready, factsOf(ready, recordAt(table, at), TODAY)) }))
  expect(caught).toEqual(ready.rules.map((_, rule) => each.filter(({ decision }) => decision.status === 'labelled' && decision.rule === rule).length))
  for (const status of ['otherwise', 'unplaced', 'held', 'contested'] as const) expect(rest[status]).toBe(each.filter(({ decision }) => decision.status === status).length)
  for (const { decision } of each) expect([decision.status, decision.missing.length > 0]).toEqual([decision.status, decision.status === 'held'])
  expect(alone).toEqual(ready.rules.map((_, rule) => each.filter(({ verdicts }) => verdicts[rule] === TRUE).length))
  const many = result.manyReasons()
  expect(places.map((at) => many(at))).toEqual(each.map(({ reasons }) => reasons))
  expect(exceptions).toBe(each.filter(({ reasons }) => reasons.length > 0).length)
  const trays: Tray[] = [...result.trays.map(({ tray }) => tray), ...ready.rules.map((_, rule): Tray => ({ kind: 'rule', rule })), ...(['all', 'otherwise', 'unplaced', 'held', 'contested', 'exceptions'] as const).map((kind): Tray => ({ kind }))]
  expect(trays.map((tray) => result.count(tray))).toEqual(trays.map((tray) => countBits(result.places(tray))))
  const isException = result.places({ kind: 'exceptions' })
  for (const at of places) expect([at, hasBit(isException, at)]).toEqual([at, each[at]!.reasons.length > 0])
  for (const { of, at, ...sides } of edges) {
    for (const [side, count] of Object.entries(sides)) expect([of, at, side, count]).toEqual([of, at, side, each.filter(({ reasons }) => reasons.some((reason) => reason.kind === 'edge' && reason.of === of && reason.at === at && reason.side === side)).length])
  }
  for (const { input, outside } of inputs) expect([input, outside]).toEqual([input, each.filter(({ reasons }) => reasons.some((reason) => reason.kind === 'outside' && reason.input === input)).length])
}), { numRuns: 200 }))
