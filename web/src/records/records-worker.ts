/** Decides a column away from the page, so that the page never waits: live on the bench, as kept on a run. */
import { tableFromIPC } from 'apache-arrow'
import { expose } from 'comlink'
import { columnFromTable, runFromTable } from '@dime-gate/contract/column-wire'
import { newScale } from '@dime-gate/core/gate/new-scale'
import { NONE, type Status, STATUSES } from '@dime-gate/core/gate/rules'
import type { Input, ScaleGate } from '@dime-gate/core/gate/scale-gate'
import { type Reason, reasonOf } from '@dime-gate/core/run/reason'
import { type ScaleCounts, scaleDecider, type ScaleResult, type Tray, trayPlaces } from '@dime-gate/core/run/scale-result'
import { emptyBitmap, hasBit, setBit } from '@dime-gate/core/table/bitmap'
import { type Histogram, histogram } from '@dime-gate/core/table/histogram'
import { decimalAt, type NumberColumn } from '@dime-gate/core/table/number-column'
import { finestPlaces } from '@dime-gate/core/table/finest-places'

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

export type Order = 'table' | 'rising' | 'falling'

let column: NumberColumn
let records: Int32Array
let gate: ScaleGate
let decide: (gate: ScaleGate) => ScaleResult
let result: ScaleResult
let listed: { tray: Tray; order: Order } = { tray: { kind: 'all' }, order: 'table' }
/** Places of the listed records in list order; worked out when they are asked for. */
let places: Uint32Array | null = null

const worker = {
  /** @param path of an Arrow stream with the column */
  async open(path: string): Promise<OpenedColumn> {
    const batch = columnFromTable(await arrowTable(path))
    return opened(batch.column, batch.records)
  },

  /** Opens what a run kept: its decisions are shown as they were made, not made again. */
  async openRun(path: string, runGate: ScaleGate): Promise<OpenedColumn> {
    const batch = runFromTable(await arrowTable(path))
    gate = runGate
    const length = batch.records.length
    const onCut = runGate.cuts.map(() => emptyBitmap(length))
    batch.cut.forEach((cut, at) => {
      if (cut !== NONE) setBit(onCut[cut]!, at)
    })
    const decisions = { length, status: batch.status, rule: batch.band, label: batch.band }
    result = { decisions, onCut, counts: { records: length, bands: [], held: 0, unplaced: 0, onCut: [], blank: 0, unreadable: 0 } }
    places = null
    return opened(batch.column, batch.records)
  },

  firstScale(name: string, input: Input): ScaleGate {
    return newScale(name, input, column)
  },

  decide(draft: ScaleGate): ScaleCounts {
    gate = draft
    result = decide(draft)
    places = null
    return result.counts
  },

  /** @returns how many records are listed now */
  list(tray: Tray, order: Order): number {
    listed = { tray, order }
    places = null
    return listedPlaces().length
  },

  /** The listed records from place `from` up to, not including, `to`. */
  window(from: number, to: number): { total: number; rows: ListedRecord[] } {
    const all = listedPlaces()
    return { total: all.length, rows: Array.from(all.subarray(from, to), listedRecord) }
  },
}

export type RecordsWorker = typeof worker
expose(worker)

async function arrowTable(path: string) {
  const response = await fetch(path)
  if (!response.ok) throw new Error('The records could not be fetched. Load the page again.')
  return tableFromIPC(response)
}

function opened(values: NumberColumn, ids: Int32Array): OpenedColumn {
  column = values
  records = ids
  decide = scaleDecider(column)
  return { records: column.length, histogram: histogram(column), places: finestPlaces(column) }
}

function listedPlaces(): Uint32Array {
  places ??= inOrder(trayPlaces(listed.tray, column, result), listed.order)
  return places
}

/** Records without a value come last either way. */
function inOrder(all: Uint32Array, order: Order): Uint32Array {
  if (order === 'table') return all
  const sign = order === 'rising' ? 1 : -1
  const key = (at: number) => (hasBit(column.valid, at) ? sign * column.doubles[at]! : Infinity)
  return all.sort((a, b) => {
    const [first, second] = [key(a), key(b)]
    return first === second ? a - b : first < second ? -1 : 1
  })
}

function listedRecord(at: number): ListedRecord {
  const { status, rule } = result.decisions
  const seen = { value: decimalAt(column, at), unreadable: column.unreadable.get(at) ?? null }
  return { record: records[at]!, status: STATUSES[status[at]!]!, band: rule[at]!, reason: reasonOf(gate, seen) }
}
