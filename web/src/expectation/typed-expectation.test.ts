import { fromTyped, type TypedExpectation } from './typed-expectation'

const EMPTY: TypedExpectation = { of: { kind: 'label', label: 'Fell' }, bound: 'at most', as: 'count', low: '', high: '', within: null, who: { column: null, value: '' }, label: null }
const typed = (change: Partial<TypedExpectation>) => fromTyped({ ...EMPTY, ...change })

test('each kind of bound takes the ends that it has', () => {
  const bounds = (change: Partial<TypedExpectation>) => {
    const made = typed(change)
    return made && typeof made !== 'string' && made.kind === 'count' ? made.bounds : made
  }
  expect(bounds({ high: '12' })).toEqual({ as: 'count', low: null, high: '12' })
  expect(bounds({ bound: 'exactly', low: '12', high: '99' })).toEqual({ as: 'count', low: '12', high: '12' })
  expect(bounds({ bound: 'at least', low: '12' })).toEqual({ as: 'count', low: '12', high: null })
  expect(bounds({ bound: 'between', as: 'share', low: '2.5 %', high: '10' })).toEqual({ as: 'share', low: '2.5', high: '10' })
})

test('as long as something is missing there is none, and nothing wrong', () => {
  expect([typed({ of: null, high: '1' }), typed({}), typed({ bound: 'between', low: '1' }), typed({ of: { kind: 'record' }, who: { column: 1, value: ' ' } })]).toEqual([null, null, null, null])
})

test.each<[Partial<TypedExpectation>, RegExp]>([
  [{ high: 'many' }, /“many” is no number/],
  [{ high: '-1' }, /no number from 0/],
  [{ high: '1.5' }, /whole numbers/],
  [{ as: 'share', high: '120' }, /100 % at most/],
  [{ bound: 'between', low: '9', high: '3' }, /above the upper/],
])('%j is told', (change, words) => {
  expect(typed(change)).toMatch(words)
})

test('one record is told by a value, and some records by a group; what is to be looked at is counted among all', () => {
  expect(typed({ of: { kind: 'record' }, who: { column: 4, value: ' 0871 ' }, label: 'Leave' })).toEqual({ kind: 'record', who: [{ column: 4, value: '0871' }], label: 'Leave' })
  expect(typed({ high: '1', within: { column: 2, value: 'Abbey' } })).toMatchObject({ within: { column: 2, value: 'Abbey' } })
  expect(typed({ of: { kind: 'to look at', of: 'unreadable' }, high: '0', within: { column: 2, value: 'Abbey' } })).toMatchObject({ within: null })
})
