import { histogram } from './histogram'
import { numberColumn } from './number-column'

const of = (...values: (number | null)[]) => histogram(numberColumn(values.map((value) => (value === null ? null : String(value)))))

test('every value is in one bin', () => {
  const spread = of(...Array.from({ length: 1000 }, (_, i) => (i * 7) % 101), null)!
  expect(spread.bins.reduce((a, b) => a + b)).toBe(1000)
  expect(spread.from).toBeLessThanOrEqual(0)
  expect(spread.to).toBeGreaterThan(100)
})

test('tenths fall in the bins that begin with them', () => {
  const spread = of(...Array.from({ length: 11 }, (_, i) => i / 10))!
  expect(spread.bins.filter((count) => count > 0)).toEqual(Array(11).fill(1))
})

test('one value far out does not flatten the picture', () => {
  const spread = of(...Array.from({ length: 500 }, (_, i) => i / 5), 1e9)!
  expect(spread.above).toBe(1)
  expect(spread.to).toBeLessThan(1000)
})

test('one value, and none', () => {
  expect(of(7, 7)!.bins.reduce((a, b) => a + b)).toBe(2)
  expect(of(0)!.bins.reduce((a, b) => a + b)).toBe(1)
  expect(of(null)).toBeNull()
})

test('one stretch is looked at as closely as a whole is, and what lies beside it is counted', () => {
  const values = numberColumn([...Array.from({ length: 1000 }, (_, at) => String(at / 10)), null, '5000'])
  const whole = histogram(values)!
  const part = histogram(values, 0, [20, 30])!
  expect(part.bins.reduce((sum, one) => sum + one, 0)).toBe(101)
  expect([part.below, part.above]).toEqual([200, 700])
  expect((part.to - part.from) / part.bins.length).toBeLessThan((whole.to - whole.from) / whole.bins.length)
  expect(histogram(values, 0, [200, 300])).toBeNull()
  expect(histogram(values, 1, [20, 30])!.bins.length).toBeLessThanOrEqual(12)
})
