/** The first records of a tray of a run: what a page shows while all that the run kept is on its way. */
import type { FirstRecordsRequest } from '@dime-gate/contract/run-records'
import type { Run } from '@dime-gate/contract/run'
import { type ListedRecord, listedAt } from '@dime-gate/core/result/listed-record'
import { placesOf } from '@dime-gate/core/table/bitmap'
import type { Connection } from '../database/database'
import { keptBatches } from './kept-batches'

/** Records that are looked through at first; most trays have enough among them. */
const FIRST = 4096
/** Each further stretch is so many times as long, up to that. */
const GROWTH = 4
const LONGEST = 65_536

/** @returns JSON text as `listedRecordsSchema` says, without highlights */
export async function* firstRecords(connection: Connection, run: Run, { tray, count }: FirstRecordsRequest): AsyncGenerator<Uint8Array> {
  const listed: ListedRecord[] = []
  let after = 0
  for (let [most, isMore] = [FIRST, true]; isMore && listed.length < count; most = Math.min(GROWTH * most, LONGEST)) {
    isMore = false
    for await (const { records, result } of keptBatches(connection, run, { stretch: { after, most } })) {
      for (const at of placesOf(result.places(tray)).subarray(0, count - listed.length)) listed.push(listedAt(result, at, records[at]!))
      after = records.at(-1) ?? after
      isMore = records.length === most
    }
  }
  yield Buffer.from(JSON.stringify(listed))
}
