import { type Column, plainColumn, type SetOfColumns } from '@dime-gate/contract/table'
import { columnOf } from '@dime-gate/core/table/table'
import type { Cell } from '@dime-gate/core/table/cells'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { type FigureAsked, type FigurePreview, neededColumns, nothingWords, previewFigure } from './preview'

const column = (id: number, name: string, type: Column['type'] = 'number', feel: string | null = null) => plainColumn(id, name, { type, feel })
const MODULES: SetOfColumns = { name: 'Modules', by: { kind: 'names', like: 'Module *' } }
const GIVEN = [column(1, 'Module 1'), column(2, 'Module 2'), column(3, 'Started', 'date'), column(4, 'Crew', 'text')]
const CELLS: Record<number, Cell[]> = {
  1: ['5', '2.5', null, '0'],
  2: ['4', null, null, '2'],
  3: ['2018-03-12', '2026-03-02', null, '2024-02-29'],
  4: ['Quay', 'Hill', 'Hill', null],
}
const RECORDS = Int32Array.of(1, 2, 5, 9)

function preview(feel: string, more: Partial<FigureAsked> = {}) {
  const asked: FigureAsked = {
    columns: [...GIVEN, column(-1, 'F', 'number', feel)],
    sets: [MODULES],
    name: 'F',
    asOf: '2026-03-02',
    record: null,
    since: null,
    ...more,
  }
  return previewFigure(asked, RECORDS, (id) => columnOf(kindOfColumn(GIVEN.find((one) => one.id === id)!.type), CELLS[id]!))
}
const shown = (feel: string, more: Partial<FigureAsked> = {}) => preview(feel, more) as FigurePreview

test('counts what could be computed, and says why the rest could not', () => {
  expect(shown('Module 1 / Module 2')).toMatchObject({
    kind: 'number',
    computed: 2,
    of: 4,
    nothing: [
      { words: 'no Module 2', records: 1 },
      { words: 'no Module 1 and Module 2', records: 1 },
    ],
  })
  expect(shown('Module 2 / Module 1').nothing).toEqual(expect.arrayContaining([{ words: 'divided by 0', records: 1 }]))
  expect(shown('mean(Modules)').nothing).toEqual([{ words: 'no value to take it of', records: 1 }])
})

test('shows how numbers are spread, and of other kinds the commonest values', () => {
  expect(shown('mean(Modules)').spread).toMatchObject({ from: 1, bins: expect.any(Array) as number[] })
  expect(shown('Crew + " yard"')).toMatchObject({
    kind: 'text',
    spread: null,
    common: [
      { value: 'Hill yard', records: 2 },
      { value: 'Quay yard', records: 1 },
    ],
  })
  // Where doubles cannot tell, record by record.
  expect(shown('if Module 1 > 2 then Module 1 else 0')).toMatchObject({ computed: 4, spread: { from: 0 } })
})

test('tells the working of the record in focus, found by its number', () => {
  expect(shown('mean(Modules)', { record: 1 }).working).toEqual({ text: 'mean([5, 4])', result: '4.5', why: null, lengths: null })
  expect(shown('Module 1 + Module 2', { record: 2 }).working).toMatchObject({ text: '2.5 + null', result: null, why: 'no Module 2' })
  expect(shown('mean(Modules)', { record: 4 }).working).toBeNull()
})

test('of a length of time tells all of it, beside what is counted', () => {
  const working = shown('years and months duration(Started, today()).years', { record: 1, since: 'Started' }).working!
  expect([working.result, working.lengths]).toEqual(['7', { years: '7', months: '11', days: '2912' }])
  expect(shown('years and months duration(Started, today()).years', { record: 5, since: 'Started' }).working!.lengths).toBeNull()
})

test('what is wrong has its words and its place', () => {
  expect(preview('mean(Modles)')).toEqual({
    trouble: { words: 'Nothing is named “Modles” here. Did you mean “Modules”?', from: 5, to: 11 },
  })
  expect(preview('today() - Started')).toEqual({ trouble: { words: expect.stringContaining('.days') as string, from: null, to: null } })
})

test('only what it needs is fetched', () => {
  const needed = (feel: string) =>
    neededColumns({
      columns: [...GIVEN, column(5, 'Other', 'number', 'Module 1 * 2'), column(-1, 'F', 'number', feel)],
      sets: [MODULES],
      name: 'F',
    })
  expect(needed('Other + 1')).toMatchObject([{ id: 1 }])
  expect(needed('mean(all Modules)')).toMatchObject([{ id: 1 }, { id: 2 }])
  expect(needed('1 +')).toMatchObject({ code: 'expression' })
})

test('many missing names are not all told', () => {
  expect(nothingWords({ missing: ['A', 'B', 'C', 'D', 'E'] })).toBe('no A, B and 3 more')
  expect(nothingWords({ missing: [] })).toBe('nothing comes of it')
})
