/** Tables and their columns, as the database knows them. */
import type { Column, Table, TableSummary } from '@dime-gate/contract/table'
import { type Database, isUniqueViolation, type Queryable, rowOf, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'

const SUMMARY = `
  select t.id, t.name, t.version, t.records, t.file_name as "fileName", to_json(t.imported_at) #>> '{}' as "importedAt",
    count(c.id)::int as columns, coalesce(sum(c.unreadable), 0)::int as unreadable
  from data_table t left join data_column c on c.table_id = t.id`

export async function listTables(on: Queryable): Promise<TableSummary[]> {
  return rowsOf<TableSummary>(on, `${SUMMARY} where t.removed_at is null group by t.id order by t.id desc`)
}

/** @throws Refusal `not-found` */
export async function findTable(on: Queryable, id: number): Promise<Table> {
  const summary = await rowOf<TableSummary>(on, `${SUMMARY} where t.id = $1 and t.removed_at is null group by t.id`, [id])
  if (!summary) throw refusals.notFound('table')
  return { ...summary, columns: await columnsOf(on, id) }
}

/** @throws Refusal `not-found`, `name-taken` */
export async function renameTable(database: Database, id: number, name: string): Promise<Table> {
  try {
    await database.query('update data_table set name = $2 where id = $1 and removed_at is null', [id, name])
  } catch (error) {
    if (isUniqueViolation(error, 'data_table_name')) throw refusals.nameTaken('table', name)
    throw error
  }
  return findTable(database, id)
}

/** In the order of the file. */
export async function columnsOf(on: Queryable, tableId: number): Promise<Column[]> {
  return rowsOf<Column>(on, 'select id, header, name, unit, type, full_marks::text as "fullMarks", is_identity as "isIdentity", blank, unreadable from data_column where table_id = $1 order by place', [tableId])
}
