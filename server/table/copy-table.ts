/** A table of its own with the same records: what becomes of one is nothing to the other. */
import type { Table } from '@dime-gate/contract/table'
import { copyName } from '../copy-name'
import { type Database, inTransaction, rowOf, rowsOf } from '../database/database'
import { recordsNow, relationOf, valueOf } from './relation'
import { createStored, keyStored } from './stored'
import { findTable, listTables } from './tables'

/** Gates, bindings and runs stay with the first. @throws Refusal `not-found` */
export async function copyTable(database: Database, id: number): Promise<Table> {
  return inTransaction(database, async (connection) => {
    const { name, columns } = await findTable(connection, id)
    const copy = (await rowOf<{ id: number }>(connection, `
      insert into data_table (name, version, records, file_name, file_format, imported_at)
      select $2, 1, records, file_name, file_format, imported_at from data_table where id = $1 returning id`, [id, copyName(name, (await listTables(connection)).map((one) => one.name))]))!
    const ids = (await rowsOf<{ id: number }>(connection, `
      insert into data_column (table_id, place, header, name, unit, type, full_marks, is_identity, expected_low, expected_high, blank, unreadable)
      select $2, place, header, name, unit, type, full_marks, is_identity, expected_low, expected_high, blank, unreadable from data_column where table_id = $1 and until is null order by place, id returning id`, [id, copy.id])).map((row) => row.id)
    // Texts as written are kept by column id, and the columns have new ones.
    const renamed = columns.map((column, at) => `('${column.id}', '${ids[at]!}')`).join(', ')
    const written = `(select jsonb_object_agg(own, text) from jsonb_each(written) as w (id, text) join (values ${renamed}) as c (id, own) using (id))`
    const target = await createStored(connection, copy.id, columns.map(({ type }, at) => ({ id: ids[at]!, type })))
    await connection.query(`
      insert into ${relationOf(copy.id)} (record, since, written, ${ids.map(valueOf).join(', ')})
      select record, 1, ${written}, ${columns.map((column) => valueOf(column.id)).join(', ')} from ${recordsNow(id)} order by record`)
    await keyStored(connection, target)
    return findTable(connection, copy.id)
  })
}
