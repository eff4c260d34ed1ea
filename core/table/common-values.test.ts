import { commonValues } from './common-values'
import { dictionaryColumn } from './dictionary-column'

const column = dictionaryColumn('text', ['verge', 'road', null, 'verge', { unreadable: 'x' }, 'school', 'road', 'verge'])

test('the commonest come first, those of one count by their texts; blanks are none of them', () => {
  expect(commonValues(column, 10)).toEqual({
    values: [
      { text: 'verge', records: 3 },
      { text: 'road', records: 2 },
      { text: 'school', records: 1 },
    ],
    distinct: 3,
  })
  expect(commonValues(column, 1)).toEqual({ values: [{ text: 'verge', records: 3 }], distinct: 3 })
})

test('a value that no record has is not told', () => {
  expect(commonValues({ ...column, codes: column.codes.map((code) => (code === 0 ? -1 : code)) }, 10).distinct).toBe(2)
})
