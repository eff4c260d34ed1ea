import type { RecordInRun } from '@dime-gate/contract/comparison'
import { plainColumn, type TableRecord } from '@dime-gate/contract/table'
import { effectScope, shallowRef } from 'vue'
import { answered, aServer, Refusal } from '../testing/a-server'
import { useRecordInRun } from './useRecordInRun'

const TABLE = { id: 4, name: 'Trees', columns: [plainColumn(11, 'Decay'), plainColumn(12, 'Lean')], sets: [], records: 2, version: 3, standsOn: [], figures: null, rollUp: null, unreadable: 0, fileName: '', importedAt: '2026-03-02T10:00:00Z' }
const inRun = (runId: number): RecordInRun => ({ runId, number: runId, name: null, gateVersion: 1, asOf: '2026-03-02', keptAt: '2026-03-02T10:00:00Z', landing: { kind: 'held' } })

/** A table in which record 1 was corrected since run 7, and record 2 was removed. @param waits for the record whose answer takes longer */
function used(waits: { for: number | null; until: Promise<void> } = { for: null, until: Promise.resolve() }) {
  const asked = aServer(async ({ path, body }) => {
    const whole = /^\/runs\/(\d+)\/records\/(\d+)\/runs$/.exec(path)
    if (whole) {
      if (Number(whole[2]) === waits.for) await waits.until
      return Number(whole[2]) === 9 ? new Refusal(404, 'not-found', 'There is no such record.') : [inRun(Number(whole[1]))]
    }
    if (path === '/tables/4') return TABLE
    const { records: [record], run } = body as { records: number[]; run?: number }
    const cells: TableRecord['cells'] = run ? [['40', null], [null, 'much']] : [['12', null], ['3', null]]
    return record === 2 && !run ? [] : [{ record: record!, cells }]
  })
  const of = shallowRef<{ run: { id: number; tableId: number }; record: number } | null>(null)
  const scope = effectScope()
  return { ...scope.run(() => useRecordInRun(() => of.value))!, look: (record: number | null) => (of.value = record === null ? null : { run: { id: 7, tableId: 4 }, record }), asked }
}

test('a record is told as the run saw it and as it is now, with what it got in other runs', async () => {
  const { then, now, history, look } = used()
  look(1)
  await answered()
  expect([then.value, [...now.value!], history.value.map(({ runId }) => runId)]).toEqual([[['40', null], [null, 'much']], [[11, ['12', null]], [12, ['3', null]]], [7]])
})

test('one that is gone is told as gone, and not as unknown', async () => {
  const { then, now, look } = used()
  look(2)
  expect(now.value).toBeUndefined()
  await answered()
  expect([then.value?.length, now.value]).toEqual([2, null])
})

test('what was asked of a record that nobody looks at any more is left', async () => {
  let go: () => void = () => undefined
  const { then, now, history, look } = used({ for: 1, until: new Promise((resolve) => (go = resolve)) })
  look(1)
  await answered()
  look(2)
  await answered()
  go()
  await answered()
  expect([then.value?.length, now.value, history.value.length]).toEqual([2, null, 1])
})

test('what cannot be had is told, and gone with the next record', async () => {
  const { trouble, look, asked } = used()
  look(9)
  await answered()
  expect(trouble.value).toBe('There is no such record.')
  look(null)
  await answered()
  const before = asked.length
  expect([trouble.value, before]).toEqual(['', asked.length])
})
