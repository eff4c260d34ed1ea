import type { ChangeAnswer, ChangeRequest, Listing } from '@dime-gate/contract/change'
import type { Table, TableRecord } from '@dime-gate/contract/table'
import { effectScope, nextTick, ref } from 'vue'
import { filteredBy, WHOLE } from '../listing/listing'
import { type TableSteps, useTable } from './useTable'

const request: ChangeRequest = {
  kind: 'values',
  reading: { decimalMark: 'point', dateOrder: 'day' },
  cells: [{ record: 1, column: 2, text: '7', seen: ['5', null] }],
}
const soon = (milliseconds = 0) => new Promise((resolve) => setTimeout(resolve, milliseconds))
/** Longer than one waits for the answer to a change of one's own. */
const HEARD = 350

/** A server with one table, which says of each thing that it was asked. */
function open({
  answers = [] as (() => Promise<Int32Array>)[],
  kind = 'values' as 'values' | 'add records' | 'add column',
  met = 1,
  told = 1,
} = {}) {
  const asked: string[] = []
  const put: number[][] = []
  let forgotten = 0
  let version = 1
  let tell: (version: number | null) => void = () => undefined
  const table = (): Table => ({ id: 4, version }) as Table
  const answer = (undoes: number | null): ChangeAnswer => {
    version++
    const change = { version, kind, records: met, columns: [], undoes, changedAt: '' }
    return { conflicts: [], change, table: table(), records: Array.from({ length: told }, (_, at) => ({ record: at + 1, cells: [] })) }
  }
  const steps: TableSteps = {
    table: async () => {
      asked.push('table')
      return table()
    },
    list: async ({ filters }) => {
      asked.push(`list ${filters.length}`)
      return (await answers.shift()?.()) ?? Int32Array.of(1, 2, 3)
    },
    profile: async () => {
      asked.push('heads')
      return {}
    },
    change: async () => answer(null),
    undo: async (undone) => answer(undone),
    back: () => Promise.resolve(),
    hear: (_, heard) => (tell = heard),
  }
  const listing = ref<Listing>(WHOLE)
  const scope = effectScope()
  const used = scope.run(() =>
    useTable(listing, steps, {
      put: (records: readonly TableRecord[]) => void put.push(records.map(({ record }) => record)),
      forget: () => void forgotten++,
    }),
  )!
  return {
    ...used,
    asked,
    put,
    listing,
    forgotten: () => forgotten,
    hear: (now: number | null) => tell(now),
    moveElsewhere: () => tell(++version),
    leave: () => scope.stop(),
  }
}

test('a table is opened with its list, then its heads', async () => {
  const { load, asked, order, table, tick } = open()
  await load()
  expect([asked, [...order.value!], table.value!.version, tick.value]).toEqual([['table', 'list 0', 'heads'], [1, 2, 3], 1, 1])
})

test('of two listings the latest is shown, whichever comes first', async () => {
  let late: (found: Int32Array) => void = () => undefined
  const { load, order, listing } = open({
    answers: [async () => Int32Array.of(1), () => new Promise((resolve) => (late = resolve)), async () => Int32Array.of(9)],
  })
  await load()
  listing.value = filteredBy(WHOLE, { kind: 'blank', column: 2 })
  await nextTick()
  listing.value = filteredBy(listing.value, { kind: 'found', text: 'x' })
  await soon()
  late(Int32Array.of(5))
  await soon()
  expect([...order.value!]).toEqual([9])
})

test('a value that is changed is shown at once, and nothing jumps: the list stays as it was', async () => {
  const { load, edits, put, asked, table, tick, forgotten } = open()
  await load()
  expect(await edits.change(request)).toBe(true)
  expect([put, table.value!.version, tick.value, forgotten(), asked.length]).toEqual([[[1]], 2, 2, 0, 3])
})

test('records that come or go, and what is taken back, make the list anew; what is not told record by record is fetched again', async () => {
  const { load, edits, asked, forgotten } = open({ kind: 'add records', met: 900, told: 0 })
  await load()
  await edits.change(request)
  await soon()
  expect([asked.filter((one) => one.startsWith('list')).length, forgotten()]).toEqual([2, 1])
  await edits.undo()
  await soon()
  expect(asked.filter((one) => one.startsWith('list')).length).toBe(3)
})

test('a column more makes every record another', async () => {
  const { load, edits, forgotten } = open({ kind: 'add column' })
  await load()
  await edits.change(request)
  expect(forgotten()).toBe(1)
})

test('what is changed elsewhere is fetched; word of one’s own change is not', async () => {
  const { load, edits, asked, hear, moveElsewhere, forgotten, leave } = open()
  await load()
  await edits.change(request)
  hear(2)
  await soon(HEARD)
  expect([asked.filter((one) => one === 'table').length, forgotten()]).toEqual([1, 0])
  moveElsewhere()
  await soon(HEARD)
  expect([asked.filter((one) => one === 'table').length, forgotten(), asked.at(-1)]).toEqual([2, 1, 'heads'])
  // After a break some may have been missed.
  hear(null)
  await soon(HEARD)
  expect(asked.filter((one) => one === 'table').length).toBe(3)
  leave()
})

test('what could not be listed is told, and what was there stays', async () => {
  const { load, order, listing, trouble } = open({
    answers: [async () => Int32Array.of(1), () => Promise.reject(new Error('The server does not answer.'))],
  })
  await load()
  listing.value = filteredBy(WHOLE, { kind: 'blank', column: 2 })
  await nextTick()
  await soon()
  expect([trouble.value, [...order.value!]]).toEqual(['The server does not answer.', [1]])
})
