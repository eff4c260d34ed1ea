import fc from 'fast-check'
import { Decimal } from './number'
import { numberBetween } from './number-between'

test.each([['0', '10', '5'], ['64', '65', '64.5'], ['12', '12.5', '12.2'], ['-1', '0', '-0.5'], ['9', '11', '10'], ['20', '20.25', '20.1']])('between %s and %s: %s', (low, high, between) => {
  expect(numberBetween(new Decimal(low), new Decimal(high)).toString()).toBe(between)
})

test('it always lies between, and no number of fewer places does', () => {
  const number = fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: 0, max: 3 })).map(([units, places]) => new Decimal(units).times(new Decimal(10).pow(-places)))
  fc.assert(fc.property(number, number, (a, b) => {
    fc.pre(!a.eq(b))
    const [low, high] = a.lt(b) ? [a, b] : [b, a]
    const found = numberBetween(low, high)
    expect(found.gt(low) && found.lt(high)).toBe(true)
    const places = found.decimalPlaces()
    if (places === 0) return
    const unit = new Decimal(10).pow(1 - places)
    expect(low.div(unit).floor().plus(1).times(unit).lt(high)).toBe(false)
  }))
})
