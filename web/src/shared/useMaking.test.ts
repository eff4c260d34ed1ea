import { createPinia, setActivePinia } from 'pinia'
import { effectScope } from 'vue'
import { answered, aServer, Refusal } from '../testing/a-server'
import { useNotices } from './notices'
import { useMaking } from './useMaking'

/** Downloads that a page would hand over, by their names. */
let saved: string[] = []
beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'nextTick', 'queueMicrotask'] })
  saved = []
  setActivePinia(createPinia())
  const link = { href: '', download: '', click: () => void saved.push(link.download) }
  Object.assign(globalThis, { document: { createElement: () => link } })
  URL.createObjectURL = () => 'blob:one'
})
afterEach(() => {
  jest.useRealTimers()
  delete (globalThis as { document?: unknown }).document
})

const file = (name: string) => new Response('%PDF', { headers: { 'Content-Disposition': `attachment; filename="${name}"` } })

test('a file is handed over under its name, and until then it is told which one is being made', async () => {
  let go: () => void = () => undefined
  const asked = aServer(async ({ path }) => {
    await new Promise<void>((resolve) => (go = resolve))
    return path === '/runs/7/report.pdf' ? file('report.pdf') : undefined
  })
  const { making, make } = effectScope().run(useMaking)!
  const made = make('report', '/runs/7/report.pdf')
  await answered()
  expect([making.value, saved]).toEqual(['report', []])
  go()
  await made
  expect([making.value, saved, asked.map(({ path }) => path)]).toEqual(['', ['report.pdf'], ['/runs/7/report.pdf']])
})

test('what is refused is told in its words; a server that is away in ours', async () => {
  aServer(() => new Refusal(503, 'no-printer', 'There is no browser here to print with.'))
  const { making, make } = effectScope().run(useMaking)!
  await make('report', '/runs/7/report.pdf')
  expect([making.value, saved, useNotices().current]).toEqual(['', [], { text: 'There is no browser here to print with.', problem: true }])
  aServer(() => Promise.reject(new TypeError('fetch failed')))
  await make('report', '/runs/7/report.pdf')
  expect(useNotices().current!.text).toBe('The server does not answer at present, so no file was made. Try again.')
})

test('one that is stopped, or whose page is left, is not handed over, and nothing is told of it', async () => {
  let go: () => void = () => undefined
  aServer(async () => {
    await new Promise<void>((resolve) => (go = resolve))
    return file('late.pdf')
  })
  const scope = effectScope()
  const { making, make, stop } = scope.run(useMaking)!
  for (const end of [stop, () => scope.stop()]) {
    const made = make('report', '/x')
    await answered()
    end()
    go()
    await made
  }
  expect([saved, useNotices().current]).toEqual([[], null])
  stop()
  expect(making.value).toBe('')
})
