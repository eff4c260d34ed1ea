import { newGrid } from '../gate/edit-grid'
import { anInput } from '../testing/a-gate'
import { cellTest, lineTest } from './cell-test'
import { inputTypes, readCondition } from './read-condition'

const INPUTS = [anInput('Decay', 'number'), anInput('Stands by', 'text')]
const GRID = newGrid('Hazard', INPUTS, { kind: 'scale', on: 'Decay', cuts: [{ at: '12', owner: 'above' }, { at: '40', owner: 'below' }], floor: null, ceiling: null }, { kind: 'list', on: 'Stands by', folds: false, lines: [['verge'], ['road', 'school'], []] })

test('a cell and a line say what a record has to be, in text that can be read again', () => {
  expect(lineTest(GRID, GRID.down, 1)).toBe('Decay in [12..40]')
  expect(lineTest(GRID, GRID.across, 1)).toBe('Stands by in ("road", "school")')
  const cell = cellTest(GRID, 0, 0)!
  expect(cell).toBe('Decay < 12 and Stands by in ("verge")')
  expect('condition' in readCondition(cell, inputTypes(INPUTS))).toBe(true)
  expect([cellTest(GRID, 0, 2), lineTest(GRID, GRID.across, 2)]).toEqual([null, null])
})
