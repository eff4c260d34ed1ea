/** How many records a table has, and how many of its values are blank or cannot be read, counted anew. */
import type { Column } from '@dime-gate/contract/table'
import { type Connection, rowOf } from '../database/database'
import { MOST_FIELDS } from '../database/most-fields'
import { isUnreadable, recordsNow, valueOf } from '../table/relation'

/** Columns that are counted in one question, each in two ways, beside all records. */
const AT_ONCE = MOST_FIELDS / 2 - 1

/** @param columns those whose values may have changed */
export async function recount(connection: Connection, tableId: number, columns: readonly Pick<Column, 'id'>[]): Promise<void> {
  const found: Record<string, number> = {}
  for (let at = 0; at === 0 || at < columns.length; at += AT_ONCE) {
    const counts = columns
      .slice(at, at + AT_ONCE)
      .flatMap(({ id }) => [
        `(count(*) - count(${valueOf(id)}))::int as missing${id}`,
        `count(*) filter (where ${isUnreadable(id)})::int as unreadable${id}`,
      ])
    Object.assign(found, await rowOf(connection, `select ${['count(*)::int as records', ...counts].join(', ')} from ${recordsNow(tableId)}`))
  }
  await connection.query('update data_table set records = $2 where id = $1', [tableId, found.records])
  const rows = columns.map(({ id }) => ({
    id,
    unreadable: found[`unreadable${id}`]!,
    blank: found[`missing${id}`]! - found[`unreadable${id}`]!,
  }))
  await connection.query(
    `
    update data_column c set blank = r.blank, unreadable = r.unreadable
    from jsonb_to_recordset($1::jsonb) as r (id bigint, blank bigint, unreadable bigint) where c.id = r.id`,
    [JSON.stringify(rows)],
  )
}
