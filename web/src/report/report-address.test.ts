import { addressOf, queryOf } from './report-address'

test('comes back from its address as it was; all of it is shown at first', () => {
  const chosen = { without: ['groups', 'provenance'], by: 7, part: 'month', paper: 'letter' } as const
  expect(addressOf(queryOf({ ...chosen, without: [...chosen.without] }))).toEqual(chosen)
  expect(queryOf(addressOf({}))).toEqual({})
})

test('what cannot be read is as it is at first', () => {
  expect(addressOf({ without: 'all,groups', by: 'x', part: 'week' })).toEqual({ without: ['groups'], by: null, part: 'whole', paper: 'a4' })
})
