/** A table of its own with the same records: what becomes of one is nothing to the other. */
import { drawnInCopy } from '@dime-gate/contract/drawn'
import { type Column, isComputed, type SetOfColumns, type Table } from '@dime-gate/contract/table'
import { copyName } from '../copy-name'
import { type Database, inTransaction, rowOf, rowsOf } from '../database/database'
import { recordsWithDrawn, relationOf, valueOf } from './relation'
import { createStored, keyStored } from './stored'
import { findTable, listTables } from './tables'

/**
 * Gates, bindings and runs stay with the first: labels that stand in it as columns become values like any other.
 * @param table with its figures as they are now. @throws Refusal `not-found`
 */
export async function copyTable(database: Database, { id, figures }: Pick<Table, 'id' | 'figures'>): Promise<Table> {
  return inTransaction(database, async (connection) => {
    const { name, columns: all, sets, rollUp } = await findTable(connection, id)
    const isStored = (column: Column) => !isComputed(column) || column.drawn?.kind === 'label'
    const columns = all.filter(isStored)
    const copy = (await rowOf<{ id: number }>(connection, `
      insert into data_table (name, version, records, file_name, file_format, imported_at)
      select $2, 1, records, file_name, file_format, imported_at from data_table where id = $1 returning id`, [id, copyName(name, (await listTables(connection)).map((one) => one.name))]))!
    const made = (await rowsOf<{ id: number }>(connection, `
      insert into data_column (table_id, place, header, name, unit, type, full_marks, is_identity, expected_low, expected_high, blank, unreadable, feel)
      select $2, place, header, name, unit, type, full_marks, is_identity, expected_low, expected_high, blank, unreadable, feel from data_column where table_id = $1 and until is null order by place, id returning id`, [id, copy.id]))
    const newIds = new Map(all.map((column, at) => [column.id, made[at]!.id]))
    const own = (column: number) => newIds.get(column) ?? column
    for (const { id: column, drawn } of all) {
      if (drawn && drawn.kind !== 'label') await connection.query('update data_column set drawn = $2 where id = $1', [own(column), drawnInCopy(drawn, id, copy.id, own)])
    }
    const chosen = sets.map((set): SetOfColumns => (set.by.kind === 'columns' ? { ...set, by: { kind: 'columns', columns: set.by.columns.flatMap((column) => newIds.get(column) ?? []) } } : set))
    const groups = rollUp && { ...rollUp, by: rollUp.by.map((one) => ({ ...one, own: own(one.own) })) }
    await connection.query('update data_table set sets = $2, roll_up = $3 where id = $1', [copy.id, JSON.stringify(chosen), groups])
    // Texts as written are kept by column id, and the columns have new ones.
    const renamed = columns.map((column) => `('${column.id}', '${own(column.id)}')`).join(', ')
    const written = `(select jsonb_object_agg(own, text) from jsonb_each(written) as w (id, text) join (values ${renamed}) as c (id, own) using (id))`
    const target = await createStored(connection, copy.id, columns.map(({ id: column, type }) => ({ id: own(column), type })))
    await connection.query(`
      insert into ${relationOf(copy.id)} (record, since, written, ${columns.map((column) => valueOf(own(column.id))).join(', ')})
      select record, 1, ${written}, ${columns.map((column) => valueOf(column.id)).join(', ')} from ${recordsWithDrawn({ id, columns: columns.filter(({ drawn }) => drawn !== null), figures })} order by record`)
    await keyStored(connection, target)
    return findTable(connection, copy.id)
  })
}
