import fc from 'fast-check'
import { compareDecimals, Decimal, decimalPlaces, decimalTextOf, isExactAsDouble, plain } from './number'

test('sums and means are decimal', () => {
  expect(plain(new Decimal('0.1').plus('0.2'))).toBe('0.3')
  expect(new Decimal('0.7').plus('0.8').plus('0.9').div(3).gte('0.8')).toBe(true)
  expect(plain(new Decimal(1).div(3))).toBe(`0.${'3'.repeat(34)}`)
})

test('one number has one text', () => {
  expect(['35.0', '35', '3.5e1', '+35', '-0', '0.00', '-0.50'].map((text) => plain(text))).toEqual(['35', '35', '35', '35', '0', '0', '-0.5'])
})

test('the thirty-fifth digit is rounded half to even', () => {
  expect(plain(new Decimal('1').plus('5e-34'))).toBe('1')
  expect(plain(new Decimal(`1.${'0'.repeat(32)}1`).plus('5e-34'))).toBe(`1.${'0'.repeat(32)}2`)
})

test('comparison is exact far beyond what a double can tell', () => {
  expect(compareDecimals('0.3', '0.30')).toBe(0)
  expect(compareDecimals('0.29999999999999999999', '0.3')).toBeLessThan(0)
  expect(compareDecimals('12345678901234567891', '12345678901234567890')).toBeGreaterThan(0)
})

test('places after the point are those that carry something', () => {
  expect(['12', '12.50', '0.001', '1e3', '-2.25'].map(decimalPlaces)).toEqual([0, 1, 3, 0, 2])
})

test('a decimal that its double stands for comes back from it unchanged, and no other is said to', () => {
  const digits = fc.tuple(fc.bigInt({ min: -(10n ** 22n), max: 10n ** 22n }), fc.integer({ min: 0, max: 24 }))
  fc.assert(fc.property(digits, ([units, places]) => {
    const text = plain(new Decimal(units.toString()).times(new Decimal(10).pow(-places)))
    expect(decimalTextOf(Number(text)) === text).toBe(isExactAsDouble(text))
  }), { numRuns: 500 })
})
