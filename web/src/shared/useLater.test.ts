import { effectScope } from 'vue'
import { useLater } from './useLater'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

test('however often it is asked for in a row, it is done once, when nobody asks any more; and not once nobody is there', () => {
  let done = 0
  const scope = effectScope()
  const later = scope.run(() => useLater(() => done++, 100))!
  later()
  jest.advanceTimersByTime(90)
  later()
  jest.advanceTimersByTime(90)
  expect(done).toBe(0)
  jest.advanceTimersByTime(10)
  expect(done).toBe(1)
  later()
  scope.stop()
  jest.advanceTimersByTime(1000)
  expect(done).toBe(1)
})
