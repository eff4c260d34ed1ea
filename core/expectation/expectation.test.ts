import fc from 'fast-check'
import { boundKind, type Bounds, offBy } from './expectation'

const count = (low: string | null, high: string | null): Bounds => ({ as: 'count', low, high })
const share = (low: string | null, high: string | null): Bounds => ({ as: 'share', low, high })

test.each<[Bounds, got: number, all: number, off: number]>([
  [count('12', '12'), 12, 100, 0],
  [count('12', '12'), 15, 100, 3],
  [count('12', '12'), 9, 100, -3],
  [count(null, '40'), 44, 100, 4],
  [count(null, '0'), 0, 100, 0],
  [count('5', null), 5, 100, 0],
  [count('5', '10'), 4, 100, -1],
  [share(null, '20'), 248, 1240, 0],
  [share(null, '20'), 249, 1240, 1],
  [share('20', null), 247, 1240, -1],
  // Nobody can be a part of a record: a third of ten is between three and four.
  [share('33.4', '33.4'), 3, 10, -1],
  [share('33.4', '33.4'), 4, 10, 1],
  // Exact where doubles are not: 0.1 % of 3000 records are 3, and 2.2 % of 1500 are 33.
  [share('0.1', '0.1'), 3, 3000, 0],
  [share(null, '2.2'), 33, 1500, 0],
  [share(null, '0'), 0, 0, 0],
])('%j of %i in %i is off by %i', (bounds, got, all, off) => {
  expect(offBy(bounds, got, all)).toBe(off)
})

test('taking away what is too much, or adding what is missing, meets it, and one less does not', () => {
  const bounds = fc.tuple(fc.constantFrom('count' as const, 'share' as const), fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }))
    .map(([as, one, other]): Bounds => ({ as, low: String(Math.min(one, other)), high: String(Math.max(one, other)) }))
  fc.assert(fc.property(bounds, fc.integer({ min: 0, max: 400 }), fc.integer({ min: 400, max: 2000 }), (wanted, got, all) => {
    const off = offBy(wanted, got, all)
    if (off === 0) return
    const mended = offBy(wanted, got - off, all)
    // A share between two numbers of records that lie too close holds none of them.
    if (mended !== 0) expect(Math.sign(mended)).toBe(-Math.sign(off))
    else expect(offBy(wanted, got - off + Math.sign(off), all)).not.toBe(0)
  }))
})

test('bounds are told by their ends', () => {
  expect([count('12', '12.0'), count('1', null), count(null, '3'), count('1', '3')].map(boundKind)).toEqual(['exactly', 'at least', 'at most', 'between'])
})
