import { type Cell, type RecordsRequest, recordsSchema, type TableRecord } from '@dime-gate/contract/table'
import { isSame } from '@dime-gate/core/gate/is-same'
import { shallowReactive } from 'vue'
import { askWith } from '../shared/api'

/** So many records stay at hand; older ones are fetched again when they come back into view. */
const KEPT = 4000

/** The cells of a table's records, fetched as they come into view. @param as the table as it stood, or as a run saw it; none for the table as it is */
export function useRecordCells(tableId: number, as: () => Omit<RecordsRequest, 'records'> = () => ({})) {
  const cells = shallowReactive(new Map<number, Cell[]>())
  const asked = new Map<number, Promise<void>>()
  /** Those that may be others by now: they stay until they are fetched again. */
  const old = new Set<number>()
  /** What was asked for before tells how they were. */
  let since = 0

  /** Fetches what is not here yet, and waits for what somebody else has asked for. @throws RequestProblem */
  async function want(records: number[]): Promise<void> {
    const missing = records.filter((record) => (!cells.has(record) || old.has(record)) && !asked.has(record))
    if (missing.length > 0) {
      const coming = fetched(missing)
      missing.forEach((record) => asked.set(record, coming))
    }
    await Promise.all(new Set(records.flatMap((record) => asked.get(record) ?? [])))
  }

  async function fetched(missing: number[]): Promise<void> {
    const mine = since
    try {
      const found = await askWith(recordsSchema, 'POST', `/tables/${tableId}/records`, { records: missing, ...as() })
      if (mine !== since) return
      if (cells.size > KEPT) cells.clear()
      put(found)
    } finally {
      if (mine === since) missing.forEach((record) => asked.delete(record))
    }
  }

  /** What is known of some records by other ways. A record whose cells are the same keeps them: nothing is drawn anew. */
  function put(records: readonly TableRecord[]): void {
    for (const { record, cells: values } of records) {
      old.delete(record)
      if (!isSame(cells.get(record), values)) cells.set(record, values)
    }
  }

  /** Whatever is here may be another by now: it stays until it is fetched again. */
  function renew(): void {
    since++
    asked.clear()
    cells.forEach((_, record) => old.add(record))
  }

  /** What is here can be read no more: it may be of other columns. */
  function forget(): void {
    renew()
    cells.clear()
  }

  return { cells, want, put, renew, forget }
}
