import type { Expectation } from '@dime-gate/contract/expectation'
import type { Expected } from '@dime-gate/core/expectation/expectation'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { liveCheck } from './live-checks'

const counts = { records: 100, otherwise: 3, unplaced: 0, held: 7, contested: 0 } as Counts
const further = { exceptions: 12, unreadable: 2, outside: 1, onEdge: 4, nearEdge: 5 } as FurtherCounts
const byLabel = new Map([['Fell', 20]])
const atMost = (of: Expected, high: string): Expectation => ({ kind: 'count', of, bounds: { as: 'count', low: null, high }, within: null })
const checked = (expectation: Expectation, came = { counts, further: further as FurtherCounts | null, byLabel }) => {
  const check = liveCheck({ id: 1, tableId: null, expectation }, came)
  return check && [check.got, check.off]
}

test('labels, what else became of records and what is to be looked at are told by the counts', () => {
  expect(checked(atMost({ kind: 'label', label: 'Fell' }, '18'))).toEqual([20, 2])
  expect(checked(atMost({ kind: 'label', label: 'Nobody' }, '18'))).toEqual([0, 0])
  expect(checked(atMost({ kind: 'status', status: 'held' }, '5'))).toEqual([7, 2])
  expect(checked(atMost({ kind: 'to look at', of: 'on an edge' }, '4'))).toEqual([4, 0])
})

test('what the counts do not tell is left to runs', () => {
  expect(checked(atMost({ kind: 'to look at', of: 'unreadable' }, '0'), { counts, further: null, byLabel })).toBeNull()
  expect(checked({ kind: 'record', who: [{ column: 1, value: 'x' }], label: 'Fell' })).toBeNull()
  expect(checked({ ...atMost({ kind: 'label', label: 'Fell' }, '1'), within: { column: 1, value: 'x' } } as Expectation)).toBeNull()
})
