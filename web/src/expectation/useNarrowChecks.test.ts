import type { Filter } from '@dime-gate/contract/change'
import type { KeptExpectation } from '@dime-gate/contract/expectation'
import { plainColumn } from '@dime-gate/contract/table'
import type { Tray } from '@dime-gate/core/result/tray'
import { effectScope, shallowRef } from 'vue'
import { type NarrowAsked, useNarrowChecks } from './useNarrowChecks'

const COLUMNS = [plainColumn(1, 'Tree', { type: 'text', isIdentity: true }), plainColumn(2, 'Ward', { type: 'text' })]
/** By record its label. */
const LABELS: Record<number, string | null> = { 1: 'Sound', 2: 'Weak', 3: 'Sound', 4: null }
const WARDS: Record<string, number[]> = { Abbey: [1, 2, 4], Quayside: [3] }
const settled = () => new Promise((resolve) => setTimeout(resolve, 5))

function used(expected: KeptExpectation[], labels = { ...LABELS }) {
  const listed: Filter[][] = []
  const asked = shallowRef<NarrowAsked>({ expected, columns: COLUMNS, version: 1, labels: ['Sound', 'Weak'], tick: 1 })
  const scope = effectScope()
  const checks = scope.run(() => useNarrowChecks(() => asked.value, {
    async list(filters) {
      listed.push(filters)
      const [filter] = filters as [Extract<Filter, { kind: 'values' }>]
      if (filter.values?.[0] === 'broken') throw new Error('the server is away')
      return Int32Array.from(filter.column === 1 ? filter.values.map(Number) : (WARDS[filter.values[0]!] ?? []))
    },
    countsWithin: async (within, trays) => trays.map((tray: Tray) => [...within].filter((record) => (tray.kind === 'label' ? labels[record] === tray.label : labels[record] === null)).length),
  }))!
  return { asked, checks, listed, labels, end: () => scope.stop() }
}
const ofGroup = (id: number, label: string, low: string, ward = 'Abbey'): KeptExpectation => ({ id, tableId: 1, expectation: { kind: 'count', of: { kind: 'label', label }, bounds: { as: 'count', low, high: null }, within: { column: 2, value: ward } } })
const ofRecord = (id: number, tree: string, label: string | null): KeptExpectation => ({ id, tableId: 1, expectation: { kind: 'record', who: [{ column: 1, value: tree }], label } })

test('a group is counted among its own records, and says by how much it misses', async () => {
  const { checks, end } = used([ofGroup(1, 'Sound', '1'), ofGroup(2, 'Weak', '3'), ofGroup(3, 'Weak', '1', 'Nowhere')])
  await settled()
  expect(checks.value.map(({ id, got, of, off }) => [id, got, of, off])).toEqual([[1, 1, 3, 0], [2, 1, 3, -2], [3, 0, 0, -1]])
  end()
})

test('one record gets its label, or says which one it got instead', async () => {
  const { checks, end } = used([ofRecord(1, '1', 'Sound'), ofRecord(2, '2', 'Sound'), ofRecord(3, '4', null), ofRecord(4, '1', null)])
  await settled()
  expect(checks.value.map(({ id, off, label }) => [id, off, label])).toEqual([[1, 0, 'Sound'], [2, -1, 'Weak'], [3, 0, null], [4, -1, 'Sound']])
  end()
})

test('as the draft moves they are counted anew, and which records those are is not asked again until the table has changed', async () => {
  const { asked, checks, listed, labels, end } = used([ofGroup(1, 'Sound', '2')])
  await settled()
  labels[2] = 'Sound'
  asked.value = { ...asked.value, tick: 2 }
  await settled()
  expect([checks.value[0]!.off, listed.length]).toEqual([0, 1])
  asked.value = { ...asked.value, version: 2 }
  await settled()
  expect(listed.length).toBe(2)
  end()
})

test('what looks at a column that is gone, or cannot be asked for, is left out; what is said of all records too', async () => {
  const gone: KeptExpectation = { ...ofGroup(1, 'Sound', '1'), expectation: { ...ofGroup(1, 'Sound', '1').expectation, within: { column: 9, value: 'x' } } as KeptExpectation['expectation'] }
  const whole: KeptExpectation = { ...ofGroup(2, 'Sound', '1'), expectation: { ...ofGroup(2, 'Sound', '1').expectation, within: null } as KeptExpectation['expectation'] }
  const { checks, end } = used([gone, whole, ofGroup(3, 'Sound', '1', 'broken'), ofGroup(4, 'Sound', '1')])
  await settled()
  expect(checks.value.map(({ id }) => id)).toEqual([4])
  end()
})
