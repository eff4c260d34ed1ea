import type { Gate } from '@dime-gate/core/gate/document'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { toLookAt } from './to-look-at'

const SCALE = plainScale('x', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }], ['a', 'b'].map((label) => ({ label, colour: '#7fa99a', mark: 'disc' as const })))
const edge = (of: string, on: number) => ({ of, at: '12', on, short: 1, past: 2 })
const input = (name: string, unreadable: number) => ({ input: name, blank: 3, unreadable, outside: 5 })
const counts = (change: Partial<Counts>): Counts => ({ records: 100, caught: [50, 40], otherwise: 0, unplaced: 2, held: 8, contested: 1, inputs: [input('Decay', 4)], edges: [edge('Decay', 6)], ...change })
const further: FurtherCounts = { alone: [], exceptions: 0, unreadable: 7, outside: 8, onEdge: 9, nearEdge: 10 }
const told = (gate: Gate, of: Counts, settled: FurtherCounts | null) => Object.fromEntries(toLookAt(gate, of, settled).map(({ tray, records }) => [tray.kind, records]))

test('of one input all is known at once', () => {
  expect(told(SCALE, counts({}), null)).toEqual({ held: 8, unplaced: 2, unreadable: 4, 'on an edge': 6 })
  expect(toLookAt(SCALE, counts({}), null)[0]!.remark).toBe('3 blank, 4 unreadable')
})

test('of several inputs a record counts once, which is known when things come to rest', () => {
  const gate = rulesGate([anInput('Decay', 'number'), anInput('Lean', 'number')], [], { hitPolicy: 'unique' })
  const both = counts({ inputs: [input('Decay', 4), input('Lean', 4)], edges: [edge('Decay', 6), edge('Lean', 6)] })
  expect(told(gate, both, null)).toEqual({ held: 8, unplaced: 2, unreadable: null, 'on an edge': null, contested: 1 })
  expect(told(gate, both, further)).toMatchObject({ unreadable: 7, 'on an edge': 9 })
})

test('a tolerance and what is expected are told where somebody stated them', () => {
  const gate = { ...SCALE, inputs: [{ ...SCALE.inputs[0]!, tolerance: '0.5', expected: { kind: 'range' as const, low: { at: '0', included: true }, high: null } }] }
  expect(told(gate, counts({}), null)).toMatchObject({ 'near an edge': 3, outside: 5 })
  expect(toLookAt(gate, counts({}), null).find(({ tray }) => tray.kind === 'near an edge')!.remark).toBe('within 0.5 % of a cut')
})

test('what cannot be unplaced says why', () => {
  const remark = (gate: Gate) => toLookAt(gate, counts({}), null)[1]!.remark
  expect([remark(SCALE), remark({ ...SCALE, floor: { at: '0', included: true } }), remark({ ...SCALE, otherwise: [{ is: 'a' }] })]).toEqual(['it has no ends', 'beyond an end', 'there is an otherwise'])
})
