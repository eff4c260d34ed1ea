/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import { stringify } from 'csv-stringify/sync'
import { bandInterval } from '@dime-gate/core/gate/form'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { intervalText } from '@dime-gate/core/gate/interval'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { Run } from '@dime-gate/contract/run'
import { type Connection, rowsOf } from '../database/database'
import { writtenRecords } from '../table/records'
import { runRelation } from './run-relation'

/** RFC 4180 clause 2.1: lines end in CR LF. */
const FORMAT = { record_delimiter: '\r\n' } as const

/** Text of the file, piece by piece. Band limits are FEEL unary tests, such as `[12..25)`. */
export async function* labelledCsv(connection: Connection, run: Run): AsyncGenerator<string> {
  const headers = run.columns.map(({ header, name }) => header || name)
  yield stringify([[...headers, ...addedHeaders(headers, run.gate.name)]], FORMAT)
  const labels = bandsOf(run.gate).map(({ label }) => label)
  const limits = run.gate.bands.map((_, index) => intervalText(bandInterval(run.gate, index)))
  // Both are read whole and in record order; decisions first, since one connection streams one thing at a time.
  const decided = await decisionsOf(connection, run.id)
  for await (const records of writtenRecords(connection, run.tableId, run.columns)) {
    yield stringify(records.map(({ record, texts }) => [...texts, ...added(labels, limits, decided.get(record))]), FORMAT)
  }
}

/** The gate's own columns, numbered where the table already uses their names. */
function addedHeaders(headers: string[], gateName: string): string[] {
  const taken = new Set(headers)
  return [gateName, `${gateName} status`, `${gateName} limits`].map((wanted) => {
    let name = wanted
    for (let number = 2; taken.has(name); number++) name = `${wanted} ${number}`
    taken.add(name)
    return name
  })
}

interface Decided {
  status: number
  band: number | null
}

async function decisionsOf(connection: Connection, runId: number): Promise<Map<number, Decided>> {
  const rows = await rowsOf<Decided & { record: number }>(connection, `select record, status, rule as band from ${runRelation(runId)}`)
  return new Map(rows.map((row) => [row.record, row]))
}

function added(labels: string[], limits: string[], decided: Decided | undefined): [label: string, status: string, limits: string] {
  if (!decided) return ['', 'not in the run', '']
  const { status, band } = decided
  return band === null ? ['', STATUSES[status]!, ''] : [labels[band]!, STATUSES[status]!, limits[band]!]
}
