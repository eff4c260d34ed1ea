import { NONE, STATUSES, type Status } from '@dime-gate/core/rule/rules'
import { placesOf } from '@dime-gate/core/table/bitmap'
import { keptResult } from './kept-result'

const BANDS = { bands: [{ entries: [] }, { entries: [] }], cuts: [{ at: '12', owner: 'above' as const }] }
const kept = (...records: [status: Status, band: number, cut: number][]) => keptResult({
  status: Uint8Array.from(records, ([status]) => STATUSES.indexOf(status)), band: Int16Array.from(records, ([, band]) => band), cut: Int16Array.from(records, ([, , cut]) => cut),
}, BANDS)

test('a run’s records are told and counted as they were kept', () => {
  const { decisions, onCut } = kept(['labelled', 0, NONE], ['held', NONE, NONE], ['labelled', 1, 0], ['unplaced', NONE, NONE], ['labelled', 1, NONE])
  expect([0, 1, 2, 3].map(decisions.at)).toEqual([{ status: 'labelled', rule: 0 }, { status: 'held', rule: NONE }, { status: 'labelled', rule: 1 }, { status: 'unplaced', rule: NONE }])
  expect(decisions.counts).toEqual({ caught: [1, 2], otherwise: 0, unplaced: 1, held: 1, contested: 0 })
  expect([[...placesOf(decisions.caught[1]!)], [...placesOf(decisions.held)], [...placesOf(onCut[0]!)]]).toEqual([[2, 4], [1], [2]])
})

test('a run of no record has nothing in its bands', () => expect(kept().decisions.counts.caught).toEqual([0, 0]))
