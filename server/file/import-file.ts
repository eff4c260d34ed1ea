/** A file that was sent becomes a table. */
import type { Progress } from '@dime-gate/contract/table'
import { importTable, type NewTable } from '../table/import-table'
import type { OnTask } from '../threads/serve-tasks'
import { type FileSource, openSource } from './source'

export interface ImportTask {
  kind: 'import'
  source: FileSource
  table: NewTable
}

/** @returns the id of the new table. @throws as `importTable` does */
export async function importFile({ source, table }: ImportTask, { database, say, signal }: OnTask<Progress>): Promise<number> {
  const told = (records: number, share: number | null): void => {
    if (signal.aborted) throw new Error('nobody waits for it any more')
    say({ records, share, isWaiting: false })
  }
  const opened = await openSource(source, table.settings.sheet, (records) => told(records, null))
  let bytes = 0
  async function* counted(): AsyncGenerator<Uint8Array> {
    for await (const piece of opened.pieces()) {
      bytes += piece.length
      yield piece
    }
  }
  return importTable(database, counted(), table, (records) => told(records, opened.size === 0 ? 1 : bytes / opened.size))
}
