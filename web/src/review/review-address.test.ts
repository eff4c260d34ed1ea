import { addressOf, FIRST, queryOf, type ReviewAddress, statesOf } from './review-address'

const CHOSEN: ReviewAddress = { by: 'gate', gate: 3, table: 4, person: 5, kind: 'on an edge', shows: 'lapsed', text: '0934', at: { runId: 12, record: 0 } }

test('comes back from its address as it was; what is as at first leaves no trace', () => {
  expect(addressOf(queryOf(CHOSEN))).toEqual(CHOSEN)
  expect(queryOf(FIRST)).toEqual({})
  expect(addressOf({})).toEqual(FIRST)
})

test('what cannot be read is as it is at first', () => {
  expect(addressOf({ by: 'colour', gate: '-1', kind: 'odd', shows: 'none', at: '7', text: ['a'] })).toEqual(FIRST)
  expect(addressOf({ at: '7.x' }).at).toBeNull()
})

test('what waits is open or has lapsed', () => {
  expect([statesOf('waiting'), statesOf('all'), statesOf('settled')]).toEqual([['open', 'lapsed'], null, ['settled']])
})
