import { effectScope, nextTick, ref } from 'vue'
import { BINS, type SpreadAsked, useRunSpread } from './useRunSpread'

const settled = () => new Promise((resolve) => setTimeout(resolve, 5))
let asked: string[] = []
let isBroken = false
beforeEach(() => {
  asked = []
  isBroken = false
  global.fetch = (async (path: string) => {
    asked.push(path)
    return isBroken ? new Response('{}', { status: 500 }) : new Response(JSON.stringify([asked.length]), { headers: { 'content-type': 'application/json' } })
  }) as typeof fetch
})
const used = (first: SpreadAsked | null) => {
  const stretch = ref(first)
  const scope = effectScope()
  return { stretch, spread: scope.run(() => useRunSpread(() => stretch.value))!, end: () => scope.stop() }
}
const along = (from: number): SpreadAsked => ({ runId: 3, column: 7, from, to: from + 10 })

test('a stretch is asked for once, however often it is come back to', async () => {
  const { stretch, spread, end } = used(along(0))
  await settled()
  expect([spread.value, asked]).toEqual([[1], [`/api/v1/runs/3/columns/7/spread?from=0&to=10&bins=${BINS}`]])
  stretch.value = along(5)
  await nextTick()
  expect(spread.value).toEqual([])
  await settled()
  stretch.value = along(0)
  await settled()
  expect([spread.value, asked.length]).toEqual([[1], 2])
  end()
})

test('what fails is nothing, and is asked for again; where there is nothing to ask nobody is asked', async () => {
  isBroken = true
  const { stretch, spread, end } = used(along(100))
  await settled()
  expect(spread.value).toEqual([])
  isBroken = false
  stretch.value = null
  await settled()
  stretch.value = along(100)
  await settled()
  expect([spread.value, asked.length]).toEqual([[2], 2])
  end()
})
