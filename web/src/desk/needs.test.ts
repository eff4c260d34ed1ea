import type { Desk } from '@dime-gate/contract/desk'
import type { Review } from '@dime-gate/contract/review'
import type { Fresh, RunSummary } from '@dime-gate/contract/run'
import { needsOf } from './needs'

const run = (id: number, change: Partial<RunSummary> = {}) => ({ id, number: id, name: null, gateId: 1, gateName: 'Decay band', tableId: 1, state: 'done', ...change }) as RunSummary
const FRESH: Fresh = { differences: { gate: null, table: null, asOf: null, binding: [], feeding: [], figures: [] }, problem: null, otherwise: 0 }
const desk = (change: Partial<Desk>): Pick<Desk, 'runs' | 'expected' | 'fresh'> => ({ runs: [], expected: {}, fresh: {}, ...change })
const review = (...counts: Review['counts']): Review => ({ runs: [], counts, looking: [], failed: [], people: [] })

test('nothing needs anybody where all is settled, met and fresh', () => {
  expect(needsOf(desk({ runs: [run(1)], expected: { 1: { of: 2, missed: 0 } }, fresh: { 1: FRESH } }), review({ runId: 1, kind: 'held', state: 'settled', records: 4 }))).toEqual([])
  expect(needsOf(desk({}), null)).toEqual([])
})

test('exceptions that wait, by kind, what lapsed first; one step to the review', () => {
  const [need] = needsOf(desk({}), review({ runId: 1, kind: 'held', state: 'open', records: 6 }, { runId: 2, kind: 'held', state: 'open', records: 1 }, { runId: 1, kind: 'changed', state: 'lapsed', records: 2 }, { runId: 1, kind: 'held', state: 'settled', records: 9 }))
  expect(need).toMatchObject({ number: 9, words: 'exceptions wait in Review', remark: '2 lapsed, 7 held', path: '/review' })
})

test('missed expectations are counted over runs; one run is one step away, several are a shelf', () => {
  expect(needsOf(desk({ runs: [run(7)], expected: { 7: { of: 3, missed: 1 } } }), null)).toMatchObject([{ number: 1, words: 'expectation is missed', remark: 'Decay band, run 7', path: '/runs/7' }])
  expect(needsOf(desk({ runs: [1, 2, 3, 4, 5].map((id) => run(id)), expected: Object.fromEntries([1, 2, 3, 4, 5].map((id) => [id, { of: 1, missed: 1 }])) }), null)).toMatchObject([{ number: 5, words: 'expectations are missed', remark: 'Decay band, run 1, Decay band, run 2, Decay band, run 3, and 2 more', path: '/runs' }])
})

test('a run that would come out otherwise is told with by how much; one that failed, unless a later one is there', () => {
  expect(needsOf(desk({ runs: [run(3)], fresh: { 3: { ...FRESH, otherwise: 12 } } }), null)).toMatchObject([{ of: 'stale', number: 1, remark: 'Decay band, run 3: 12 records would now get something else' }])
  expect(needsOf(desk({ runs: [run(3, { state: 'failed' })] }), null)).toMatchObject([{ of: 'failed', number: 1, words: 'run failed' }])
  expect(needsOf(desk({ runs: [run(4), run(3, { state: 'failed' })] }), null)).toEqual([])
})
