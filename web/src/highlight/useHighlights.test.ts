import type { HighlightList } from '@dime-gate/contract/highlight'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { createPinia, setActivePinia } from 'pinia'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import { useNotices } from '../shared/notices'
import { aServer, Refusal } from '../testing/a-server'
import { type HighlightSession, useHighlights } from './useHighlights'

const named = (name: string): Highlight => ({ name, condition: `Decay > ${name.length}`, colour: '#8e3424', mark: 'star', on: null, isException: false })

/** A server that keeps one list, as the real one does. */
function listOnServer() {
  const kept: HighlightList = { version: 0, highlights: [] }
  aServer(({ method, body }) => {
    if (method === 'PUT') {
      const { seen, highlights } = body as { seen: number; highlights: Highlight[] }
      if (seen !== kept.version) return new Refusal(409, 'stale', 'changed elsewhere')
      Object.assign(kept, { version: kept.version + 1, highlights })
    }
    return kept
  })
  return kept
}

function used() {
  setActivePinia(createPinia())
  const shown: string[][] = []
  let asked = 0
  const session = { beside: async () => undefined, highlight: async (all: Highlight[]) => void shown.push(all.map(({ name }) => name)), toldHighlights: async () => (asked++, null) } as unknown as HighlightSession
  const decided = ref(0)
  const scope = effectScope()
  return { ...scope.run(() => useHighlights(session, () => 7, decided, ref(null)))!, shown, decided, asked: () => asked, end: () => scope.stop() }
}

test('what is kept is handed to the session, and counted once something is decided and nothing changes for a while', async () => {
  const kept = listOnServer()
  kept.highlights = [named('a')]
  const { load, shown, decided, asked, end } = used()
  await load()
  expect([shown, asked()]).toEqual([[['a']], 0])
  jest.useFakeTimers()
  for (let step = 0; step < 5; step++) {
    decided.value++
    await nextTick()
    jest.advanceTimersByTime(100)
  }
  expect(asked()).toBe(0)
  jest.advanceTimersByTime(100)
  jest.useRealTimers()
  expect(asked()).toBe(1)
  end()
})

test('a change is kept, and taken back with one step', async () => {
  const kept = listOnServer()
  const { load, change, highlights, end } = used()
  await load()
  expect(await change([named('a'), named('b')])).toBe(true)
  await change([named('b')], 'gone')
  expect(kept.highlights.map(({ name }) => name)).toEqual(['b'])
  useNotices().current!.act!.run()
  await new Promise((resolve) => setTimeout(resolve, 10))
  expect([kept.highlights, highlights.value].map((all) => all.map(({ name }) => name))).toEqual([['a', 'b'], ['a', 'b']])
  end()
})

test('where another page was first, nothing is written over: that is told, and what there is now is shown', async () => {
  const kept = listOnServer()
  const { load, change, highlights, end } = used()
  await load()
  Object.assign(kept, { version: 5, highlights: [named('theirs')] })
  expect(await change([named('mine')])).toBe(false)
  expect([kept.highlights[0]!.name, highlights.value[0]!.name, useNotices().current!.problem]).toEqual(['theirs', 'theirs', true])
  end()
})

test('columns that cannot be fetched leave what was told, and what follows is told again', async () => {
  listOnServer()
  setActivePinia(createPinia())
  let isAway = false
  const answer = { records: [3] }
  const failing = async <Found>(found: Found) => { if (isAway) throw new Error('away'); return found }
  const session = { beside: () => failing(undefined), highlight: () => failing(undefined), toldHighlights: () => failing(answer) } as unknown as HighlightSession
  const decided = ref(1)
  const table = shallowRef({ columns: [], bound: [] })
  const scope = effectScope()
  const { told, load } = scope.run(() => useHighlights(session, () => 7, decided, table))!
  await load()
  expect(told.value).toBe(answer)
  isAway = true
  table.value = { columns: [], bound: [] }
  await load()
  expect(told.value).toBe(answer)
  isAway = false
  answer.records = [4]
  await load()
  expect(told.value!.records).toEqual([4])
  scope.stop()
})
