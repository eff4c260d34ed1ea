import { effectScope, nextTick, ref, shallowRef } from 'vue'
import { useTried } from './useTried'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

function trying() {
  const asked = shallowRef<{ gate: string } | null>({ gate: 'a' })
  const tick = ref(1)
  const isFetching = ref(false)
  const scope = effectScope()
  const tried = scope.run(() => useTried(asked, tick, isFetching))!
  const ask = async (gate: string) => {
    asked.value = { gate }
    await nextTick()
  }
  const count = async () => {
    tick.value++
    await nextTick()
  }
  return { asked, isFetching, tried, scope, ask, count }
}

test('what follows waits until the counts are there', async () => {
  const { tried, ask, count } = trying()
  expect(tried.value).toEqual({ gate: 'a' })
  await ask('b')
  jest.advanceTimersByTime(40)
  expect(tried.value).toEqual({ gate: 'a' })
  await count()
  expect(tried.value).toEqual({ gate: 'b' })
})

test('of a gate without counts it begins after a while', async () => {
  const { tried, ask } = trying()
  await ask('b')
  jest.advanceTimersByTime(61)
  expect(tried.value).toEqual({ gate: 'b' })
})

test('while records are on their way nothing takes the machine from them', async () => {
  const { tried, isFetching, ask } = trying()
  isFetching.value = true
  await ask('b')
  jest.advanceTimersByTime(5000)
  expect(tried.value).toEqual({ gate: 'a' })
  // A gate that cannot decide gives no counts even then.
  isFetching.value = false
  await nextTick()
  jest.advanceTimersByTime(61)
  expect(tried.value).toEqual({ gate: 'b' })
})

test('a gate that changes all the time is followed now and then, and its last state is not lost', async () => {
  const { tried, ask, count } = trying()
  const seen = new Set<string>()
  for (let step = 0; step < 30; step++) {
    await ask(`step ${step}`)
    jest.advanceTimersByTime(8)
    await count()
    jest.advanceTimersByTime(8)
    seen.add(tried.value!.gate)
  }
  expect(seen.size).toBeLessThan(10)
  expect(seen.size).toBeGreaterThan(2)
  jest.advanceTimersByTime(200)
  expect(tried.value).toEqual({ gate: 'step 29' })
})

test('nothing follows once its page is gone', async () => {
  const { tried, scope, ask } = trying()
  await ask('b')
  scope.stop()
  jest.advanceTimersByTime(500)
  expect(tried.value).toEqual({ gate: 'a' })
})
