import { textOfValue } from '../value/value-text'
import { complement, countBits, intersection, isFull, placesOf, bitmapOf, fullBitmap, emptyBitmap, union, without } from './bitmap'
import { BLANK_CODE, dictionaryColumn } from './dictionary-column'
import { numberColumn } from './number-column'
import { recordAt, valueAt } from './table'

test('a dictionary tells each value once, in the order they are met', () => {
  const column = dictionaryColumn('date', ['2026-03-02', null, '2024-02-29', '2026-03-02', { unreadable: 'soon' }])
  expect([...column.codes]).toEqual([0, BLANK_CODE, 1, 0, BLANK_CODE])
  expect(column.texts).toEqual(['2026-03-02', '2024-02-29'])
  expect(column.values.map(textOfValue)).toEqual(column.texts)
  expect([...column.unreadable]).toEqual([[4, 'soon']])
})

test('a column gives its values back exactly, blanks as null', () => {
  const column = numberColumn(['0.1', '0.30000000000000000001', null, { unreadable: 'n/a' }, '-0'])
  expect([0, 1, 2, 3, 4].map((at) => textOfValue(valueAt(column, at)))).toEqual(['0.1', '0.30000000000000000001', '', '', '0'])
  expect([...column.exact.keys()]).toEqual([1])
})

test('a record is its values by input; of a column set the blanks are left out', () => {
  const table = {
    length: 2,
    columns: new Map<string, never>([
      ['Species', dictionaryColumn('text', ['oak', null])],
      ['Modules', [numberColumn(['3', null]), numberColumn([null, null]), numberColumn(['4.5', null])]],
    ] as never),
  }
  expect(textOfValue(recordAt(table, 0)('Modules'))).toBe('[3, 4.5]')
  expect(recordAt(table, 1)('Modules')).toEqual([])
  expect([recordAt(table, 0)('Species'), recordAt(table, 1)('Species'), recordAt(table, 0)('Gone')]).toEqual(['oak', null, null])
})

describe.each([1, 31, 32, 33, 64, 100])('sets of %i records', (length) => {
  const even = bitmapOf(Array.from({ length }, (_, at) => at).filter((at) => at % 2 === 0), length)
  const third = bitmapOf(Array.from({ length }, (_, at) => at).filter((at) => at % 3 === 0), length)
  const places = (test: (at: number) => boolean) => Array.from({ length }, (_, at) => at).filter(test)

  test('both, either, all but', () => {
    expect([...placesOf(intersection(even, third))]).toEqual(places((at) => at % 6 === 0))
    expect([...placesOf(union(even, third))]).toEqual(places((at) => at % 2 === 0 || at % 3 === 0))
    expect([...placesOf(without(even, third))]).toEqual(places((at) => at % 2 === 0 && at % 3 !== 0))
    expect([...placesOf(complement(even))]).toEqual(places((at) => at % 2 === 1))
  })
  test('nothing beyond the last record is ever in a set', () => {
    expect(countBits(complement(emptyBitmap(length)))).toBe(length)
    expect([isFull(fullBitmap(length)), isFull(complement(emptyBitmap(length))), isFull(even)]).toEqual([true, true, length === 1])
  })
})
