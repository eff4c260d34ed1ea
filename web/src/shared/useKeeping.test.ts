import { effectScope } from 'vue'
import { RequestProblem } from './api'
import { useKeeping } from './useKeeping'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

/** A server that takes what it is sent one by one, and answers each time as it is told. */
function kept() {
  let now = ''
  const sent: string[] = []
  const answers: ((error?: Error) => void)[] = []
  const scope = effectScope()
  const keeping = scope.run(() => useKeeping(() => {
    sent.push(now)
    return new Promise<void>((resolve, reject) => answers.push((error) => (error ? reject(error) : resolve())))
  }))!
  const change = (text: string) => {
    now = text
    keeping.changed()
  }
  const answer = async (error?: Error) => {
    answers.shift()!(error)
    await jest.advanceTimersByTimeAsync(0)
  }
  return { ...keeping, scope, sent, change, answer }
}
const unreachable = () => new RequestProblem(0, { code: 'unreachable', message: 'The server does not answer.' })
const stale = () => new RequestProblem(409, { code: 'stale', message: 'changed elsewhere' })

test('changes in a row are sent once, after a pause', async () => {
  const { keeping, change, answer, sent } = kept()
  change('a')
  jest.advanceTimersByTime(300)
  change('b')
  jest.advanceTimersByTime(399)
  expect([sent, keeping.value.state]).toEqual([[], 'keeping'])
  await jest.advanceTimersByTimeAsync(1)
  await answer()
  expect([sent, keeping.value.state]).toEqual([['b'], 'kept'])
})

test('what changed while it was sent is sent after it, and never at the same time', async () => {
  const { keeping, change, answer, keep, sent } = kept()
  change('a')
  void keep()
  change('b')
  await jest.advanceTimersByTimeAsync(1000)
  expect(sent).toEqual(['a'])
  await answer()
  expect([sent, keeping.value.state]).toEqual([['a', 'b'], 'keeping'])
  await answer()
  expect(keeping.value.state).toBe('kept')
})

test('a server that is gone is asked again until it is back, later each time', async () => {
  const { keeping, change, answer, sent } = kept()
  change('a')
  await jest.advanceTimersByTimeAsync(400)
  await answer(unreachable())
  expect(keeping.value).toEqual({ state: 'failed', message: 'The server does not answer.' })
  await jest.advanceTimersByTimeAsync(2000)
  await answer(unreachable())
  await jest.advanceTimersByTimeAsync(3999)
  expect(sent).toHaveLength(2)
  await jest.advanceTimersByTimeAsync(1)
  await answer()
  expect([sent, keeping.value.state]).toEqual([['a', 'a', 'a'], 'kept'])
})

test('what the server refuses is not sent again by itself, but with the next change', async () => {
  const { keeping, change, answer, sent } = kept()
  change('a')
  await jest.advanceTimersByTimeAsync(400)
  await answer(new RequestProblem(422, { code: 'wrong-type', message: 'no' }))
  await jest.advanceTimersByTimeAsync(60_000)
  expect([sent, keeping.value.state]).toEqual([['a'], 'failed'])
  change('b')
  await jest.advanceTimersByTimeAsync(400)
  await answer()
  expect([sent, keeping.value.state]).toEqual([['a', 'b'], 'kept'])
})

test('nothing is sent over a change made elsewhere until somebody says so', async () => {
  const { keeping, change, answer, insist, sent } = kept()
  change('a')
  await jest.advanceTimersByTimeAsync(400)
  await answer(stale())
  change('b')
  await jest.advanceTimersByTimeAsync(60_000)
  expect([sent, keeping.value.state]).toEqual([['a'], 'stale'])
  void insist()
  await answer()
  expect([sent, keeping.value.state]).toEqual([['a', 'b'], 'kept'])
})

test('a page that is left still has what it sent last kept, and asks no more', async () => {
  const { change, answer, keep, scope, sent } = kept()
  change('a')
  void keep()
  scope.stop()
  await answer(unreachable())
  await jest.advanceTimersByTimeAsync(60_000)
  expect(sent).toEqual(['a'])
})
