import { standingInputs } from './binding'
import { type Column, plainColumn, type SetOfColumns } from './table'
import { isLike, membersOfSet, tableFigures } from './table-figures'

const column = (id: number, name: string, type: Column['type'] = 'number', feel: string | null = null) => plainColumn(id, name, { type, feel })
const COLUMNS = [
  column(1, 'Module 1'),
  column(2, 'Module 2', 'percent'),
  column(3, 'Module note', 'text'),
  column(4, 'Module mean', 'number', 'mean(Modules)'),
  column(5, 'Drill'),
]
const MODULES: SetOfColumns = { name: 'Modules', by: { kind: 'names', like: 'module *' } }
const CHOSEN: SetOfColumns = { name: 'Chosen', by: { kind: 'columns', columns: [5, 1, 3, 99] } }

test.each([
  ['Module 1', 'Module *', true],
  ['module 12', 'MODULE *', true],
  ['Module', 'Module *', false],
  ['A Module 1', 'Module *', false],
  ['Mark A of term 2', 'Mark * of *', true],
  ['Mark of 2', 'Mark * of *', false],
  ['Drill', 'Drill', true],
  ['Drills', 'Drill', false],
  ['anything', '*', true],
  ['aa', 'a*a', true],
  ['a', 'a*a', false],
  ['a.b', 'a?b', false],
])('%s is like %s: %s', (name, like, is) => expect(isLike(name, like)).toBe(is))

test('many stars take no longer than few', () => {
  expect(isLike('a'.repeat(200), `${'a*'.repeat(60)}b`)).toBe(false)
})

test('only given numbers are in a set, in the order of the table', () => {
  expect([MODULES, CHOSEN].map((set) => membersOfSet(set, COLUMNS).map(({ id }) => id))).toEqual([
    [1, 2],
    [1, 5],
  ])
})

test('figures of a table see its sets', () => {
  const { figures } = tableFigures({ columns: COLUMNS, sets: [MODULES] })
  expect(figures).toMatchObject([{ name: 'Module mean', needs: ['Module 1', 'Module 2'] }])
})

test('what stands for an input is whoever is in its set by then, and nobody where the set is gone', () => {
  const inputs = { One: { column: 5 }, Some: { columns: [1] }, Set: { set: 'Modules' }, Gone: { set: 'Marks' } }
  expect(standingInputs(inputs, { columns: COLUMNS, sets: [MODULES] })).toEqual({
    One: { column: 5 },
    Some: { columns: [1] },
    Set: { columns: [1, 2] },
    Gone: { columns: [] },
  })
})
