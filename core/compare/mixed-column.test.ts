import { type Column, columnOf, valueTextAt } from '../table/table'
import { isFilled, isSameCell, mixedColumn } from './mixed-column'

const before = columnOf('number', ['1', null, { unreadable: 'n/a' }, '4', '5', null])
const after = columnOf('number', ['2', '7', '8', null, '5', { unreadable: 'x' }])
const cells = (column: Column) => Array.from({ length: column.length }, (_, at) => valueTextAt(column, at) ?? column.unreadable.get(at) ?? null)

test('values that came where there was none are told from values that are others', () => {
  expect(cells(mixedColumn('number', before, after, { value: true, filled: false }))).toEqual(['2', null, 'n/a', null, '5', 'x'])
  expect(cells(mixedColumn('number', before, after, { value: false, filled: true }))).toEqual(['1', '7', '8', '4', '5', null])
  expect(mixedColumn('number', before, after, { value: false, filled: false })).toBe(before)
  expect(mixedColumn('number', before, after, { value: true, filled: true })).toBe(after)
})

test('texts alike', () => {
  const [was, is] = [columnOf('text', ['oak', null]), columnOf('text', ['ash', 'elm'])]
  expect(cells(mixedColumn('text', was, is, { value: false, filled: true }))).toEqual(['oak', 'elm'])
  expect([isFilled(was, is, 0), isFilled(was, is, 1), isSameCell(was, is, 0), isSameCell(was, was, 1)]).toEqual([false, true, false, true])
})
