/** Compares away from the page, so that the page never waits. */
import { expose } from 'comlink'
import type { ColumnAddress } from '../records/column-address'
import { Session } from '../records/session'
import { loadColumn } from '../records/load-column'
import { type Side, Sides } from './sides'

let session = new Session(loadColumn)
/** Of which day and table its columns are. */
let of = ''
const sides = new Sides()

const worker = {
  /** @param as says all that the columns hang on beside their ids: those of something else are not kept */
  async compare(both: [Side, Side], columns: ColumnAddress[], as: string, progress?: (records: number) => void) {
    if (of !== as) session = new Session(loadColumn)
    of = as
    const own = session
    await own.open(columns, progress)
    return sides.compare(own, both)
  },
  list: (move: { from: string; to: string } | null) => sides.list(move),
  window: (from: number, to: number) => sides.window(from, to),
  sidesOf: (record: number) => sides.sidesOf(record),
}

export type CompareWorker = typeof worker
expose(worker)
