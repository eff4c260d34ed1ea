import { columnOf, valueTextAt } from './table'
import type { Cell } from './cells'
import { joinColumns } from './join-columns'

const NUMBERS: Cell[] = ['1', null, '0.30000000000000000001', { unreadable: 'n/a' }, '-7', '2.5']
const DAYS: Cell[] = ['2026-03-02', null, '2025-01-01', { unreadable: 'soon' }, '2026-03-02', '2024-02-29']

/** However a column is cut, its parts make it again. */
test.each([
  ['number', Array.from({ length: 200 }, (_, at) => NUMBERS[at % NUMBERS.length]!)],
  ['date', Array.from({ length: 200 }, (_, at) => DAYS[at % DAYS.length]!)],
] as const)('parts of a column of kind %s make the column again', (kind, cells) => {
  const whole = columnOf(kind, cells)
  for (const cuts of [[], [64], [1, 33, 190], [32, 64, 65], [0, 200]]) {
    const ends = [...cuts, cells.length]
    const joined = joinColumns(ends.map((end, at) => columnOf(kind, cells.slice(at === 0 ? 0 : ends[at - 1], end))))
    expect(joined.length).toBe(cells.length)
    expect(cells.map((_, at) => valueTextAt(joined, at))).toEqual(cells.map((_, at) => valueTextAt(whole, at)))
    expect([...joined.unreadable]).toEqual([...whole.unreadable])
  }
})
