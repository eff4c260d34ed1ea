/** Columns and kept decisions as they come over the wire, for workers. */
import { type RecordBatch, RecordBatchReader, Table } from 'apache-arrow'
import { columnFromTable } from '@dime-gate/contract/column-wire'
import type { ColumnLoader } from './session'

/** @param progress is told how many records have come */
export async function arrowTable(path: string, progress: (records: number) => void = () => undefined): Promise<Table> {
  const response = await fetch(path)
  if (!response.ok) throw new Error('The records could not be fetched. Try again.')
  const reader = await RecordBatchReader.from(response)
  const batches: RecordBatch[] = []
  let records = 0
  for await (const batch of reader) {
    batches.push(batch)
    records += batch.numRows
    progress(records)
  }
  return new Table(reader.schema, batches)
}

export const loadColumn: ColumnLoader = async ({ path, kind }, progress) => columnFromTable(await arrowTable(path, progress), kind)
