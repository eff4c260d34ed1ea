import type { Expectation, KeptExpectation } from '@dime-gate/contract/expectation'
import { createPinia, setActivePinia } from 'pinia'
import { useNotices } from '../shared/notices'
import { answered, aServer, Refusal } from '../testing/a-server'
import { useExpectations } from './useExpectations'

const half: Expectation = { kind: 'count', of: { kind: 'label', label: 'Pass' }, bounds: { as: 'share', low: '50', high: null }, within: null }
const one: Expectation = { kind: 'record', who: [{ column: 3, value: 'T1' }], label: 'Pass' }

/** A server that keeps a list, and refuses what it has. */
function used() {
  setActivePinia(createPinia())
  const kept: KeptExpectation[] = [{ id: 1, tableId: null, expectation: half }]
  const asked = aServer(({ method, body, path }) => {
    if (method === 'DELETE') {
      kept.splice(kept.findIndex(({ id }) => id === Number(path.split('/').at(-1))), 1)
      return {}
    }
    if (method === 'GET') return kept
    const { add } = body as { add: { tableId: number | null; expectation: Expectation }[] }
    if (add.some(({ expectation }) => kept.some((known) => JSON.stringify(known.expectation) === JSON.stringify(expectation)))) return new Refusal(409, 'stale', 'That is expected already.')
    kept.push(...add.map((more, at) => ({ id: kept.length + at + 1, ...more })))
    return kept
  })
  let moved = 0
  return { ...useExpectations(() => 7, () => moved++), asked, moved: () => moved, notices: useNotices() }
}

test('what is stated is kept, and whoever shows it is told', async () => {
  const { kept, load, add, moved, asked } = used()
  await load()
  expect(kept.value.map(({ id }) => id)).toEqual([1])
  expect(await add([one], 4)).toBe(true)
  expect([kept.value.map(({ tableId }) => tableId), moved()]).toEqual([[null, 4], 1])
  expect(asked.at(-1)).toEqual({ method: 'POST', path: '/gates/7/expectations', body: { add: [{ tableId: 4, expectation: one }] } })
})

test('what is refused is told in the words of the refusal, and changes nothing', async () => {
  const { kept, load, add, moved, notices } = used()
  await load()
  expect(await add([half], null)).toBe(false)
  expect([kept.value.length, moved(), notices.current]).toEqual([1, 0, { text: 'That is expected already.', problem: true }])
})

test('what is taken away can be taken back, for the table that it was meant for', async () => {
  const { kept, load, add, remove, notices } = used()
  await load()
  await add([one], 4)
  await remove(2)
  expect(kept.value.map(({ id }) => id)).toEqual([1])
  notices.current!.act!.run()
  await answered()
  expect(kept.value.map(({ tableId, expectation }) => [tableId, expectation.kind])).toEqual([[null, 'count'], [4, 'record']])
})

test('a gate is worked on without them where they cannot be had', async () => {
  setActivePinia(createPinia())
  aServer(() => new Refusal(500, 'failed', 'no'))
  const { kept, load } = useExpectations(() => 7)
  await load()
  expect(kept.value).toEqual([])
})
