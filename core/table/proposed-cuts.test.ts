import fc from 'fast-check'
import { numberColumn } from './number-column'
import { countedCuts, proposedCuts, type Way } from './proposed-cuts'

const column = (values: readonly number[]) => numberColumn([null, ...values.map(String), { unreadable: 'n/a' }])
const upTo = (most: number) => Array.from({ length: most }, (_, at) => at + 1)
const proposed = (values: readonly number[], way: Way, places = 0) => {
  const { cuts, records } = proposedCuts(column(values), way, places)
  return [cuts.join(' '), records.join(' ')]
}

test('equal counts, the top and the bottom part, and equal widths', () => {
  expect(proposed(upTo(100), { kind: 'counts', bands: 4 })).toEqual(['26 51 76', '25 25 25 25'])
  expect(proposed(upTo(100), { kind: 'top', share: 0.1 })).toEqual(['91', '90 10'])
  expect(proposed(upTo(100), { kind: 'bottom', share: 0.2 })).toEqual(['21', '20 80'])
  expect(proposed([0, 1, 2, 3, 100], { kind: 'widths', bands: 4 })).toEqual(['25 50 75', '4 0 0 1'])
  expect(proposed([0.1, 0.2, 0.4], { kind: 'widths', bands: 3 }, 2)).toEqual(['0.2 0.3', '1 1 1'])
})

test('gaps are cut at the roundest number in them, and one stray value makes none', () => {
  const values = [...upTo(50), ...upTo(50).map((value) => value + 118), 4000]
  expect(proposed(values, { kind: 'gaps', bands: 2 })).toEqual(['100', '50 51'])
  expect(proposed([1.2, 1.3, 1.7, 1.8], { kind: 'gaps', bands: 2 }, 1)).toEqual(['1.5', '2 2'])
  expect(proposed([1.2, 1.3, 1.4], { kind: 'gaps', bands: 3 }, 1)).toEqual(['1.3 1.4', '1 1 1'])
})

test('values that are all alike, or none, have no room for a cut', () => {
  for (const kind of ['counts', 'widths', 'gaps'] as const) {
    expect(proposed([7, 7, 7], { kind, bands: 3 })).toEqual(['', '3'])
    expect(proposed([], { kind, bands: 3 })).toEqual(['', '0'])
  }
})

test('whatever the values, cuts ascend, no record is counted twice or lost, and at the ends no band is empty', () => {
  const way = fc.oneof(
    fc.record({ kind: fc.constantFrom('counts' as const, 'widths' as const, 'gaps' as const), bands: fc.integer({ min: 1, max: 9 }) }),
    fc.record({ kind: fc.constantFrom('top' as const, 'bottom' as const), share: fc.double({ min: 0, max: 1, noNaN: true }) }),
  )
  fc.assert(fc.property(fc.array(fc.integer({ min: -500, max: 500 }).map((value) => value / 10), { maxLength: 60 }), way, fc.integer({ min: 0, max: 2 }), (values, asked, places) => {
    const { cuts, records } = proposedCuts(column(values), asked, places)
    expect(cuts.map(Number)).toEqual([...new Set(cuts.map(Number))].toSorted((a, b) => a - b))
    expect(records.reduce((sum, one) => sum + one, 0)).toBe(values.length)
    expect(records).toEqual(countedCuts(column(values), cuts))
    if (cuts.length > 0) expect([records[0]! > 0, records.at(-1)! > 0]).toEqual([true, true])
  }), { numRuns: 1000 })
})
