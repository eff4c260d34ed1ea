import { dictionaryColumn } from './dictionary-column'
import { numberColumn } from './number-column'
import type { Column } from './table'
import { inOrder } from './in-order'

const places = (column: Column, direction: 'rising' | 'falling', all = Array.from({ length: column.length }, (_, at) => at)) => [...inOrder(Uint32Array.from(all), direction, column)]
const both = (column: Column) => [places(column, 'rising'), places(column, 'falling')]

test('numbers, with those that have none at the end either way', () => {
  expect(both(numberColumn(['5', null, '-3', '5', '0', { unreadable: 'n/a' }]))).toEqual([[2, 4, 0, 3, 5, 1], [0, 3, 4, 2, 5, 1]])
})

test('two decimals that share a double keep their order', () => {
  expect(both(numberColumn(['0.30000000000000000002', '0.3', '0.30000000000000000001', '0.30000000000000000002']))).toEqual([[1, 2, 0, 3], [0, 3, 2, 1]])
})

test('days by the calendar, texts as people sort them', () => {
  expect(both(dictionaryColumn('date', ['2026-03-02', '2025-12-31', null, '2026-03-02']))).toEqual([[1, 0, 3, 2], [0, 3, 1, 2]])
  expect(places(dictionaryColumn('text', ['T 10', 'ash', 'T 9', 'Birch']), 'rising')).toEqual([1, 3, 2, 0])
})

test('only those that are listed', () => expect(places(numberColumn(['5', '1', '3', '2']), 'falling', [1, 2])).toEqual([2, 1]))

test('what cannot be read comes behind the values, by its text, and before the blanks, either way', () => {
  const column = numberColumn([null, { unreadable: 'soon' }, '1', { unreadable: 'n/a' }, '2', { unreadable: 'n/a' }])
  expect(both(column)).toEqual([[2, 4, 3, 5, 1, 0], [4, 2, 3, 5, 1, 0]])
})

test('by one column within another, when the last is sorted by first', () => {
  const [ward, trunk] = [dictionaryColumn('text', ['Hill', 'Abbey', 'Hill', 'Abbey']), numberColumn(['1', '5', '3', '9'])]
  expect([...inOrder(inOrder(Uint32Array.of(0, 1, 2, 3), 'falling', trunk), 'rising', ward)]).toEqual([3, 1, 2, 0])
})
