import { dictionaryColumn } from '../table/dictionary-column'
import { hasBlanks, placesByCode } from './code-index'

test('the records of each value, and of none, in their order', () => {
  const column = dictionaryColumn('text', ['oak', null, 'ash', 'oak', null, 'oak'])
  const { starts, places } = placesByCode(column)
  const recordsOf = (code: number) => [...places.subarray(starts[code + 1], starts[code + 2])]
  expect([-1, 0, 1].map(recordsOf)).toEqual([[1, 4], [0, 3, 5], [2]])
  expect(placesByCode(column)).toBe(placesByCode(column))
  expect([hasBlanks(column), hasBlanks(dictionaryColumn('text', ['oak'])), hasBlanks(dictionaryColumn('text', []))]).toEqual([true, false, false])
})
