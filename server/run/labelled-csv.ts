/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import { stringify } from 'csv-stringify/sync'
import { bandInterval } from '@dime-gate/core/gate/form'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { intervalText } from '@dime-gate/core/gate/interval'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { Run } from '@dime-gate/contract/run'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { relationOf, writtenText } from '../table/relation'
import { runRelation } from './run-relation'

/** RFC 4180 clause 2.1: lines end in CR LF. */
const FORMAT = { record_delimiter: '\r\n' } as const

/** Text of the file, piece by piece. Band limits are FEEL unary tests, such as `[12..25)`. */
export async function* labelledCsv(connection: Connection, run: Run): AsyncGenerator<string> {
  const headers = run.columns.map(({ header, name }) => header || name)
  yield stringify([[...headers, ...addedHeaders(headers, run.gate.name)]], FORMAT)
  const labels = bandsOf(run.gate).map(({ label }) => label)
  const limits = run.gate.bands.map((_, index) => intervalText(bandInterval(run.gate, index)))
  const fields = run.columns.map(({ id }) => writtenText(id))
  const sql = `select ${['status', 'rule', ...fields].join(', ')} from ${relationOf(run.tableId)} left join ${runRelation(run.id)} using (record) order by record`
  for await (const [status, rule, ...columns] of copyRows(connection, sql, fields.length + 2, AT_ONCE)) {
    yield stringify(status!.map((one, at) => [...columns.map((texts) => texts[at] ?? ''), ...added(labels, limits, one, rule![at]!)]), FORMAT)
  }
}

/** Records that are written at a time. */
const AT_ONCE = 10_000

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

/** @param status @param rule null where the record is not in the run, or no rule took it */
function added(labels: string[], limits: string[], status: string | null, rule: string | null): [label: string, status: string, limits: string] {
  if (status === null) return ['', 'not in the run', '']
  const name = STATUSES[Number(status)]!
  return rule === null ? ['', name, ''] : [labels[Number(rule)]!, name, limits[Number(rule)]!]
}
