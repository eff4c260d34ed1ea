import type { Cell, Column } from '@dime-gate/contract/table'
import { followed, type ListedCells, recordsIn, setOver, textsOf } from './grid-cells'

const columns = [
  { id: 7, type: 'text' },
  { id: 9, type: 'number' },
  { id: 4, type: 'date' },
] as Column[]
const cells: Record<number, (Cell | undefined)[]> = {
  12: [
    ['Oak', ' Oak'],
    ['-1.5', '-1.50'],
    ['2026-03-02', '2.3.2026'],
  ],
  3: [
    [null, null],
    [null, '35 cm'],
    [null, null],
  ],
  8: [['Elm', null], undefined, ['2026-01-15', null]],
}
const listed: ListedCells = { order: Int32Array.of(12, 3, 8), columns, cellOf: (record, column) => cells[record]?.[column] }
const block = (top: number, left: number, bottom = top, right = left) => ({ top, left, bottom, right })

test('what is copied is what would be typed', () => {
  expect(textsOf(listed, block(0, 0, 1, 2))).toEqual([
    [' Oak', '-1.5', '2026-03-02'],
    ['', '35 cm', ''],
  ])
  expect(textsOf(listed, block(2, 0, 2, 1))).toEqual([['Elm', '']])
})

test('texts over a block set what is another, with what stood there', () => {
  expect(
    setOver(
      listed,
      [
        [' Oak', '2'],
        ['Ash', '35 cm'],
      ],
      block(0, 0),
    ),
  ).toEqual([
    { record: 12, column: 9, text: '2', seen: ['-1.5', '-1.50'] },
    { record: 3, column: 7, text: 'Ash', seen: [null, null] },
  ])
})

test('one blank over all that is chosen clears it; blanks are left alone, and so is what is not here', () => {
  expect(setOver(listed, [['']], block(0, 1, 2, 2)).map(({ record, column }) => [record, column])).toEqual([
    [12, 9],
    [12, 4],
    [3, 9],
    [8, 4],
  ])
})

test('what goes beyond the list goes nowhere', () => {
  expect(
    setOver(
      listed,
      [
        ['a', 'b', 'c'],
        ['d', 'e', 'f'],
      ],
      block(2, 2),
    ).map(({ text }) => text),
  ).toEqual(['a'])
})

test('records of a block are those of its rows, in list order', () => expect(recordsIn(listed, block(1, 0, 2, 2))).toEqual([3, 8]))

test('a place follows its record when the list is made anew', () => {
  const before = listed.order
  expect(followed({ row: 1, column: 2 }, before, Int32Array.of(8, 12, 3))).toEqual({ row: 2, column: 2 })
  expect(followed({ row: 1, column: 2 }, before, Int32Array.of(9, 3))).toEqual({ row: 1, column: 2 })
  expect(followed({ row: 1, column: 2 }, before, Int32Array.of(8, 12))).toBeNull()
  expect(followed({ row: 3, column: 0 }, before, Int32Array.of(12, 3, 8, 13))).toEqual({ row: 3, column: 0 })
})
