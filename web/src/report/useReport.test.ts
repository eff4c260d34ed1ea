import type { Exception, Review } from '@dime-gate/contract/review'
import { createHash } from 'node:crypto'
import { plainColumn } from '@dime-gate/contract/table'
import type { Run } from '@dime-gate/contract/run'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import type { AllCounts } from '@dime-gate/core/result/counts'
import { band } from '@dime-gate/core/testing/a-gate'
import { aServer, Refusal } from '../testing/a-server'
import { MOST_EXCEPTIONS, useReport } from './useReport'

const COUNTS: AllCounts = { records: 3, caught: [1, 1], otherwise: 0, unplaced: 0, held: 1, contested: 0, inputs: [], edges: [], alone: [1, 1], exceptions: 1, unreadable: 0, outside: 0, onEdge: 0, nearEdge: 0 }
const RUN: Run = {
  id: 7, number: 1, isDraft: false, name: null, gateId: 2, gateName: 'Award', gateVersion: 1, tableId: 4, tableName: 'Course', tableVersion: 1, asOf: '2026-03-02', isAsOfAsked: false, keptAt: '2026-03-02T10:00:00Z',
  state: 'done', problem: null, progress: 1, isWaiting: false, records: 3, counts: COUNTS, labels: [], otherwise: null, gate: plainScale('Award', givenNumber('Mark', ''), [{ at: '1', owner: 'above' }], [band('a'), band('b')]), binding: { Mark: { column: 21 } }, feeding: [], seen: [21], columns: [plainColumn(21, 'Mark')],
}
const BASIS = { landed: 'held', rule: null, values: { Mark: null } }
const exception = (record: number): Exception => ({ runId: 7, record, who: [`C${record}`], kind: 'held', state: 'open', reasons: [{ kind: 'held', inputs: ['Mark'] }], keys: ['k'], landing: { kind: 'held' }, basis: BASIS, mark: null, waitsFor: null })
const CSV = 'Name,Award\nA,b\n'

/** A server with one run. @property looks how often the review still looks for exceptions of it */
function used({ run = RUN, exceptions = 2, looks = 0, csv = CSV as string | Refusal } = {}) {
  const waiting: Review = { runs: [{ id: 7, number: 1, name: null, gateId: 2, gateName: 'Award', tableId: 4, tableName: 'Course' }], counts: [{ runId: 7, kind: 'held', state: 'open', records: 4 }, { runId: 7, kind: 'on an edge', state: 'lapsed', records: 2 }, { runId: 7, kind: 'on an edge', state: 'settled', records: 9 }, { runId: 8, kind: 'held', state: 'open', records: 50 }], looking: [], failed: [], people: [] }
  const asked = aServer(({ path, body }) => {
    if (path === '/runs/7') return run
    if (path === '/review') return looks-- > 0 ? { ...waiting, counts: [], looking: [7] } : waiting
    if (path === '/review/listings') return new Response(Int32Array.from(Array.from({ length: exceptions }, (_, at) => [7, at + 1, 3]).flat()).buffer)
    if (path === '/review/exceptions') return (body as { of: { record: number }[] }).of.map(({ record }) => exception(record))
    if (path === '/gates/2/highlights') return { version: 1, highlights: ['one', 'new since'].map((name) => ({ name, condition: 'Mark > 1', colour: '#8e3424', mark: 'star', on: null, isException: false })) }
    if (path === '/runs/7/highlighted') return [3]
    if (path === '/runs/7/labelled.csv') return csv instanceof Refusal ? csv : new Response(csv)
    if (path === '/runs/7/groups/21?part=month') return new Refusal(422, 'malformed', 'A number has no month.')
    return path === '/runs/7/checks' || path === '/review/runs/7/overrides' ? [] : undefined
  })
  return { ...useReport(7), asked }
}

test('what still waits of this run is counted, what lapsed among it; its exceptions are listed, and the table has a checksum', async () => {
  const { load, waiting, exceptions, checksum, highlights, isReady } = used()
  await load()
  expect([isReady.value, waiting.value, exceptions.value!.all, exceptions.value!.listed.map(({ record }) => record)]).toEqual([true, 6, 2, [1, 2]])
  expect(checksum.value).toBe(createHash('sha256').update(CSV).digest('hex'))
  // One that came while it was counted is not told.
  expect(highlights.value.map(({ name, records }) => [name, records])).toEqual([['one', 3]])
})

test('it waits for exceptions that are still being found', async () => {
  const { load, waiting, asked } = used({ looks: 2 })
  await load()
  expect([waiting.value, asked.filter(({ path }) => path === '/review').length]).toEqual([6, 3])
})

test('no more exceptions are fetched than are printed, and how many there are is told', async () => {
  const { load, exceptions, asked } = used({ exceptions: MOST_EXCEPTIONS + 300 })
  await load()
  expect([exceptions.value!.listed.length, exceptions.value!.all]).toEqual([MOST_EXCEPTIONS, MOST_EXCEPTIONS + 300])
  expect(asked.filter(({ path }) => path === '/review/exceptions').map(({ body }) => (body as { of: unknown[] }).of.length)).toEqual([500, 500, 500, 500])
})

test('a run that is not done has no report; what cannot be summed, or is too large for it, goes without a checksum', async () => {
  const early = used({ run: { ...RUN, state: 'under way', counts: null } })
  await early.load()
  expect([early.isReady.value, early.trouble.value]).toEqual([false, 'This run is not done, so there is nothing to report yet.'])
  const large = used({ run: { ...RUN, counts: { ...COUNTS, records: 1_000_000 } } })
  await large.load()
  expect([large.isReady.value, large.checksum.value, large.asked.some(({ path }) => path.endsWith('.csv'))]).toEqual([true, null, false])
})

test('groups that cannot be made are told, and the rest of the report stays', async () => {
  const { load, group, groups, trouble, isReady } = used()
  await load()
  await group({ by: 21, part: 'month' })
  expect([groups.value, trouble.value, isReady.value]).toEqual([null, 'A number has no month.', true])
  await group({ by: null, part: 'whole' })
  expect(groups.value).toBeNull()
})
