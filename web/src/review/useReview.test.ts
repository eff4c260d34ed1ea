import type { ActRequest, Exception, Review } from '@dime-gate/contract/review'
import { createPinia, setActivePinia } from 'pinia'
import { effectScope } from 'vue'
import { useNotices } from '../shared/notices'
import { aServer, Refusal } from '../testing/a-server'
import { useReview } from './useReview'

const BASIS = { landed: 'held', rule: null, values: { Decay: null } }
const exception = (record: number): Exception => ({ runId: 7, record, who: [`T${record}`], kind: 'held', state: 'open', reasons: [{ kind: 'held', inputs: ['Decay'] }], keys: ['k'], landing: { kind: 'held' }, basis: BASIS, mark: null, waitsFor: null })

/** A server with three exceptions of one run, that settles as the real one does. */
function serverWith() {
  const all = [1, 2, 3].map(exception)
  const acts = new Map<number, number>()
  const review = (): Review => ({ runs: [{ id: 7, number: 1, name: null, gateId: 1, gateName: 'Band', tableId: 1, tableName: 'Trees' }], counts: [{ runId: 7, kind: 'held', state: 'open', records: all.filter(({ mark }) => !mark).length }], looking: [], failed: [], people: [] })
  aServer(({ method, path, body }) => {
    if (path.endsWith('/review')) return review()
    if (path.endsWith('/listings')) return new Response(Int32Array.from(all.flatMap(({ runId, record }) => [runId, record, 3])).buffer)
    if (path.endsWith('/exceptions')) return (body as { of: { record: number }[] }).of.map(({ record }) => all.find((one) => one.record === record))
    if (path.endsWith('/acts')) {
      const { of } = body as ActRequest
      const one = all.find(({ record }) => record === of.record)!
      if ((one.mark?.id ?? null) !== of.mark) return new Refusal(409, 'stale', 'somebody else was first')
      Object.assign(one, { state: 'settled', mark: { id: of.record, act: of.record, kind: 'settled', note: '', by: '', at: '', outcomes: null, keys: [], basis: BASIS } })
      acts.set(of.record, of.record)
      return { act: of.record, records: 1, exception: one }
    }
    if (method === 'DELETE') {
      Object.assign(all[Number(path.split('/').at(-1)) - 1]!, { state: 'open', mark: null })
      return { act: 1, records: 1, exception: null }
    }
    return new Refusal(404, 'not-found', 'no such run')
  })
  return all
}

function used() {
  setActivePinia(createPinia())
  const scope = effectScope()
  const hand = scope.run(() => useReview(() => ({ by: 'reason', filter: { runs: null, people: null, kinds: null, states: null, text: null } })))!
  return { ...hand, end: () => scope.stop() }
}
const settling = (record: number, mark: number | null = null): ActRequest => ({ kind: 'settled', of: { runId: 7, record, mark }, isAlike: false, note: '', by: '', outcomes: null, correction: null, to: null })

test('what is listed is fetched as it comes into view, each once', async () => {
  serverWith()
  const { load, order, groups, want, rowOf, end } = used()
  await load()
  expect([order.value.length, groups.value]).toEqual([3, [{ of: 'held', start: 0, records: 3 }]])
  await want(0, 2)
  expect([rowOf({ runId: 7, record: 2 })?.who, rowOf({ runId: 7, record: 3 })]).toEqual([['T2'], undefined])
  end()
})

test('what is settled stays in its place, and comes back with one step after the other', async () => {
  serverWith()
  const { load, want, act, undo, acts, order, rowOf, end } = used()
  await load()
  await want(0, 3)
  expect([await act(settling(1)), await act(settling(2))]).toEqual([1, 1])
  expect([order.value.length, rowOf({ runId: 7, record: 1 })!.state, acts.value]).toEqual([3, 'settled', [1, 2]])
  expect([await undo(), rowOf({ runId: 7, record: 2 })!.state, rowOf({ runId: 7, record: 1 })!.state]).toEqual([true, 'open', 'settled'])
  expect([await undo(), await undo()]).toEqual([true, false])
  end()
})

test('where somebody else was first nothing is done, that is told, and what they did is seen', async () => {
  const all = serverWith()
  const { load, want, act, acts, rowOf, end } = used()
  await load()
  await want(0, 3)
  Object.assign(all[0]!, { state: 'settled', mark: { id: 99, act: 5, kind: 'settled', note: 'theirs', by: '', at: '', outcomes: null, keys: [], basis: BASIS } })
  expect(await act(settling(1))).toBeNull()
  expect([acts.value, useNotices().current!.text, rowOf({ runId: 7, record: 1 })!.mark!.note]).toEqual([[], 'somebody else was first', 'theirs'])
  end()
})
