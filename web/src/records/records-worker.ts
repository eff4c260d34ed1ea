/** Decides a column away from the page, so that the page never waits: live on the bench, as kept on a run. */
import { type RecordBatch, RecordBatchReader, Table } from 'apache-arrow'
import { expose } from 'comlink'
import { columnFromTable, runFromTable } from '@dime-gate/contract/column-wire'
import { newScale } from '@dime-gate/core/gate/new-scale'
import type { Status } from '@dime-gate/core/rule/rules'
import type { Input, ScaleGate } from '@dime-gate/core/gate/document'
import { type Reason, reasonOf } from '@dime-gate/core/run/reason'
import { type ScaleCounts, scaleCounts, scaleDecider, type ScaleResult, type Tray, trayRecords } from '@dime-gate/core/run/scale-result'
import { countBits, placesOf } from '@dime-gate/core/table/bitmap'
import { type Histogram, histogram } from '@dime-gate/core/table/histogram'
import { decimalAt, type NumberColumn } from '@dime-gate/core/table/number-column'
import { finestPlaces } from '@dime-gate/core/table/finest-places'
import { inOrder, type Order } from './in-order'
import { keptResult } from './kept-result'

export interface OpenedColumn {
  records: number
  histogram: Histogram | null
  /** The most decimal places that a value of the column has. */
  places: number
}

/** A record of the list in view. */
export interface ListedRecord {
  record: number
  status: Status
  /** Its place in the gate's bands, or NONE. */
  band: number
  reason: Reason | null
}

/** How often something was asked for: what was overtaken is dropped. */
let openings = 0
let column: NumberColumn
let records: Int32Array
let gate: ScaleGate
let decide: (gate: ScaleGate) => ScaleResult
let result: ScaleResult
let listed: { tray: Tray; order: Order } = { tray: { kind: 'all' }, order: 'table' }
/** Places of the listed records in list order; worked out when they are asked for. */
let places: Uint32Array | null = null

const worker = {
  /**
   * @param path of an Arrow stream with the column
   * @param progress is told how many records have come
   * @returns null where another was asked for meanwhile: that one counts
   */
  async open(path: string, progress: (records: number) => void = () => undefined): Promise<OpenedColumn | null> {
    const mine = ++openings
    const table = await arrowTable(path, progress)
    if (mine !== openings) return null
    const batch = columnFromTable(table)
    return opened(batch.column, batch.records)
  },

  /** Opens what a run kept: its decisions are shown as they were made, not made again. */
  async openRun(path: string, runGate: ScaleGate): Promise<OpenedColumn> {
    openings++
    const batch = runFromTable(await arrowTable(path))
    const opening = opened(batch.column, batch.records)
    look(runGate, keptResult(batch, runGate))
    return opening
  },

  firstScale(name: string, input: Input): ScaleGate {
    return newScale(name, input, column)
  },

  /** @returns the counts, and the milliseconds it took to work them out */
  decide(draft: ScaleGate): { counts: ScaleCounts; took: number } {
    const start = performance.now()
    look(draft, decide(draft))
    return { counts: scaleCounts(column, result), took: performance.now() - start }
  },

  /** @returns how many records are listed now */
  list(tray: Tray, order: Order): number {
    listed = { tray, order }
    places = null
    return countBits(trayRecords(tray, column, result))
  },

  /** The listed records from place `from` up to, not including, `to`. */
  window(from: number, to: number): ListedRecord[] {
    places ??= inOrder(placesOf(trayRecords(listed.tray, column, result)), listed.order, column)
    return Array.from(places.subarray(from, to), listedRecord)
  },
}

export type RecordsWorker = typeof worker
expose(worker)

async function arrowTable(path: string, progress: (records: number) => void = () => undefined): Promise<Table> {
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

function opened(values: NumberColumn, ids: Int32Array): OpenedColumn {
  column = values
  records = ids
  decide = scaleDecider(column)
  places = null
  return { records: column.length, histogram: histogram(column), places: finestPlaces(column) }
}

function look(at: ScaleGate, found: ScaleResult): void {
  gate = at
  result = found
  places = null
}

function listedRecord(at: number): ListedRecord {
  const { status, rule } = result.decisions.at(at)
  const seen = { value: decimalAt(column, at), unreadable: column.unreadable.get(at) ?? null }
  return { record: records[at]!, status, band: rule, reason: reasonOf(gate, seen) }
}
