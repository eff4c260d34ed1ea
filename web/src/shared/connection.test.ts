import { effectScope } from 'vue'
import { awayMessage, noteAway, useReturn } from './connection'

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

test('what is away is asked for until it is back, and then those who waited go on, once', async () => {
  const answers = [() => Promise.reject(new Error('refused')), () => Promise.resolve({ ok: false }), () => Promise.resolve({ ok: true })]
  const asked: string[] = []
  globalThis.fetch = (async (path: string) => {
    asked.push(path)
    return answers[asked.length - 1]!()
  }) as never
  const scope = effectScope()
  let returns = 0
  scope.run(() => useReturn(() => returns++))
  expect(awayMessage.value).toBeNull()
  noteAway('gone')
  noteAway('gone')
  for (const _ of answers) {
    expect([awayMessage.value, returns]).toEqual(['gone', 0])
    await jest.advanceTimersByTimeAsync(2000)
  }
  expect([awayMessage.value, returns, asked]).toEqual([null, 1, ['/ready', '/ready', '/ready']])
  scope.stop()
  await jest.advanceTimersByTimeAsync(10_000)
  expect(asked).toHaveLength(3)
})
