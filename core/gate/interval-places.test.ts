import fc from 'fast-check'
import { placesOf } from '../table/bitmap'
import { type NumberCell, numberColumn } from '../table/number-column'
import { compareDecimals } from '../value/number'
import { type Interval, isInside } from './interval'
import { intervalPlaces } from './interval-places'

const value = fc.oneof(fc.integer({ min: -5, max: 5 }).map(String), fc.constantFrom('0.1', '0.10000000000000000001', '0.09999999999999999999', '4.9999999999999999999'))
const cell: fc.Arbitrary<NumberCell> = fc.oneof({ weight: 6, arbitrary: value }, fc.constant(null), fc.constant({ unreadable: '?' }))
const bound = fc.option(fc.record({ at: value, included: fc.boolean() }), { nil: null })
const interval: fc.Arbitrary<Interval> = fc.record({ low: bound, high: bound }).filter(({ low, high }) => low !== null || high !== null)

test('whatever was asked before, an interval holds the records whose values lie in it', () => {
  fc.assert(fc.property(fc.array(cell, { maxLength: 70 }), fc.array(interval, { minLength: 1, maxLength: 8 }), (cells, asked) => {
    const places = intervalPlaces(numberColumn(cells))
    for (const one of asked) {
      const expected = cells.flatMap((it, at) => (typeof it === 'string' && isInside(it, one) ? [at] : []))
      expect([...placesOf(places.inside(one))]).toEqual(expected)
    }
  }), { numRuns: 300 })
})

test('the records on a value are those that equal it as decimals', () => {
  fc.assert(fc.property(fc.array(cell, { maxLength: 70 }), fc.array(value, { maxLength: 6 }), (cells, asked) => {
    const places = intervalPlaces(numberColumn(cells))
    for (const one of asked) {
      const expected = cells.flatMap((it, at) => (typeof it === 'string' && compareDecimals(it, one) === 0 ? [at] : []))
      expect([...placesOf(places.equal(one))]).toEqual(expected)
    }
  }))
})

test('what was given out earlier is not changed by what is asked later', () => {
  const places = intervalPlaces(numberColumn(['1', '2', '3', '4', '5']))
  const first = places.inside({ low: { at: '2', included: true }, high: null })
  places.inside({ low: { at: '3', included: true }, high: null })
  places.inside({ low: { at: '1', included: true }, high: { at: '2', included: true } })
  expect([...placesOf(first)]).toEqual([1, 2, 3, 4])
})
