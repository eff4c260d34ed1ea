import fc from 'fast-check'
import { decideRecord } from '../decide/decide-record'
import { lower, lowered } from '../rule/lower'
import { anInput, givenBy, TODAY } from '../testing/a-gate'
import type { GridGate } from './document'
import { addSideCut, giveCell, type GridEdit, moveLine, moveSideCut, newGrid, paint, removeLine, removeSideCut, setSideCuts, setSideEnd, setSideOwner, setSideOwners, sortIntoLine, turned } from './edit-grid'
import { labelsOf } from './edit-labels'
import { addOutcome } from './edit-outcomes'

const INPUTS = [anInput('Decay', 'number'), anInput('Stands by', 'text')]
const BARE = newGrid('Hazard', INPUTS, { kind: 'scale', on: 'Decay', cuts: [{ at: '12', owner: 'above' }, { at: '40', owner: 'above' }], floor: null, ceiling: null }, { kind: 'list', on: 'Stands by', folds: false, lines: [['verge'], ['road'], ['school', 'play area']] })
const all = (gate: GridGate) => gate.cells.flatMap((line, down) => line.map((_, across) => [down, across] as const))
const GRID = paint(paint(paint(BARE, all(BARE), 'Next round'), [[1, 1], [1, 2]], 'This season'), [[2, 0], [2, 1], [2, 2]], 'Fell')
const labelOf = (gate: GridGate, decay: string, by: string) => decideRecord(lowered(gate), givenBy(gate.inputs, { Decay: decay, 'Stands by': by }), TODAY).outcomes[0] ?? null
const made = (edit: GridEdit) => {
  if ('refused' in edit) throw new Error(edit.refused.code)
  return edit.gate
}

test('cells are painted; a label stays among the labels when nothing is painted with it any more', () => {
  expect([labelOf(GRID, '39', 'verge'), labelOf(GRID, '39', 'school'), labelOf(GRID, '40', 'verge')]).toEqual(['Next round', 'This season', 'Fell'])
  const over = paint(GRID, [[1, 1], [1, 2]], 'Fell')
  expect(labelsOf(over).map(({ value }) => value)).toEqual(['Next round', 'This season', 'Fell'])
  expect(labelOf(paint(GRID, [[2, 0]], null), '50', 'verge')).toBeNull()
})

test('what a cell gives beside its label stays when it is painted over', () => {
  const two = giveCell(addOutcome(GRID, 'Days', 'number'), [2, 0], 1, { is: '7' })
  expect(paint(two, [[2, 0]], 'This season').cells[2]![0]).toEqual([{ is: 'This season' }, { is: '7' }])
})

test('lines of values take values from each other; one without any goes, and so does what it gave', () => {
  const joined = sortIntoLine(GRID, 'across', ['road'], 0)
  expect(joined.across).toMatchObject({ lines: [['verge', 'road'], ['school', 'play area']] })
  expect([labelOf(joined, '20', 'road'), labelOf(joined, '20', 'school')]).toEqual(['Next round', 'This season'])
  const apart = sortIntoLine(GRID, 'across', ['play area'], null)
  expect(apart.across).toMatchObject({ lines: [['verge'], ['road'], ['school'], ['play area']] })
  expect(labelOf(apart, '20', 'play area')).toBeNull()
  expect(removeLine(GRID, 'across', 1).cells.map((line) => line.length)).toEqual([2, 2, 2])
  expect(moveLine(GRID, 'across', 2, 0).across).toMatchObject({ lines: [['school', 'play area'], ['verge'], ['road']] })
})

test('a cut that has no room is refused, and one that two lines share joins them', () => {
  expect(addSideCut(GRID, 'down', '12')).toMatchObject({ refused: { code: 'out-of-order' } })
  expect(moveSideCut(GRID, 'down', 0, '40')).toMatchObject({ refused: { code: 'out-of-order' } })
  expect(setSideEnd(GRID, 'down', 'ceiling', { at: '30', included: true })).toMatchObject({ refused: { code: 'beyond-cuts' } })
  const joined = removeSideCut(GRID, 'down', 1, 'below')
  expect([labelOf(joined, '90', 'verge'), labelOf(joined, '90', 'road')]).toEqual(['Next round', 'This season'])
  expect(labelOf(setSideOwner(GRID, 'down', 1, 'below'), '40', 'verge')).toBe('Next round')
  expect(labelOf(setSideOwners(GRID, 'down', 'below'), '12', 'road')).toBe('Next round')
})

const decays = ['0', '11.9', '12', '20', '39', '40', '77']
const places = ['verge', 'road', 'school', 'play area', 'wood']
const labels = (gate: GridGate) => decays.flatMap((decay) => places.map((by) => labelOf(gate, decay, by)))

test('turning it round, moving lines and cutting a line in two change no label', () => {
  const change = fc.constantFrom<(gate: GridGate) => GridGate>(
    turned,
    (gate) => moveLine(gate, gate.down.kind === 'list' ? 'down' : 'across', 2, 1),
    (gate) => moveLine(gate, gate.down.kind === 'list' ? 'down' : 'across', 0, 2),
    ...['5', '25', '39.5', '60'].map((at) => (gate: GridGate) => {
      const edit = addSideCut(gate, gate.down.kind === 'scale' ? 'down' : 'across', at)
      return 'refused' in edit ? gate : edit.gate
    }),
  )
  fc.assert(fc.property(fc.array(change, { maxLength: 7 }), (changes) => {
    const after = changes.reduce((gate, one) => one(gate), GRID)
    expect('lowered' in lower(after)).toBe(true)
    expect(labels(after)).toEqual(labels(GRID))
  }), { numRuns: 200 })
})

test('all cuts of a side anew: lines keep their order, and new ones give what the last did', () => {
  const more = made(setSideCuts(GRID, 'down', ['10', '20', '30', '40']))
  expect([labelOf(more, '35', 'verge'), labelOf(more, '45', 'verge'), labelOf(more, '15', 'road')]).toEqual(['Fell', 'Fell', 'This season'])
  expect(made(setSideCuts(more, 'down', ['12', '40']))).toEqual(GRID)
  expect(setSideCuts(GRID, 'down', ['12', '12'])).toMatchObject({ refused: { code: 'out-of-order' } })
})

test('turned twice it is as it was, and a cut taken out again leaves no trace', () => {
  expect(turned(turned(GRID))).toEqual(GRID)
  expect(removeSideCut(made(addSideCut(GRID, 'down', '25')), 'down', 1, 'below')).toEqual(GRID)
})
