/** Runs: made once, read ever after. */
import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import { from as copyFrom } from 'pg-copy-streams'
import { BATCH_RECORDS, type RunBatch } from '@dime-gate/contract/column-wire'
import type { Run, RunRequest, RunSummary } from '@dime-gate/contract/run'
import { NONE, STATUSES } from '@dime-gate/core/rule/rules'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { type ScaleCounts, scaleCounts, scaleDecider } from '@dime-gate/core/run/scale-result'
import { addCounts, noCounts } from '@dime-gate/core/run/add-counts'
import { hasBit } from '@dime-gate/core/table/bitmap'
import { decimalAt } from '@dime-gate/core/table/number-column'
import { type Connection, type Database, inTransaction, type Queryable, rowOf, rowsOf } from '../database/database'
import { pages } from '../database/pages'
import { boundFor, findBinding } from '../gate/bindings'
import { findGate, findVersion } from '../gate/gates'
import { conflict, notFound } from '../http/refusal'
import { COPY_NULL, toCopyText } from '../table/copy-text'
import { columnBatch, columnBatches } from '../table/read-column'
import { columnsOf, findTable } from '../table/tables'

const SUMMARY = `
  select r.id, r.number, r.gate_id as "gateId", v.document ->> 'name' as "gateName", r.gate_version as "gateVersion",
    r.table_id as "tableId", t.name as "tableName", r.table_version as "tableVersion", r.as_of as "asOf",
    to_json(r.kept_at) #>> '{}' as "keptAt", r.counts, v.document as gate
  from run r join data_table t on t.id = r.table_id
  join gate_version v on v.gate_id = r.gate_id and v.number = r.gate_version`

type Summarised = Omit<RunSummary, 'bands'> & { gate: ScaleGate }

export async function listRuns(on: Queryable): Promise<RunSummary[]> {
  const rows = await rowsOf<Summarised>(on, `${SUMMARY} where r.removed_at is null order by r.id desc`)
  return rows.map(({ gate, ...run }) => ({ ...run, bands: bandsOf(gate) }))
}

/** @throws Refusal `not-found` */
export async function findRun(on: Queryable, id: number): Promise<Run> {
  const run = await rowOf<Summarised & Pick<Run, 'binding'>>(on, SUMMARY.replace('r.counts', 'r.counts, r.binding') + ' where r.id = $1 and r.removed_at is null', [id])
  if (!run) throw notFound('run')
  return { ...run, bands: bandsOf(run.gate), columns: await columnsOf(on, run.tableId) }
}

/**
 * Applies a set version to a table as it stands now, by the binding that was seen, and keeps what came of it.
 * @throws Refusal `stale` where the binding has moved since, `not-bound` where an input of the version has no column
 */
export async function keepRun(database: Database, { gateId, version, tableId, binding: seen, asOf }: RunRequest): Promise<Run> {
  return inTransaction(database, async (connection) => {
    await connection.query('set transaction isolation level repeatable read')
    await findGate(connection, gateId)
    const gate = await findVersion(connection, gateId, version)
    const table = await findTable(connection, tableId)
    const bound = await findBinding(connection, gateId, tableId)
    if (bound.version !== seen) throw conflict('stale', `What “${gate.name}” looks at in “${table.name}” was changed since this page last saw it. Look at it again, then keep the run.`)
    const binding = boundFor(gate, bound.inputs, table.name)
    const { id } = (await rowOf<{ id: number }>(connection, `
      insert into run (gate_id, number, gate_version, table_id, table_version, binding, as_of, counts)
      select $1, coalesce((select max(number) from run where gate_id = $1), 0) + 1, $2, $3, $4, $5, coalesce($6, as_of), '{}' from workspace
      returning id`, [gateId, version, tableId, table.version, binding, asOf ?? null]))!
    const counts = await decideAndStore(connection, id, gate, tableId, binding[gate.on]!.column)
    await connection.query('update run set counts = $2 where id = $1', [id, counts])
    return findRun(connection, id)
  })
}

async function decideAndStore(connection: Connection, runId: number, gate: ScaleGate, tableId: number, columnId: number): Promise<ScaleCounts> {
  // One connection reads or writes at a time, so the column is read in whole before decisions are written.
  const batches = []
  for await (const batch of columnBatches(connection, tableId, columnId)) batches.push(batch)
  const copy = connection.query(copyFrom('copy run_record (run_id, record, status, band, cut, value, unreadable) from stdin'))
  const copied = finished(copy)
  copied.catch(() => undefined)
  let total = noCounts(gate)
  for (const { records, column } of batches) {
    const result = scaleDecider(column)(gate)
    total = addCounts(total, scaleCounts(column, result))
    let text = ''
    for (let at = 0; at < column.length; at++) {
      const { status, rule } = result.decisions.at(at)
      const cut = result.onCut.findIndex((places) => hasBit(places, at))
      const unreadable = column.unreadable.get(at)
      text += `${runId}\t${records[at]}\t${STATUSES.indexOf(status)}\t${place(rule)}\t${place(cut)}\t`
      text += `${decimalAt(column, at) ?? COPY_NULL}\t${unreadable === undefined ? COPY_NULL : toCopyText(unreadable)}\n`
    }
    if (!copy.write(text)) await Promise.race([once(copy, 'drain'), copied])
  }
  copy.end()
  await copied
  return total
}

function place(index: number): string {
  return index === NONE ? COPY_NULL : String(index)
}

/** What a run decided, in record order. */
export async function* runBatches(on: Queryable, runId: number): AsyncGenerator<RunBatch> {
  const sql = `
    select record, value, unreadable, status, coalesce(band, ${NONE}), coalesce(cut, ${NONE})
    from run_record where run_id = ${runId} and record > $1 order by record`
  for await (const rows of pages(on, sql, BATCH_RECORDS)) {
    const numbers = (field: number) => rows.map((row) => Number(row[field]))
    yield { ...columnBatch(rows), status: Uint8Array.from(numbers(3)), band: Int16Array.from(numbers(4)), cut: Int16Array.from(numbers(5)) }
  }
}
