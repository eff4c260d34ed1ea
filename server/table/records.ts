/** Some records of a table, with every value as read and as written. */
import type { Cell, Column, TableRecord } from '@dime-gate/contract/table'
import { type Queryable, rowsOf } from '../database/database'
import { recordsAt, recordsNow, valueOf, writtenOf } from './relation'

/** As they are, or stood in a version. In the order asked for; records that the table does not have are left out. */
export async function readRecords(on: Queryable, tableId: number, columns: Column[], records: number[], version?: number): Promise<TableRecord[]> {
  const fields = columns.flatMap(({ id }) => [`${valueOf(id)}::text`, writtenOf(id)])
  const rows = await rowsOf<{ record: number; fields: (string | null)[] }>(on, `
    select record, array[${fields.join(', ')}]::text[] as fields from ${version === undefined ? recordsNow(tableId) : recordsAt(tableId, version)}
    join unnest($1::integer[]) with ordinality as wanted (record, place) using (record) order by place`, [records])
  return rows.map(({ record, fields: texts }) => ({ record, cells: columns.map((_, at): Cell => [texts[2 * at]!, texts[2 * at + 1]!]) }))
}
