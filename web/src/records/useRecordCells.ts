import { type Cell, type RecordsRequest, recordsSchema, type TableRecord } from '@dime-gate/contract/table'
import { shallowReactive } from 'vue'
import { askWith } from '../shared/api'

/** So many records stay at hand; older ones are fetched again when they come back into view. */
const KEPT = 4000

/** The cells of a table's records, fetched as they come into view. @param as the table as it stood, or as a run saw it; none for the table as it is */
export function useRecordCells(tableId: number, as: () => Omit<RecordsRequest, 'records'> = () => ({})) {
  const cells = shallowReactive(new Map<number, Cell[]>())
  const asked = new Map<number, Promise<void>>()

  /** Fetches what is not here yet, and waits for what somebody else has asked for. @throws RequestProblem */
  async function want(records: number[]): Promise<void> {
    const missing = records.filter((record) => !cells.has(record) && !asked.has(record))
    if (missing.length > 0) {
      const coming = fetched(missing)
      missing.forEach((record) => asked.set(record, coming))
    }
    await Promise.all(new Set(records.flatMap((record) => asked.get(record) ?? [])))
  }

  async function fetched(missing: number[]): Promise<void> {
    try {
      const found = await askWith(recordsSchema, 'POST', `/tables/${tableId}/records`, { records: missing, ...as() })
      if (cells.size > KEPT) cells.clear()
      for (const { record, cells: values } of found) cells.set(record, values)
    } finally {
      missing.forEach((record) => asked.delete(record))
    }
  }

  /** What is known of some records by other ways. */
  function put(records: readonly TableRecord[]): void {
    for (const { record, cells: values } of records) cells.set(record, values)
  }

  /** Whatever is here may be another by now. */
  function forget(): void {
    cells.clear()
  }

  return { cells, want, put, forget }
}
