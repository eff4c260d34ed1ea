import { columnsBeside, pointedColumns } from './pointed-columns'

test('what stands for an input is pointed out, else the column that a highlight calls so, else nothing', () => {
  const inputs = { Decay: { column: 4 }, Modules: { columns: [5, 6] } }
  const told = { others: [{ id: 9, name: 'Ward' }] }
  expect(['Decay', 'Modules', 'Ward', 'Lean'].map((name) => pointedColumns(name, inputs, told))).toEqual([[4], [5, 6], [9], []])
  expect(pointedColumns('Ward', inputs, null)).toEqual([])
})

test('what is looked at comes first, then what is pointed out, each once', () => {
  const told = { others: [{ id: 9, name: 'Ward' }, { id: 8, name: 'Street' }] }
  expect(columnsBeside([4, 7], [{ on: null }, { on: 'Ward' }, { on: 'Decay' }, { on: 'Gone' }], { Decay: { column: 4 } }, told)).toEqual([4, 7, 9])
})
