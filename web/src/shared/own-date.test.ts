import { ownDate } from './own-date'

test.each([
  ['2026-03-02', '2026-03-02'],
  ['2024-02-29', '2024-02-29'],
  ['2026-02-29', null],
  ['2 March 2026', null],
  [['2026-03-02', '2026-03-03'], null],
  [null, null],
  [undefined, null],
])('an address that says %j means %j', (said, meant) => {
  expect(ownDate(said)).toBe(meant)
})
