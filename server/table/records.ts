/** Some records of a table, with every value as read and as written. */
import type { Cell, Column, Table, TableRecord } from '@dime-gate/contract/table'
import { type Queryable, rowsOf } from '../database/database'
import { recordsAt, recordsWithFigures, valueOf, writtenOf } from './relation'

/** As they are, with figures as far as they are computed. In the order asked for; records that the table does not have are left out. */
export function readRecords(on: Queryable, table: Pick<Table, 'id' | 'columns' | 'figures'>, columns: readonly Column[], records: number[]): Promise<TableRecord[]> {
  return readFrom(on, recordsWithFigures(table), columns, records)
}

/** As they stood in a version. */
export function readRecordsAt(on: Queryable, tableId: number, version: number, columns: readonly Column[], records: number[]): Promise<TableRecord[]> {
  return readFrom(on, recordsAt(tableId, version), columns, records)
}

/** @param from as SQL, with all these columns */
export async function readFrom(on: Queryable, from: string, columns: readonly Column[], records: number[]): Promise<TableRecord[]> {
  const fields = columns.flatMap(({ id }) => [`${valueOf(id)}::text`, writtenOf(id)])
  const rows = await rowsOf<{ record: number; fields: (string | null)[] }>(on, `
    select record, array[${fields.join(', ')}]::text[] as fields from ${from}
    join unnest($1::integer[]) with ordinality as wanted (record, place) using (record) order by place`, [records])
  return rows.map(({ record, fields: texts }) => ({ record, cells: columns.map((_, at): Cell => [texts[2 * at]!, texts[2 * at + 1]!]) }))
}
