import { effectScope } from 'vue'
import { SOON, useLateRows } from './useLateRows'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

function lateAmong(...inView: number[]) {
  const scope = effectScope()
  return { ...scope.run(() => useLateRows(() => inView))!, inView, stop: () => scope.stop() }
}

test('records are late once they have been in view for some time', () => {
  const { late, wait } = lateAmong(7, 9)
  wait()
  jest.advanceTimersByTime(SOON - 1)
  expect([...late.value]).toEqual([])
  jest.advanceTimersByTime(1)
  expect([...late.value]).toEqual([7, 9])
})

test('others that come into view have their own time; what was drawn stays until then', () => {
  const { late, wait, inView } = lateAmong(7)
  wait()
  jest.advanceTimersByTime(SOON)
  inView.push(8)
  wait()
  jest.advanceTimersByTime(SOON - 1)
  expect([...late.value]).toEqual([7])
  jest.advanceTimersByTime(1)
  expect([...late.value]).toEqual([7, 8])
})

test('nothing is late on a page that is gone', () => {
  const { late, wait, stop } = lateAmong(7)
  wait()
  stop()
  jest.advanceTimersByTime(SOON)
  expect([...late.value]).toEqual([])
})
