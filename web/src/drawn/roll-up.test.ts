import { plainColumn } from '@dime-gate/contract/table'
import { groupListing } from './group-listing'
import { beginGroup, groupChoices, rollUpRequest } from './roll-up'

const COLUMNS = [
  plainColumn(1, 'Tree no', { type: 'text', isIdentity: true }),
  plainColumn(2, 'Height', { unit: 'm' }),
  plainColumn(3, 'Planted', { type: 'date' }),
  plainColumn(4, 'Ward', { type: 'text' }),
]
const choices = groupChoices(COLUMNS)

test('groups are by words first, by years and months of dates, and by who somebody is last', () => {
  expect(choices.map(({ words }) => words)).toEqual(['Ward', 'Planted, by year', 'Planted, by month', 'Planted', 'Height', 'Tree no'])
  expect(beginGroup('Trees', choices, ['4 whole', '3 year'])).toBe('Trees by ward and planted, by year')
})

test('what is asked for has the columns in the order in which they were chosen, with units, and no empty condition', () => {
  const of = (take: 'mean' | 'share' | 'count', more: object) => ({ table: 9, take, of: null, where: null, ...more })
  expect(
    rollUpRequest(
      { columns: COLUMNS },
      ' Wards ',
      choices,
      ['3 year', '4 whole'],
      [
        { name: 'Mean', calculation: of('mean', { of: 2 }) },
        { name: 'Tall', calculation: of('share', { where: ' Height > 3 ' }) },
        { name: 'All', calculation: of('count', { where: '  ' }) },
      ],
    ),
  ).toEqual({
    name: 'Wards',
    by: [
      { column: 3, part: 'year' },
      { column: 4, part: 'whole' },
    ],
    figures: [
      { name: 'Mean', unit: 'm', take: 'mean', of: 2, where: null },
      { name: 'Tall', unit: '%', take: 'share', of: null, where: 'Height > 3' },
      { name: 'All', unit: '', take: 'count', of: null, where: null },
    ],
  })
})

test('a group opens to its records: by values, by the days of a year or month, by blanks', () => {
  const rollUp = {
    table: 9,
    by: [
      { column: 4, part: 'whole' as const, own: 21 },
      { column: 3, part: 'month' as const, own: 22 },
    ],
  }
  const columns = [plainColumn(21, 'Ward'), plainColumn(22, 'Planted, month'), plainColumn(23, 'Trees')]
  expect(
    groupListing(rollUp, columns, [
      ['Abbey', null],
      ['2024-02', null],
      ['3', null],
    ]).filters,
  ).toEqual([
    { kind: 'values', column: 4, values: ['Abbey'] },
    { kind: 'range', column: 3, low: '2024-02-01', high: '2024-02-29' },
  ])
  expect(
    groupListing({ ...rollUp, by: [rollUp.by[0]!, { ...rollUp.by[1]!, part: 'year' }] }, columns, [
      [null, null],
      ['2024', null],
      ['3', null],
    ]).filters,
  ).toEqual([
    { kind: 'blank', column: 4 },
    { kind: 'range', column: 3, low: '2024-01-01', high: '2024-12-31' },
  ])
})
