import { choiceOf, FIRST, queryOf, type RunChoice } from './run-address'

const CHOSEN: RunChoice = {
  tray: { kind: 'label', label: 'Fell now' }, listing: { filters: [{ kind: 'values', column: 3, values: ['Abbey'] }], sorts: [] },
  by: 3, part: 'month', of: 'label Fell now', sort: { by: 'share', direction: 'falling' }, shows: 'figures',
}

test('what is chosen comes back from its address', () => {
  expect(choiceOf(queryOf(CHOSEN))).toEqual(CHOSEN)
  const edge: RunChoice = { ...FIRST, tray: { kind: 'edge', of: 'Decay', at: '40', side: 'on' } }
  expect(choiceOf(queryOf(edge))).toEqual(edge)
  const near: RunChoice = { ...FIRST, tray: { kind: 'nearest', label: 'Fell now', isLosing: true, most: 3 } }
  expect(choiceOf(queryOf(near))).toEqual(near)
})

test('a page as it is at first has a plain address', () => {
  expect([queryOf(FIRST), choiceOf({})]).toEqual([{}, FIRST])
})

test.each([{ tray: 'x' }, { tray: '{"kind":"rule"}' }, { by: 'a' }, { by: '-1' }, { part: 'week' }, { sort: 'share' }, { sort: 'size rising' }, { shows: 'all' }, { list: '{' }, { tray: ['a'] }])('what cannot be read is as it is at first: %j', (query) => {
  expect(choiceOf(query)).toEqual(FIRST)
})
