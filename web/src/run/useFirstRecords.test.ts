import { FIRST, type RunChoice } from './run-address'
import { useFirstRecords } from './useFirstRecords'

const LISTED = [{ record: 7, status: 'held', rule: -1, label: null, reasons: [{ kind: 'held', inputs: ['Decay'] }], computed: [], highlights: [] }]
let bodies: unknown[]
let answer: () => Promise<Response>
beforeEach(() => {
  bodies = []
  answer = () => Promise.resolve(new Response(JSON.stringify(LISTED)))
  globalThis.fetch = ((_: unknown, { body }: RequestInit) => {
    bodies.push(JSON.parse(String(body)))
    return answer()
  }) as typeof fetch
})
const choice = (change: Partial<RunChoice>): RunChoice => ({ ...FIRST, shows: 'decided', ...change })

test('the first records of the tray are asked for, and are there', async () => {
  const { first, show } = useFirstRecords(() => 3)
  await show({ records: 1_000_000 }, choice({}))
  expect([bodies, first.value]).toEqual([[{ tray: { kind: 'exceptions' }, count: 60 }], LISTED])
})

test('asked for before the run is known, they are asked for once; where that failed, again', async () => {
  const { first, want, show } = useFirstRecords(() => 3)
  await Promise.all([want(choice({})), show({ records: 10 }, choice({}))])
  expect([bodies.length, first.value]).toEqual([1, LISTED])
  const other = useFirstRecords(() => 4)
  answer = () => Promise.resolve(new Response('{"code":"not-done","message":"It is under way."}', { status: 409 }))
  await other.want(choice({}))
  answer = () => Promise.resolve(new Response(JSON.stringify(LISTED)))
  await other.show({ records: 10 }, choice({}))
  expect(other.first.value).toEqual(LISTED)
})

test('what takes all records to tell is not asked for', async () => {
  const { first, show } = useFirstRecords(() => 3)
  await show({ records: 10 }, choice({ tray: { kind: 'highlighted', name: 'Old' } }))
  await show({ records: 10 }, choice({ listing: { filters: [], sorts: [{ column: 3, direction: 'rising' }] } }))
  expect([bodies, first.value]).toEqual([[], []])
})

test('of two questions the later one is shown, whichever is answered first', async () => {
  const { first, show } = useFirstRecords(() => 3)
  let late: (response: Response) => void = () => undefined
  answer = () => new Promise((resolve) => (late = resolve))
  const slow = show({ records: 10 }, choice({}))
  answer = () => Promise.resolve(new Response(JSON.stringify([])))
  await show({ records: 10 }, choice({ tray: { kind: 'held' } }))
  late(new Response(JSON.stringify(LISTED)))
  await slow
  expect(first.value).toEqual([])
})

test('of many records the groups are waited for, where they are looked at; what cannot be had holds nobody up', async () => {
  const { first, show, groupsCame } = useFirstRecords(() => 3)
  answer = () => Promise.resolve(new Response('{"code":"not-done","message":"It is under way."}', { status: 409 }))
  let isShown = false
  const done = show({ records: 1_000_000 }, choice({ shows: 'groups' })).then(() => (isShown = true))
  await new Promise((resolve) => setTimeout(resolve, 20))
  expect(isShown).toBe(false)
  groupsCame()
  await done
  expect(first.value).toEqual([])
  await show({ records: 40 }, choice({ shows: 'groups' }))
})
