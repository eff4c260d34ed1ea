/** A table of its own with the same records: what becomes of one is nothing to the other. */
import { isComputed, type SetOfColumns, type Table } from '@dime-gate/contract/table'
import { copyName } from '../copy-name'
import { type Database, inTransaction, rowOf, rowsOf } from '../database/database'
import { recordsNow, relationOf, valueOf } from './relation'
import { createStored, keyStored } from './stored'
import { findTable, listTables } from './tables'

/** Gates, bindings and runs stay with the first. @throws Refusal `not-found` */
export async function copyTable(database: Database, id: number): Promise<Table> {
  return inTransaction(database, async (connection) => {
    const { name, columns: all, sets } = await findTable(connection, id)
    const columns = all.filter((column) => !isComputed(column))
    const copy = (await rowOf<{ id: number }>(connection, `
      insert into data_table (name, version, records, file_name, file_format, imported_at)
      select $2, 1, records, file_name, file_format, imported_at from data_table where id = $1 returning id`, [id, copyName(name, (await listTables(connection)).map((one) => one.name))]))!
    const made = (await rowsOf<{ id: number; feel: string | null }>(connection, `
      insert into data_column (table_id, place, header, name, unit, type, full_marks, is_identity, expected_low, expected_high, blank, unreadable, feel)
      select $2, place, header, name, unit, type, full_marks, is_identity, expected_low, expected_high, blank, unreadable, feel from data_column where table_id = $1 and until is null order by place, id returning id, feel`, [id, copy.id]))
    const newIds = new Map(all.map((column, at) => [column.id, made[at]!.id]))
    const ids = made.flatMap((row) => (row.feel === null ? [row.id] : []))
    const chosen = sets.map((set): SetOfColumns => (set.by.kind === 'columns' ? { ...set, by: { kind: 'columns', columns: set.by.columns.flatMap((column) => newIds.get(column) ?? []) } } : set))
    await connection.query('update data_table set sets = $2 where id = $1', [copy.id, JSON.stringify(chosen)])
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
