import { cellsBetween, dotPath, dotsAcross, dotUnit } from './grid-geometry'

test.each([[0, 99, 1], [60, 99, 1], [61, 99, 2], [231, 99, 5], [601, 99, 20], [1_000_000, 99, 20_000], [60, 12, 5], [60, 1, 10]])('with %i records in the fullest cell and %i pixels for dots, one is %i', (most, height, expected) => expect(dotUnit(most, height)).toBe(expected))

test('a cell with any record has a dot, and one without has none', () => {
  const dots = (records: number, unit: number) => dotPath(records, unit).path.match(/M/g)?.length ?? 0
  expect([dots(0, 20), dots(1, 20), dots(231, 5), dots(50, 20)]).toEqual([0, 1, 46, 3])
  expect(dotPath(231, 5).height).toBe(5 * 5.5)
})

test('dots leave room for the count beside them', () => {
  expect([dotsAcross(9, 140), dotsAcross(99_999, 118), dotsAcross(999_999, 92)]).toEqual([10, 6, 3])
  expect(dotPath(7, 1, 3)).toMatchObject({ width: 16.5, height: 16.5 })
  expect(dotUnit(60, 99, 5)).toBe(2)
})

test('two cells span a rectangle, whichever is said first', () => {
  expect(cellsBetween([2, 1], [1, 2])).toEqual([[1, 1], [1, 2], [2, 1], [2, 2]])
})
