/** Some records of a table, with every value as read and as written. */
import { to as copyTo } from 'pg-copy-streams'
import type { Cell, Column, TableRecord } from '@dime-gate/contract/table'
import { type Connection, type Queryable, rowsOf } from '../database/database'
import { copyLines, fromCopyText } from './copy-text'
import { relationOf, valueOf, writtenOf } from './relation'

/** In the order asked for; records that the table does not have are left out. */
export async function readRecords(on: Queryable, tableId: number, columns: Column[], records: number[]): Promise<TableRecord[]> {
  const fields = columns.flatMap(({ id }) => [`${valueOf(id)}::text`, writtenOf(id)])
  const rows = await rowsOf<{ record: number; fields: (string | null)[] }>(on, `
    select record, array[${fields.join(', ')}]::text[] as fields from ${relationOf(tableId)}
    join unnest($1::integer[]) with ordinality as wanted (record, place) using (record) order by place`, [records])
  return rows.map(({ record, fields: texts }) => ({ record, cells: columns.map((_, at): Cell => [texts[2 * at]!, texts[2 * at + 1]!]) }))
}

/** Every record of a table as the texts that were written, in record order, many at a time. */
export async function* writtenRecords(connection: Connection, tableId: number, columns: Column[]): AsyncGenerator<{ record: number; texts: string[] }[]> {
  const fields = columns.map(({ id }) => `coalesce(${writtenOf(id)}, ${valueOf(id)}::text)`)
  const sql = `copy (select record, ${fields.join(', ')} from ${relationOf(tableId)} order by record) to stdout`
  for await (const lines of copyLines(connection.query(copyTo(sql)))) {
    yield lines.map(([record, ...texts]) => ({ record: Number(record), texts: texts.map((text) => fromCopyText(text) ?? '') }))
  }
}
