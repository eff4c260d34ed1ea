import type { ColumnStatistics, FileLook } from '@dime-gate/contract/table'
import { previewTable } from '@dime-gate/interchange/table/preview'
import { questionsOf } from './questions'

const plain: ColumnStatistics = { blank: 0, unreadable: 0, examples: [], percents: null, dates: null }
const dates = (either: number, dayFirst = 0, monthFirst = 0): ColumnStatistics => ({
  ...plain,
  dates: { either, dayFirst, monthFirst, timed: 0, examples: [{ record: 3, text: '03/04/2026' }] },
})
const percents = (signed: number, upToOne: number, overOne: number): ColumnStatistics => ({
  ...plain,
  percents: {
    signed,
    upToOne,
    overOne,
    examples: [
      { record: 1, text: '72%' },
      { record: 2, text: '0.72' },
    ],
  },
})
const NOTHING = { format: {}, columns: {} }

function look(...columns: ColumnStatistics[]): FileLook {
  const { settings } = previewTable(new TextEncoder().encode(`${columns.map((_, at) => `c${at}`).join(',')}\n`), true)
  return { settings, sheets: [], records: [], problem: null, statistics: { records: 9, columns } }
}

test('dates that all read either way are asked about, once for the file', () => {
  expect(questionsOf(look(dates(5), dates(2)), NOTHING)).toEqual([
    { kind: 'dates', column: 0, either: 5, example: { record: 3, text: '03/04/2026' } },
  ])
})

test('dates of which some read one way alone, or none is in doubt, are not', () => {
  expect(questionsOf(look(dates(5, 1), dates(0)), NOTHING)).toEqual([])
  expect(questionsOf(look(dates(5, 0, 2)), NOTHING)).toEqual([])
  expect(questionsOf(look(dates(5)), { format: { dateOrder: 'day' }, columns: {} })).toEqual([])
})

test('bare parts of one among percents are asked about, where they could be meant as percents', () => {
  expect(questionsOf(look(percents(3, 1, 0)), NOTHING)).toEqual([
    { kind: 'percents', column: 0, bare: 1, signed: 3, example: { record: 2, text: '0.72' } },
  ])
  expect(questionsOf(look(percents(0, 4, 0)), NOTHING)).toMatchObject([{ bare: 4 }])
  // 0.7 among 12 and 40 is what it says.
  expect(questionsOf(look(percents(0, 4, 9)), NOTHING)).toEqual([])
  expect(questionsOf(look(percents(3, 0, 2)), NOTHING)).toEqual([])
  expect(questionsOf(look(percents(3, 1, 0)), { format: {}, columns: { 0: { fraction: true } } })).toEqual([])
})

test('of a column that is left out nothing is asked', () => {
  const one = look(percents(3, 1, 0))
  one.settings.columns[0]!.isLeftOut = true
  expect(questionsOf(one, NOTHING)).toEqual([])
})
