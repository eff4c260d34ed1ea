import { tallyOf } from './tally'

test('what waits is open or lapsed; runs are counted that have any such', () => {
  const counts = [{ runId: 1, kind: 'held', state: 'open', records: 3 }, { runId: 1, kind: 'held', state: 'settled', records: 4 }, { runId: 2, kind: 'changed', state: 'lapsed', records: 1 }, { runId: 3, kind: 'held', state: 'overridden', records: 2 }] as const
  expect(tallyOf(counts)).toEqual({ all: 10, waiting: 4, runs: 2, byState: { open: 3, lapsed: 1, settled: 4, overridden: 2, corrected: 0 } })
  expect(tallyOf([]).waiting).toBe(0)
})
