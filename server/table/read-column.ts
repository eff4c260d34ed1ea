/** Columns of a relation, read in batches, laid out as core works on them. */
import { BATCH_RECORDS, type ColumnBatch } from '@dime-gate/contract/column-wire'
import type { Column as TableColumn } from '@dime-gate/contract/table'
import type { Cell } from '@dime-gate/core/table/cells'
import { columnOf } from '@dime-gate/core/table/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { ValueKind } from '@dime-gate/core/value/value'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { isUnreadable, relationOf, valueOf, writtenOf } from './relation'

/** Where a column's values lie, and the texts that could not be read, as SQL. */
export interface ColumnSource {
  kind: ValueKind
  value: string
  unreadable: string
}

export function sourceOf({ id, type }: Pick<TableColumn, 'id' | 'type'>): ColumnSource {
  return { kind: kindOfColumn(type), value: valueOf(id), unreadable: `case when ${isUnreadable(id)} then ${writtenOf(id)} end` }
}

/** Some records of several columns, as read and as texts. */
export interface RecordsBatch {
  records: readonly string[]
  /** By column: the values in canonical text, and the texts that could not be read; null where there is none. */
  texts: { values: readonly (string | null)[]; unreadable: readonly (string | null)[] }[]
}

/** Batches of BATCH_RECORDS records, the last one shorter, in record order. */
export async function* recordsBatches(connection: Connection, relation: string, sources: readonly ColumnSource[], size = BATCH_RECORDS): AsyncGenerator<RecordsBatch> {
  const fields = ['record', ...sources.flatMap(({ value, unreadable }) => [value, unreadable])]
  for await (const [records, ...rest] of copyRows(connection, `select ${fields.join(', ')} from ${relation} order by record`, fields.length, size)) {
    yield { records: records as string[], texts: sources.map((_, at) => ({ values: rest[2 * at]!, unreadable: rest[2 * at + 1]! })) }
  }
}

export function columnFrom({ kind }: Pick<ColumnSource, 'kind'>, { values, unreadable }: RecordsBatch['texts'][number]) {
  return columnOf(kind, values.map((value, at): Cell => (unreadable[at] === null ? canonical(value, kind) : { unreadable: unreadable[at]! })))
}

/** PostgreSQL writes truth in one letter. */
function canonical(value: string | null, kind: ValueKind): string | null {
  return kind === 'boolean' && value !== null ? (value === 't' ? 'true' : 'false') : value
}

/** One column, as it is sent. */
export async function* columnBatches(connection: Connection, relation: string, source: ColumnSource): AsyncGenerator<ColumnBatch> {
  for await (const { records, texts } of recordsBatches(connection, relation, [source])) yield { records: Int32Array.from(records, Number), column: columnFrom(source, texts[0]!) }
}

export function columnBatchesOf(connection: Connection, tableId: number, column: Pick<TableColumn, 'id' | 'type'>): AsyncGenerator<ColumnBatch> {
  return columnBatches(connection, relationOf(tableId), sourceOf(column))
}
