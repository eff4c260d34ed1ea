import { coinsOf, recordsPerCoin } from './coin-stacks'

test('the fullest tray sets what one coin is worth', () => {
  expect(recordsPerCoin([3, 40])).toBe(1)
  expect(recordsPerCoin([675, 30])).toBe(20)
  expect(recordsPerCoin([1_000_000])).toBe(20_000)
  expect(recordsPerCoin([])).toBe(1)
})

test('a tray is whole coins and a part of one', () => {
  expect(coinsOf(675, 20)).toEqual({ whole: 33, part: 0.75 })
  expect(coinsOf(0, 5)).toEqual({ whole: 0, part: 0 })
})
