import fc from 'fast-check'
import { cellsOf, moveRecords, writeClassesOf } from './cells'
import { addClasses, type TestClasses } from './test-classes'

/** A group of so many classes, and the class of each record. */
function group(width: number, classes: readonly number[]): TestClasses {
  return { tests: [], verdicts: Array.from({ length: width }, () => []), open: [], addTo: (numbers, room, from) => addClasses(numbers, Uint32Array.from(classes), room, from) }
}
const told = (cells: ReturnType<typeof cellsOf>, at: number, groups: number) => {
  const classes = new Int32Array(groups)
  writeClassesOf(cells, cells.of[at]!, classes)
  return [...classes]
}

/** Few groups of few classes, and so many that only the combinations that some record has are counted. */
const sorted = fc.array(fc.constantFrom(1, 2, 3, 40, 500, 70_000), { maxLength: 6 }).chain((widths) =>
  fc.array(fc.tuple(...widths.map((width) => fc.nat(width - 1))), { maxLength: 40 }).map((records) => ({ widths, records: records as number[][] })))

test('a cell tells the classes of all its records, and how many they are', () => {
  fc.assert(fc.property(sorted, ({ widths, records }) => {
    const cells = cellsOf(widths.map((width, at) => group(width, records.map((classes) => classes[at]!))), records.length)
    expect(records.map((_, at) => told(cells, at, widths.length))).toEqual(records)
    const counts = new Map<number, number>()
    for (const cell of cells.of) counts.set(cell, (counts.get(cell) ?? 0) + 1)
    expect([...cells.records].flatMap((count, cell) => (count > 0 ? [[cell, count]] : []))).toEqual([...counts].toSorted(([a], [b]) => a - b))
  }), { numRuns: 300 })
})

test('records that are moved are where they would have been put', () => {
  const before = [[0, 1, 2], [1, 1, 0], [2, 0, 1], [0, 0, 0]]
  const after = before.map(([a, b, c], at) => [a!, at < 2 ? (b! + 1) % 2 : b!, c!])
  const from = (records: number[][]) => cellsOf([3, 2, 3].map((width, at) => group(width, records.map((classes) => classes[at]!))), records.length)
  const cells = from(before)
  expect(moveRecords(cells, 1, { places: Uint32Array.of(0, 1), steps: Int32Array.of(-1, -1) })).toEqual({ from: Uint32Array.of(5, 9), to: Uint32Array.of(2, 6) })
  expect([cells.of, cells.records]).toEqual([from(after).of, from(after).records])
})

test('cells that were met by chance are met anew', () => {
  const cells = cellsOf([700, 800].map((width) => group(width, [1, 2])), 2)
  expect(moveRecords(cells, 0, { places: Uint32Array.of(0), steps: Int32Array.of(1) })).toBeNull()
})
