import type { FoundRecord } from '@dime-gate/contract/found'
import { listingOf } from '../listing/listing'
import { recordPlaces } from './places'

const record: FoundRecord = { tableId: 3, tableName: 'Street trees', record: 9, column: 7, columnName: 'Tree no', value: '09&34', isException: false }

test('a record leads to its table, where it alone is listed', () => {
  const [place, ...others] = recordPlaces([record])
  expect([place!.words, place!.detail, others]).toEqual(['09&34', 'record of Street trees, by Tree no', []])
  const { pathname, searchParams } = new URL(place!.path!, 'http://x')
  expect([pathname, listingOf(searchParams.get('list')).filters]).toEqual(['/tables/3', [{ kind: 'contains', column: 7, text: '09&34' }]])
})

test('one that is an exception leads there too', () => {
  const { pathname, searchParams } = new URL(recordPlaces([{ ...record, isException: true }])[1]!.path!, 'http://x')
  expect([pathname, searchParams.get('table'), searchParams.get('text'), searchParams.get('shows')]).toEqual(['/review', '3', '09&34', 'all'])
})
