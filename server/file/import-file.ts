/** A file that was sent becomes a table, or goes into one. */
import type { MergeAnswer } from '@dime-gate/contract/change'
import type { Progress } from '@dime-gate/contract/table'
import { type Merge, mergeFile } from '../change/merge-file'
import { importTable, type NewTable } from '../table/import-table'
import type { OnTask } from '../threads/serve-tasks'
import { type FileSource, openSource } from './source'

export interface ImportTask {
  kind: 'import'
  source: FileSource
  table: NewTable
}

export interface MergeTask {
  kind: 'merge'
  source: FileSource
  merge: Merge
}

type Told = (records: number) => void

/** @returns the id of the new table. @throws as `importTable` does */
export function importFile({ source, table }: ImportTask, on: OnTask<Progress>): Promise<number> {
  return whileReading(source, table.settings.sheet, on, (pieces, told) => importTable(on.database, pieces, table, told))
}

/** @throws as `mergeFile` does */
export function mergeSentFile({ source, merge }: MergeTask, on: OnTask<Progress>): Promise<MergeAnswer> {
  return whileReading(source, merge.settings.sheet, on, (pieces, told) => mergeFile(on.database, pieces, merge, told))
}

/** Tells how far it is, and ends it where nobody waits any more. */
async function whileReading<Result>(
  source: FileSource,
  sheet: string | null,
  { say, signal }: OnTask<Progress>,
  work: (pieces: AsyncIterable<Uint8Array>, told: Told) => Promise<Result>,
): Promise<Result> {
  const told = (records: number, share: number | null): void => {
    if (signal.aborted) throw new Error('nobody waits for it any more')
    say({ records, share, isWaiting: false })
  }
  const opened = await openSource(source, sheet, (records) => told(records, null))
  let bytes = 0
  async function* counted(): AsyncGenerator<Uint8Array> {
    for await (const piece of opened.pieces()) {
      bytes += piece.length
      yield piece
    }
  }
  return work(counted(), (records) => told(records, opened.size === 0 ? 1 : bytes / opened.size))
}
