import fc from 'fast-check'
import { compareDecimals, Decimal, plain } from '../value/number'
import type { Cell } from './cells'
import { numberColumn } from './number-column'
import { sortedPlaces } from './sorted-places'

const near = fc.tuple(fc.constantFrom('0', '-1', '0.1', '3e5', '-2.5e-7'), fc.integer({ min: -2, max: 2 }), fc.constantFrom(0, 3, 17, 22))
  .map(([value, units, place]) => plain(new Decimal(10).pow(-place).times(units).plus(value)))
const cells = fc.array(fc.oneof<[fc.Arbitrary<Cell>, fc.Arbitrary<Cell>]>(near, fc.constant(null)), { maxLength: 60 })

test('places come in the order of their decimals, equal ones in the order of their records', () => {
  fc.assert(fc.property(cells, (values) => {
    const expected = values.flatMap((value, at) => (typeof value === 'string' ? [{ value, at }] : []))
      .sort((a, b) => compareDecimals(a.value, b.value) || a.at - b.at).map(({ at }) => at)
    expect([...sortedPlaces(numberColumn(values))]).toEqual(expected)
  }))
})
