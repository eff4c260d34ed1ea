import type { Override } from '@dime-gate/contract/review'
import { effectScope, ref } from 'vue'
import { aLine } from '../testing/a-line'
import { answered, aServer, Refusal } from '../testing/a-server'
import { useByHand } from './useByHand'

const byHand = (record: number): Override => ({ record, outcomes: { Label: 'Pass' }, was: { kind: 'held' }, note: 'seen', by: 'W', at: '2026-03-02T10:00:00Z' })
const two = () => [{ key: 1, gateId: 7, tableId: 4 }, { key: 2, gateId: 8, tableId: 4 }]

test('what was given by hand is told by key, of each gate and table; one that cannot be asked has none', async () => {
  aLine()
  const asked = aServer(({ path }) => (path.includes('/gates/8/') ? new Refusal(404, 'not-found', 'no such gate') : [byHand(3)]))
  const scope = effectScope()
  const found = scope.run(() => useByHand(two))!
  await answered()
  expect([...found.value].map(([key, all]) => [key, all.map(({ record }) => record)])).toEqual([[1, [3]], [2, []]])
  expect(asked.map(({ path }) => path)).toEqual(['/review/gates/7/tables/4/overrides', '/review/gates/8/tables/4/overrides'])
  scope.stop()
})

test('it follows the review, and what else is asked for; an answer that was overtaken counts no more', async () => {
  const line = aLine()
  const given = [byHand(3)]
  let hold: Promise<void> = Promise.resolve()
  aServer(async ({ path }) => {
    await (path.includes('/gates/7/') ? hold : null)
    return path.includes('/gates/7/') ? [...given] : [byHand(9)]
  })
  const gateId = ref(7)
  const scope = effectScope()
  const found = scope.run(() => useByHand(() => [{ key: 1, gateId: gateId.value, tableId: 4 }]))!
  const records = () => found.value.get(1)?.map(({ record }) => record)
  await answered()
  given.push(byHand(5))
  line.say({ review: true })
  await answered()
  expect(records()).toEqual([3, 5])
  let go: () => void = () => undefined
  hold = new Promise((resolve) => (go = resolve))
  line.say({ review: true })
  await answered()
  gateId.value = 8
  await answered()
  go()
  await answered()
  expect(records()).toEqual([9])
  scope.stop()
})
