import type { MatchGate } from '@dime-gate/core/gate/document'
import { coinSorter, foundCoins, nearSorted, recordsOf, withSpacesShown } from './coins'

const gate = (folds: boolean, ...lines: string[][]): Pick<MatchGate, 'folds' | 'lines'> => ({ folds, lines: lines.map((values) => ({ values, entries: [null] })) })
const VALUES = [{ text: 'Common ash', records: 141 }, { text: 'Rowan', records: 38 }, { text: 'common ash ', records: 12 }, { text: 'Comon ash', records: 3 }, { text: 'Ginkgo', records: 2 }]

const coinsOf = (list: Pick<MatchGate, 'folds' | 'lines'>, values: typeof VALUES) => coinSorter(list, values)(list.lines)

test('what no tray has waits on the rail, and says which sorted value it looks like', () => {
  const list = gate(false, ['Common ash', 'Yew'], ['Rowan'])
  const { rail, trays } = coinsOf(list, VALUES)
  expect(trays.map((coins) => coins.map(({ value, records }) => [value, records]))).toEqual([[['Common ash', 141], ['Yew', 0]], [['Rowan', 38]]])
  expect(rail.map(({ value }) => value)).toEqual(['common ash ', 'Comon ash', 'Ginkgo'])
  expect([...nearSorted(list, rail)]).toEqual([
    ['common ash ', { value: 'Common ash', tray: 0, differs: 'case or spaces' }],
    ['Comon ash', { value: 'Common ash', tray: 0, differs: 'a letter' }],
  ])
})

test('a list that folds takes spellings for one value, with all their records', () => {
  const { rail, trays } = coinsOf(gate(true, ['COMMON ASH']), VALUES)
  expect(trays[0]).toEqual([{ value: 'COMMON ASH', records: 153, others: ['Common ash', 'common ash '] }])
  expect(rail.map(({ value }) => value)).toEqual(['Rowan', 'Comon ash', 'Ginkgo'])
  expect(coinsOf(gate(true), VALUES).rail[0]).toMatchObject({ value: 'Common ash', records: 153, others: ['common ash '] })
})

test('coins are found by what they hold, or begin with, and put in order', () => {
  const list = gate(false, ['Common ash'])
  const { rail } = coinsOf(list, [...VALUES, { text: 'Ash 10', records: 1 }, { text: 'Ash 9', records: 1 }])
  const shown = (text: string, isNear: boolean, order: 'records' | 'name') => foundCoins(rail, text, isNear ? nearSorted(list, rail) : null, order).map(({ value }) => value)
  expect(shown('ASH', false, 'records')).toEqual(['common ash ', 'Comon ash', 'Ash 10', 'Ash 9'])
  expect(shown('^ash', false, 'name')).toEqual(['Ash 9', 'Ash 10'])
  expect(shown('', true, 'name')).toEqual(['common ash ', 'Comon ash'])
  expect(recordsOf(rail)).toBe(57)
})

test('spaces are shown where nobody would see them', () => {
  expect(withSpacesShown(' Norway  maple ')).toBe('␣Norway␣␣maple␣')
  expect(withSpacesShown('Norway maple')).toBe('Norway maple')
})

test('a coin that is not moved stays the very same, and is found where it lies', () => {
  const sort = coinSorter({ folds: true }, VALUES)
  const [before, after] = [sort(gate(true, ['COMMON ASH'], []).lines), sort(gate(true, ['COMMON ASH'], ['Rowan']).lines)]
  expect(after.trays[0]![0]).toBe(before.trays[0]![0])
  expect(after.trays[1]![0]).toBe(before.rail[0])
  expect(after.rail).toEqual(before.rail.slice(1))
  expect(after.coinOf('COMMON ASH')).toBe(after.trays[0]![0])
  expect(after.coinOf('Ginkgo')).toBe(after.rail.at(-1))
  // As the table writes it, it lies nowhere.
  expect([after.coinOf('Common ash'), after.coinOf('ginkgo'), after.coinOf('Yew')]).toEqual([undefined, undefined, undefined])
})
