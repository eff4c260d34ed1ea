import { plainColumn, type Table, type TableRecord } from '@dime-gate/contract/table'
import { changedCells } from './changed-cells'

const TABLE = { id: 4, version: 3, sets: [], columns: [plainColumn(10, 'Tree'), plainColumn(11, 'Decay', { type: 'number' })] } as unknown as Table
const NOW: Table = { ...TABLE, version: 5, columns: TABLE.columns.map((column) => ({ ...column, blank: 3, unit: 'm' })) }
const CHANGED: TableRecord[] = [{ record: 7, cells: [['T7', null], [null, 'soon']] }, { record: 9, cells: [[null, ' '], ['12.5', '12,5']] }]

test('cells of changed records go by column: what could not be read is told apart from what is blank', () => {
  expect(changedCells(TABLE, NOW, CHANGED)).toEqual({ records: [7, 9], cells: new Map<number, unknown>([[10, ['T7', null]], [11, [{ unreadable: 'soon' }, '12.5']]]) })
  expect(changedCells(TABLE, NOW, [])).toEqual({ records: [], cells: new Map([[10, []], [11, []]]) })
})

test.each<[string, Table]>([
  ['a column has come', { ...NOW, columns: [...NOW.columns, plainColumn(12, 'Lean')] }],
  ['a column is of another type', { ...NOW, columns: NOW.columns.map((column) => ({ ...column, type: 'text' })) }],
  ['a figure is another', { ...NOW, columns: NOW.columns.map((column) => ({ ...column, feel: '1 + 1' })) }],
  ['a column has another name, by which sets and figures have it', { ...NOW, columns: NOW.columns.map((column) => ({ ...column, name: `${column.name} 2` })) }],
  ['it is another table', { ...NOW, id: 5 }],
])('where %s, columns are fetched anew', (_, now) => {
  expect(changedCells(TABLE, now, CHANGED)).toBeNull()
})

test('where it is not known what has changed, columns are fetched anew', () => {
  expect(changedCells(TABLE, NOW, null)).toBeNull()
})
