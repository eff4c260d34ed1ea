import { TODAY } from '../testing/a-gate'
import { columnOf, type Column, valueTextAt } from '../table/table'
import type { Cell } from '../table/cells'
import type { ValueKind } from '../value/value'
import { FigureValues } from './compute'
import { figuresOf, type ColumnSet, type TableColumn } from './figure'
import { figureTroubleWords } from './figure-words'
import { workingText } from './working'

const given = (name: string, kind: ValueKind = 'number'): TableColumn => ({ name, kind, feel: null })
const figure = (name: string, feel: string): TableColumn => ({ name, kind: 'number', feel })
const MODULES: ColumnSet = { name: 'Modules', members: ['Module 1', 'Module 2', 'Module 3'] }
const COLUMNS = [given('Module 1'), given('Module 2'), given('Module 3'), given('Started', 'date'), given('Crew', 'text')]

const CELLS: Record<string, Cell[]> = {
  'Module 1': ['5', '2.5', null, '0.1'],
  'Module 2': ['5', null, null, '0.2'],
  'Module 3': ['4', '4', null, { unreadable: 'ill' }],
  Started: ['2018-03-12', '2026-03-02', null, '2024-02-29'],
  Crew: ['Quay', 'Hill', null, 'Hill'],
}

function computed(columns: TableColumn[], sets: ColumnSet[] = [MODULES]) {
  const read = figuresOf(columns, sets)
  expect([...read.troubles]).toEqual([])
  const column = (name: string): Column => columnOf(columns.find((one) => one.name === name)!.kind, CELLS[name]!)
  const values = new FigureValues(read.figures, sets, 4, column, TODAY)
  const texts = (name: string) => [0, 1, 2, 3].map((at) => valueTextAt(values.column(name), at))
  return { ...read, values, texts }
}

test.each<[string, (string | null)[]]>([
  ['mean(Modules)', ['4.666666666666666666666666666666667', '3.25', null, '0.15']],
  ['mean(all Modules)', ['4.666666666666666666666666666666667', null, null, null]],
  [
    'mean(for one in all Modules return if one = null then 0 else one)',
    ['4.666666666666666666666666666666667', '2.166666666666666666666666666666667', '0', '0.1'],
  ],
  ['count(Modules)', ['3', '2', '0', '2']],
  ['Module 1 + Module 2', ['10', null, null, '0.3']],
  ['if Module 1 = null then 0 else Module 1', ['5', '2.5', '0', '0.1']],
  ['(today() - Started).days', ['2912', '0', null, '732']],
  ['years and months duration(Started, today()).years', ['7', '0', null, '2']],
  ['round half up(Module 1 / Module 2, 1)', ['1', null, null, '0.5']],
])('%s, exactly, blank where a value is missing', (feel, expected) => {
  expect(computed([...COLUMNS, figure('F', feel)]).texts('F')).toEqual(expected)
})

test('figures of other kinds than numbers', () => {
  const { texts, figures } = computed([
    ...COLUMNS,
    { ...figure('Long', 'Module 1 > 2'), kind: 'boolean' },
    { ...figure('Place', 'Crew + " yard"'), kind: 'text' },
    { ...figure('Next', 'Started + @"P1Y"'), kind: 'date' },
  ])
  expect(figures.map(({ kind }) => kind)).toEqual(['boolean', 'text', 'date'])
  expect([texts('Long'), texts('Place'), texts('Next')]).toEqual([
    ['true', 'true', null, 'false'],
    ['Quay yard', 'Hill yard', null, 'Hill yard'],
    ['2019-03-12', '2027-03-02', null, '2025-02-28'],
  ])
})

test('figures of figures, whatever their order, come after what they need, and know the day that they hang on', () => {
  const { texts, figures } = computed([
    figure('Twice', '2 * Mean + Days'),
    ...COLUMNS,
    figure('Mean', 'mean(Modules)'),
    figure('Days', '(today() - Started).days'),
  ])
  expect(figures.map(({ name, isOfToday }) => [name, isOfToday])).toEqual([
    ['Mean', false],
    ['Days', true],
    ['Twice', true],
  ])
  expect(figures[2]!.needs.toSorted()).toEqual(['Module 1', 'Module 2', 'Module 3', 'Started'])
  expect(texts('Twice')).toEqual(['2921.333333333333333333333333333333', '6.5', null, '732.3'])
})

test('why a figure came to nothing', () => {
  const { values } = computed([
    ...COLUMNS,
    figure('Sum', 'Module 1 + Module 2'),
    figure('Ratio', 'Module 2 / (Module 1 - Module 1)'),
    figure('Mean', 'mean(Modules)'),
    figure('Twice', '2 * Sum'),
  ])
  expect(values.nothingAt('Sum', 1)).toEqual({ missing: ['Module 2'] })
  expect(values.nothingAt('Sum', 2)).toEqual({ missing: ['Module 1', 'Module 2'] })
  expect(values.nothingAt('Ratio', 0)).toEqual({ shortfall: 'division-by-zero' })
  expect(values.nothingAt('Twice', 1)).toEqual({ missing: ['Module 2'] })
  expect(values.nothingAt('Mean', 2)).toEqual({ shortfall: 'no-result' })
})

test('a working has the values put in', () => {
  const { values, figures } = computed([...COLUMNS, figure('Mean', 'mean(Modules)'), figure('Sum', '2 * (Module 1 - Module 2)')])
  const working = (name: string, at: number) => workingText(figures.find((one) => one.name === name)!.tree, values.givenAt(at))
  expect([working('Mean', 1), working('Sum', 3), working('Sum', 1)]).toEqual(['mean([2.5, 4])', '2 * (0.1 - 0.2)', '2 * (2.5 - null)'])
})

test.each<[string, TableColumn[], RegExp]>([
  ['a name that is none', [figure('F', 'mean(Modles)')], /Nothing is named “Modles” here. Did you mean “Modules”/],
  ['kinds that do not go together', [figure('F', 'Crew + 1')], /text and a number do not go together/],
  ['a duration', [figure('F', 'today() - Started')], /comes to a duration.*\.days/],
  ['a list', [figure('F', 'Modules')], /list of number.*mean/],
  ['itself', [figure('F', 'F + 1')], /needs itself/],
  ['a ring', [figure('F', 'G'), figure('G', 'H * 2'), figure('H', '1 + F')], /“F” needs “G” needs “H” needs “F”/],
  ['one that cannot be computed', [figure('F', 'G + 1'), figure('G', 'Crew + 1')], /needs “G”, which cannot be computed/],
])('%s is told', (_, more, words) => {
  expect(figureTroubleWords(figuresOf([...COLUMNS, ...more], [MODULES]).troubles.get('F')!)).toMatch(words)
})

test('one that is wrong keeps no other from being computed', () => {
  const { figures, troubles } = figuresOf([...COLUMNS, figure('Wrong', 'Crew + 1'), figure('Right', 'Module 1')], [MODULES])
  expect([figures.map(({ name }) => name), [...troubles.keys()]]).toEqual([['Right'], ['Wrong']])
})

test('what repeats itself comes to the same, whatever texts are made of', () => {
  const columns = [given('A', 'text'), given('B', 'text'), { ...figure('F', 'A + "|" + B'), kind: 'text' as const }]
  const cells: Record<string, Cell[]> = { A: ['1:a', '1', null, '1:a', 'a1:', ''], B: ['b', ':ab', 'b', 'b', 'b', '-'] }
  const values = new FigureValues(figuresOf(columns, []).figures, [], 6, (name) => columnOf('text', cells[name]!), TODAY)
  expect([0, 1, 2, 3, 4, 5].map((at) => valueTextAt(values.column('F'), at))).toEqual(['1:a|b', '1|:ab', null, '1:a|b', 'a1:|b', '|-'])
})
