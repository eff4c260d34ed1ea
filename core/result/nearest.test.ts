import fc from 'fast-check'
import { readyGates } from '../bulk/decide-gates'
import type { ScaleGate } from '../gate/document'
import { givenNumber, plainScale } from '../gate/scale-gate'
import type { Cell } from '../table/cells'
import { columnOf } from '../table/table'
import { band } from '../testing/a-gate'
import { parseDate } from '../value/temporal'
import { resultMaker } from './make-results'
import { nearestToLabel } from './nearest'

const TODAY = parseDate('2026-03-02')!
const scale = (cuts: string[], labels: string[], change: Partial<ScaleGate> = {}): ScaleGate =>
  ({ ...plainScale('Band', givenNumber('Decay', '%'), cuts.map((at) => ({ at, owner: 'above' })), labels.map(band)), ...change })
function nearest(gate: ScaleGate, cells: Cell[], label: string, isLosing: boolean): number[] {
  const ready = readyGates({ conditions: [], gates: [gate] })
  if ('problems' in ready) throw new Error('the gate cannot decide')
  const table = { length: cells.length, columns: new Map([['Decay', columnOf(gate.inputs[0]!.type as 'number', cells)]]) }
  return [...nearestToLabel(resultMaker(() => table, TODAY)(ready.ready), label, isLosing)]
}

test('those that have it, the nearest to where it ends first; those that have it not, the nearest to where it begins; a blank is near nothing', () => {
  const cells = ['39', '41', '45', null, '90', '12']
  expect(nearest(scale(['40'], ['Weak', 'Failing']), cells, 'Failing', true)).toEqual([1, 2, 4])
  expect(nearest(scale(['40'], ['Weak', 'Failing']), cells, 'Failing', false)).toEqual([0, 5])
})

test('a cut between two bands of one label is no end of it, and an end of the scale is one', () => {
  expect(nearest(scale(['10', '20'], ['a', 'a', 'b']), ['9.9', '19', '1'], 'a', true)).toEqual([1, 0, 2])
  expect(nearest(scale(['10'], ['a', 'b'], { ceiling: { at: '100', included: true } }), ['50', '99', '11'], 'b', true)).toEqual([1, 2, 0])
})

test('days lie as far from each other as they do in the calendar', () => {
  const gate = scale(['2026-03-01'], ['old', 'new'])
  const onDays: ScaleGate = { ...gate, inputs: [{ ...gate.inputs[0]!, type: 'date' }] }
  expect(nearest(onDays, ['2026-02-27', '2025-03-01', '2026-03-09'], 'old', true)).toEqual([0, 1])
})

test('a label that no band gives, and one that all give, has nobody near it', () => {
  expect([nearest(scale(['10'], ['a', 'b']), ['1', '20'], 'c', false), nearest(scale(['10'], ['a', 'a']), ['1', '20'], 'a', true)]).toEqual([[], []])
})

test('as by plain reckoning, on any values', () => {
  fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 30 }), fc.boolean(), (values, isLosing) => {
    const gives = (value: number) => value >= 25 && value < 60
    const far = (value: number) => Math.min(Math.abs(value - 25), Math.abs(value - 60))
    const expected = values.map((value, at) => ({ value, at })).filter(({ value }) => gives(value) === isLosing).toSorted((a, b) => far(a.value) - far(b.value) || a.at - b.at)
    expect(nearest(scale(['25', '60'], ['low', 'middle', 'high']), values.map(String), 'middle', isLosing)).toEqual(expected.map(({ at }) => at))
  }))
})
