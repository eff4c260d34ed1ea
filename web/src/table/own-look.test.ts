import { type Column, plainColumn } from '@dime-gate/contract/table'
import { ownLooks, ownWords } from './own-look'

const calculation = (record: number, places: number | null, unit: string) => ({ record, table: 1, take: 'count' as const, of: null, where: null, places, unit })
const value = plainColumn(1, 'Value', { drawn: { kind: 'own', calculations: [calculation(1, 1, '%'), calculation(2, 0, 'trees'), calculation(3, null, '')] } })
const figure = (id: number, name: string, feel: string, more: Partial<Column> = {}) => plainColumn(id, name, { feel, ...more })
const others = [plainColumn(2, 'Target'), plainColumn(3, 'Better', { type: 'text' }), plainColumn(4, 'Share', { unit: '%' })]

test('a value is told in the unit of its row, with as many places; other records have no look', () => {
  const looks = ownLooks([value, ...others]).get(1)!
  expect([1, 2, 3, 4].map((record) => ownWords(['15.8065', null], looks.get(record)))).toEqual(['15.8\u00a0%', '16\u00a0trees', '15.8065', null])
  expect(ownWords([null, null], looks.get(1))).toBeNull()
})

test.each([
  ['if Better = "lower" then Target - Value else Value - Target', true],
  ['abs(Target - Value)', true],
  ['2 * Value', true],
  ['round half up(Value, 1)', true],
  ['Value / Target', false],
  ['100 * Value / Value', false],
  ['Target + 1', false],
  ['Value + Share', false],
  ['Value * Target', false],
  ['Nobody - Value', false],
  ['Value -', false],
])('%s is measured as the row is: %s', (feel, isAlike) => expect(ownLooks([value, ...others, figure(5, 'Distance', feel)]).has(5)).toBe(isAlike))

test('a figure of such a figure is measured so too, wherever it stands; one that has a unit keeps it', () => {
  const looks = ownLooks([figure(6, 'Twice', '2 * Distance'), value, ...others, figure(5, 'Distance', 'Target - Value'), figure(7, 'Said', 'Value + 1', { unit: 'm' })])
  expect([...looks.keys()].sort()).toEqual([1, 5, 6])
})
