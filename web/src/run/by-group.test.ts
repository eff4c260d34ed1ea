import type { RunGroup } from '@dime-gate/contract/run-groups'
import { plainColumn } from '@dime-gate/contract/table'
import { firstGrouping, groupFilter, groupName, groupParts, nextSort, sortedGroups } from './by-group'

const group = (value: string | null, labels: number[], others: Partial<RunGroup> = {}): RunGroup => ({
  value, isUnreadable: false, labels, otherwise: 0, unplaced: 0, held: 0, contested: 0, ...others,
  records: labels.reduce((sum, one) => sum + one, 0) + (others.held ?? 0) + (others.otherwise ?? 0),
})
const LABELS = [{ label: 'Fell', colour: '#8e3424', mark: 'disc' }, { label: 'Leave', colour: '#7fa99a', mark: 'square' }] as const
const GROUPS = [group('Abbey', [1, 9]), group('Castle', [4, 4], { held: 2 }), group('Quayside', [2, 2])]
const Ward = plainColumn(1, 'Ward', { type: 'text' })
const Due = plainColumn(2, 'Due', { type: 'date' })

test('parts stand in label order; what else became of records only where there is any', () => {
  const parts = groupParts(GROUPS, LABELS, null)
  expect(parts.map(({ name }) => name)).toEqual(['Fell', 'Leave', 'held'])
  expect(parts.map(({ recordsOf }) => recordsOf(GROUPS[1]!))).toEqual([4, 4, 2])
  const rest = groupParts([group('x', [0, 1], { otherwise: 3 })], LABELS, LABELS[1])
  expect(rest.map(({ name, colour }) => [name, colour])).toEqual([['Fell', '#8e3424'], ['Leave', '#7fa99a'], ['otherwise: Leave', '#7fa99a']])
  expect(groupParts([group('x', [2, 0], { otherwise: 3 })], LABELS, LABELS[1]).map(({ name }) => name)).toEqual(['Fell', 'otherwise: Leave'])
})

test('groups are sorted by value, by records, or by the share of one part', () => {
  const [fell] = groupParts(GROUPS, LABELS, null)
  const names = (...asked: Parameters<typeof sortedGroups>) => sortedGroups(...asked).map(({ value }) => value)
  expect(names(GROUPS, { by: 'value', direction: 'falling' }, fell)).toEqual(['Quayside', 'Castle', 'Abbey'])
  expect(names(GROUPS, { by: 'records', direction: 'falling' }, fell)).toEqual(['Abbey', 'Castle', 'Quayside'])
  expect(names(GROUPS, { by: 'share', direction: 'falling' }, fell)).toEqual(['Quayside', 'Castle', 'Abbey'])
  expect(names(GROUPS, { by: 'share', direction: 'rising' }, fell)).toEqual(['Abbey', 'Castle', 'Quayside'])
})

test('a heading goes from the highest to the lowest, of values from the first to the last', () => {
  const start = { by: 'value', direction: 'rising' } as const
  expect([nextSort(start, 'value'), nextSort(start, 'share'), nextSort(nextSort(start, 'share'), 'share')]).toEqual([
    { by: 'value', direction: 'falling' }, { by: 'share', direction: 'falling' }, { by: 'share', direction: 'rising' },
  ])
})

test('each group is told to the records by its own filter: a month by its first and last day, a number by itself however it is written', () => {
  expect(groupFilter(group('Abbey', []), Ward, 'whole')).toEqual({ kind: 'values', column: 1, values: ['Abbey'] })
  expect(groupFilter(group('2024-02', []), Due, 'month')).toEqual({ kind: 'range', column: 2, low: '2024-02-01', high: '2024-02-29' })
  expect(groupFilter(group('2026-12', []), Due, 'month')).toEqual({ kind: 'range', column: 2, low: '2026-12-01', high: '2026-12-31' })
  expect(groupFilter(group('2026', []), Due, 'year')).toEqual({ kind: 'range', column: 2, low: '2026-01-01', high: '2026-12-31' })
  expect(groupFilter(group('1.5', []), plainColumn(3, 'Girth'), 'whole')).toEqual({ kind: 'range', column: 3, low: '1.5', high: '1.5' })
  expect(groupFilter(group(null, []), Ward, 'whole')).toEqual({ kind: 'blank', column: 1 })
  expect(groupFilter(group(null, [], { isUnreadable: true }), Ward, 'whole')).toEqual({ kind: 'unreadable', column: 1 })
})

test('groups are called by what they are', () => {
  expect([groupName(group('2026-03', []), Due, 'month'), groupName(group('2026', []), Due, 'year'), groupName(group('2026-03-02', []), Due, 'whole'), groupName(group(null, []), Ward, 'whole')])
    .toEqual(['Mar 2026', '2026', '2 Mar 2026', 'blank'])
})

test('the first grouping is a column of few values that is not who the record is', () => {
  const columns = [plainColumn(1, 'Tree no', { type: 'text', isIdentity: true }), plainColumn(2, 'Height'), plainColumn(3, 'Street', { type: 'text' }), plainColumn(4, 'Town', { type: 'text' })]
  const distinct: Record<number, number> = { 1: 8, 2: 5, 3: 400, 4: 1 }
  expect(firstGrouping(columns, (id) => distinct[id] ?? null)).toBeNull()
  expect(firstGrouping([...columns, plainColumn(9, 'Kind', { type: 'text' })], (id) => distinct[id] ?? (id === 9 ? 3 : null))).toBe(9)
})
