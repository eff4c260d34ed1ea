import type { Column } from '@dime-gate/contract/table'
import { filteredBy, filterWords, foundBy, foundText, listingOf, listingText, sortedBy, unfilteredBy, WHOLE } from './listing'

test('a listing goes into the address and comes back; what is no listing is all', () => {
  const listing = filteredBy(sortedBy(WHOLE, 3, false), { kind: 'blank', column: 2 })
  expect(listingOf(listingText(listing))).toEqual(listing)
  expect([listingText(WHOLE), listingOf(undefined), listingOf('{"filters": 1}'), listingOf('no')]).toEqual([null, WHOLE, WHOLE, WHOLE])
})

test('a column goes from rising to falling to unsorted, alone or behind others', () => {
  const one = sortedBy(WHOLE, 3, false)
  const two = sortedBy(one, 3, false)
  expect([one.sorts, two.sorts, sortedBy(two, 3, false).sorts]).toEqual([
    [{ column: 3, direction: 'rising' }],
    [{ column: 3, direction: 'falling' }],
    [],
  ])
  const both = sortedBy(one, 5, true)
  expect(both.sorts).toEqual([
    { column: 3, direction: 'rising' },
    { column: 5, direction: 'rising' },
  ])
  expect(sortedBy(both, 3, true).sorts).toEqual([
    { column: 3, direction: 'falling' },
    { column: 5, direction: 'rising' },
  ])
  expect(sortedBy(sortedBy(both, 3, true), 3, true).sorts).toEqual([{ column: 5, direction: 'rising' }])
  expect(sortedBy(both, 7, false).sorts).toEqual([{ column: 7, direction: 'rising' }])
})

test('of each column one filter on its values; blanks and the like stand beside it', () => {
  let listing = filteredBy(WHOLE, { kind: 'range', column: 2, low: '1', high: null })
  listing = filteredBy(listing, { kind: 'values', column: 2, values: ['3'] })
  listing = filteredBy(listing, { kind: 'found', text: 'oak' })
  listing = filteredBy(listing, { kind: 'found', text: 'elm' })
  expect(listing.filters).toEqual([
    { kind: 'values', column: 2, values: ['3'] },
    { kind: 'found', text: 'elm' },
  ])
  expect(unfilteredBy(listing, listing.filters[0]!).filters).toEqual([{ kind: 'found', text: 'elm' }])
})

test('filters are told in words', () => {
  const columns = [
    { id: 1, name: 'Decay', type: 'percent' },
    { id: 2, name: 'Due', type: 'date' },
    { id: 3, name: 'Ward', type: 'text' },
  ] as Column[]
  const words = (filter: Parameters<typeof filterWords>[0]) => filterWords(filter, columns)
  expect([
    words({ kind: 'range', column: 1, low: '5', high: '12.5' }),
    words({ kind: 'range', column: 2, low: null, high: '2026-03-02' }),
    words({ kind: 'values', column: 3, values: ['North', ''] }),
    words({ kind: 'contains', column: 3, text: 'or' }),
    words({ kind: 'unreadable', column: 1 }),
    words({ kind: 'found', text: 'x' }),
    words({ kind: 'blank', column: 9 }),
  ]).toEqual([
    'Decay from 5 to 12.5',
    'Due up to 2 Mar 2026',
    'Ward: North, blank',
    'Ward has “or”',
    'Decay unreadable',
    '“x” anywhere',
    'a column that is gone blank',
  ])
})

test('what is sought takes the place of what was; nothing sought takes it away, and leaves the rest', () => {
  const ranged = filteredBy(WHOLE, { kind: 'range', column: 2, low: '1', high: null })
  const oak = foundBy(ranged, ' oak ')
  expect([foundText(WHOLE), foundText(oak), foundText(foundBy(oak, 'elm'))]).toEqual(['', 'oak', 'elm'])
  expect(foundBy(oak, '  ')).toEqual(ranged)
})
