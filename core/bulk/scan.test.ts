import fc from 'fast-check'
import { placesOf } from '../table/bitmap'
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import { valueAt } from '../table/table'
import { Decimal } from '../value/number'
import type { RangeValue } from '../value/value'
import { numberClasses, recordsInPiece } from './column-classes'
import { scanCodes, scanNumbers, stretchOf } from './scan'
import { isInPiece } from '../rule/simple-test'
import { crowded } from '../testing/arbitrary-gate'

const piece: fc.Arbitrary<RangeValue> = fc.oneof(
  fc.tuple(fc.option(crowded, { nil: null }), fc.option(crowded, { nil: null }), fc.boolean(), fc.boolean()).map(([low, high, lowIncluded, highIncluded]): RangeValue => ({
    kind: 'range', low: low === null ? null : new Decimal(low), high: high === null ? null : new Decimal(high), lowIncluded, highIncluded,
  })),
  crowded.map((text): RangeValue => {
    const value = new Decimal(text)
    return { kind: 'range', low: value, high: value, lowIncluded: true, highIncluded: true }
  }),
)

test('a scan finds the records whose decimals lie in a piece, by a look at each or by classes', () => {
  fc.assert(fc.property(fc.array(crowded, { minLength: 1, maxLength: 80 }), fc.array(piece, { minLength: 1, maxLength: 4 }), (cells, pieces) => {
    const column = numberColumn(cells)
    const expected = cells.flatMap((_, at) => (pieces.some((one) => isInPiece(valueAt(column, at), one)) ? [at] : []))
    expect([...placesOf(scanNumbers(column, pieces, () => null))]).toEqual(expected)
    const classes = numberClasses(column, pieces)!
    expect([...placesOf(scanNumbers(column, pieces, (one) => recordsInPiece(classes, one, cells.length)))]).toEqual(expected)
  }), { numRuns: 500 })
})

test('the ends of a piece as doubles leave out, and take in, what the decimals do', () => {
  const below = (text: string, highIncluded: boolean) => stretchOf({ kind: 'range', low: null, high: new Decimal(text), lowIncluded: false, highIncluded })[1]
  expect(below('12', false)).toBe(12)
  expect(below('12', true)).toBeGreaterThan(12)
  expect(below('0', true)).toBe(Number.MIN_VALUE)
  // 0.1 as a double stands for the decimal 0.1, so a bound a hair above it takes it in.
  expect(below('0.10000000000000000001', false)).toBeGreaterThan(0.1)
  expect(below('0.09999999999999999999', true)).toBe(0.1)
  expect(stretchOf({ kind: 'range', low: null, high: null, lowIncluded: false, highIncluded: false })).toEqual([-Infinity, Infinity])
})

test('classes say nothing of ends that they do not know', () => {
  const column = numberColumn(['1', '2', '3'])
  const known = { kind: 'range' as const, low: new Decimal(2), high: null, lowIncluded: true, highIncluded: false }
  const classes = numberClasses(column, [known])!
  expect([...placesOf(recordsInPiece(classes, known, 3)!)]).toEqual([1, 2])
  expect(recordsInPiece(classes, { ...known, low: new Decimal('2.5') }, 3)).toBeNull()
})

test('codes are looked up, blanks too', () => {
  const column = dictionaryColumn('text', [...Array<string>(40).fill('oak'), null, 'ash', { unreadable: '?' }])
  expect([...placesOf(scanCodes(column, Uint8Array.from([0, 1]), 0))]).toEqual([41])
  expect([...placesOf(scanCodes(column, Uint8Array.from([0, 0]), 1))]).toEqual([40, 42])
  expect(placesOf(scanCodes(column, Uint8Array.from([1, 0]), 0))).toHaveLength(40)
})
