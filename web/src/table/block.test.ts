import fc from 'fast-check'
import { blockOf, blockText, cellsOfText, isIn, moved, pastedInto } from './block'

test('a block has its corners in order, whichever was first', () => {
  expect(blockOf({ row: 4, column: 1 }, { row: 2, column: 3 })).toEqual({ top: 2, left: 1, bottom: 4, right: 3 })
  const block = { top: 2, left: 1, bottom: 4, right: 3 }
  expect(
    [
      [2, 1],
      [4, 3],
      [1, 2],
      [3, 4],
    ].map(([row, column]) => isIn(block, row!, column!)),
  ).toEqual([true, true, false, false])
})

test('keys lead as far as there are cells', () => {
  const size = { rows: 10, columns: 4, page: 6 }
  const from = { row: 5, column: 2 }
  const to = (key: string, isFar = false) => moved(from, key, isFar, size)
  expect([to('ArrowUp'), to('ArrowDown'), to('ArrowLeft'), to('ArrowRight')]).toEqual([
    { row: 4, column: 2 },
    { row: 6, column: 2 },
    { row: 5, column: 1 },
    { row: 5, column: 3 },
  ])
  expect([to('ArrowUp', true), to('ArrowDown', true), to('Home'), to('End'), to('Home', true), to('End', true)]).toEqual([
    { row: 0, column: 2 },
    { row: 9, column: 2 },
    { row: 5, column: 0 },
    { row: 5, column: 3 },
    { row: 0, column: 0 },
    { row: 9, column: 3 },
  ])
  expect([to('PageUp'), to('PageDown'), to('x')]).toEqual([{ row: 0, column: 2 }, { row: 9, column: 2 }, null])
})

test('what is copied is what is pasted', () => {
  const cell = fc
    .oneof(fc.constantFrom('', 'a', '"', 'a\tb', 'a\nb', '1,5'), fc.string({ unit: 'grapheme', maxLength: 6 }))
    .map((text) => text.replaceAll('\ufeff', ''))
  const cells = fc
    .integer({ min: 2, max: 4 })
    .chain((width) => fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 5 }))
  fc.assert(
    fc.property(cells, (all) => {
      // A row of blanks alone is an empty line to whoever reads it.
      fc.pre(all.every((row) => row.some((text) => text !== '')))
      expect(cellsOfText(blockText(all))).toEqual(all)
    }),
    { numRuns: 500 },
  )
  expect(cellsOfText('a\n\nb\n')).toEqual([['a'], [''], ['b']])
  expect(cellsOfText('a\tb\nc')).toEqual([
    ['a', 'b'],
    ['c', ''],
  ])
})

test('pasted cells fill from the first chosen on, and no further than the list; one cell fills all that is chosen', () => {
  const size = { rows: 3, columns: 3 }
  const chosen = { top: 1, left: 1, bottom: 1, right: 1 }
  expect(
    pastedInto(
      [
        ['a', 'b', 'c'],
        ['d', 'e', 'f'],
        ['g', 'h', 'i'],
      ],
      chosen,
      size,
    ),
  ).toEqual([
    { row: 1, column: 1, text: 'a' },
    { row: 1, column: 2, text: 'b' },
    { row: 2, column: 1, text: 'd' },
    { row: 2, column: 2, text: 'e' },
  ])
  expect(pastedInto([['x']], { top: 0, left: 0, bottom: 1, right: 1 }, size)).toHaveLength(4)
  expect(pastedInto([], chosen, size)).toEqual([])
})
