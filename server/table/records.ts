/** Some records of a table, with every value as read and as written. */
import type { Cell, Column, TableRecord } from '@dime-gate/contract/table'
import { type Queryable, rowsOf } from '../database/database'
import { pages } from '../database/pages'
import { relationOf, valueOf, writtenOf } from './relation'

/** In the order asked for; records that the table does not have are left out. */
export async function readRecords(on: Queryable, tableId: number, columns: Column[], records: number[]): Promise<TableRecord[]> {
  const fields = columns.flatMap(({ id }) => [`${valueOf(id)}::text`, writtenOf(id)])
  const rows = await rowsOf<{ record: number; fields: (string | null)[] }>(on, `
    select record, array[${fields.join(', ')}]::text[] as fields from ${relationOf(tableId)}
    join unnest($1::integer[]) with ordinality as wanted (record, place) using (record) order by place`, [records])
  return rows.map(({ record, fields: texts }) => ({ record, cells: columns.map((_, at): Cell => [texts[2 * at]!, texts[2 * at + 1]!]) }))
}

/** So many records of a table are read at a time when all of them are wanted. */
const PAGE = 10_000

/** Every record of a table as the texts that were written, in record order, a page at a time. */
export async function* writtenRecords(on: Queryable, tableId: number, columns: Column[]): AsyncGenerator<{ record: number; texts: string[] }[]> {
  const fields = columns.map(({ id }) => `coalesce(${writtenOf(id)}, ${valueOf(id)}::text)`)
  for await (const rows of pages(on, `select record, ${fields.join(', ')} from ${relationOf(tableId)} where record > $1 order by record`, PAGE)) {
    yield rows.map(([record, ...texts]) => ({ record: Number(record), texts: texts.map((text) => text ?? '') }))
  }
}
