import { effectScope } from 'vue'
import { useThrottled } from './useThrottled'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

function throttled() {
  const done: number[] = []
  const scope = effectScope()
  const call = scope.run(() => useThrottled(() => done.push(Date.now()), 100))!
  const start = Date.now()
  return { call, scope, times: () => done.map((time) => time - start) }
}

test('the first call is done at once, those that follow at most once in a pause, and the last is never lost', () => {
  const { call, times } = throttled()
  call()
  call()
  call()
  expect(times()).toEqual([0])
  jest.advanceTimersByTime(100)
  expect(times()).toEqual([0, 100])
  jest.advanceTimersByTime(500)
  expect(times()).toEqual([0, 100])
  call()
  expect(times()).toEqual([0, 100, 600])
})

test('nothing is made up for after its page is gone', () => {
  const { call, scope, times } = throttled()
  call()
  call()
  scope.stop()
  jest.advanceTimersByTime(1000)
  expect(times()).toEqual([0])
})
