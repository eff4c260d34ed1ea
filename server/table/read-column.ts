/** Columns of a relation, read in batches, laid out as core works on them. */
import { BATCH_RECORDS, type ColumnBatch } from '@dime-gate/contract/column-wire'
import type { Column as TableColumn } from '@dime-gate/contract/table'
import type { Column } from '@dime-gate/core/table/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { ValueKind } from '@dime-gate/core/value/value'
import { type CopiedRows, copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { codesFromCopy } from './codes-from-copy'
import { numbersFromCopy } from './number-from-copy'
import { isUnreadable, valueOf, writtenOf } from './relation'

/** Where a column's values lie, and the texts that could not be read, as SQL; null where there are none. */
export interface ColumnSource {
  kind: ValueKind
  value: string
  unreadable: string | null
}

export function sourceOf({ id, type, unreadable }: Pick<TableColumn, 'id' | 'type' | 'unreadable'>): ColumnSource {
  return { kind: kindOfColumn(type), value: valueOf(id), unreadable: unreadable === 0 ? null : `case when ${isUnreadable(id)} then ${writtenOf(id)} end` }
}

/** Some records of several columns, as the database wrote them. */
export interface RecordsBatch {
  /** The record's number is the first field. */
  rows: CopiedRows
  /** By column its fields. */
  fields: { value: number; unreadable: number | null }[]
}

/** Batches of `size` records, the last one shorter. @param from what they are of, and in which order, as SQL */
export async function* recordsBatches(connection: Connection, from: string, sources: readonly ColumnSource[], size = BATCH_RECORDS): AsyncGenerator<RecordsBatch> {
  const asked = ['record']
  const place = (sql: string | null) => (sql === null ? null : asked.push(sql) - 1)
  const fields = sources.map(({ value, unreadable }) => ({ value: place(value)!, unreadable: place(unreadable) }))
  for await (const rows of copyRows(connection, `select ${asked.join(', ')} from ${from}`, asked.length, size)) yield { rows, fields }
}

export function columnFrom({ rows, fields }: RecordsBatch, at: number, kind: ValueKind): Column {
  const { value, unreadable } = fields[at]!
  return kind === 'number' ? numbersFromCopy(rows, value, unreadable) : codesFromCopy(kind, rows, value, unreadable)
}

/** One column, as it is sent. */
export async function* columnBatches(connection: Connection, relation: string, source: ColumnSource): AsyncGenerator<ColumnBatch> {
  for await (const batch of recordsBatches(connection, `${relation} order by record`, [source])) yield { records: recordsOf(batch), column: columnFrom(batch, 0, source.kind) }
}

export function recordsOf({ rows }: RecordsBatch): Int32Array {
  const records = new Int32Array(rows.length)
  for (let row = 0; row < rows.length; row++) records[row] = rows.whole(row, 0)
  return records
}
