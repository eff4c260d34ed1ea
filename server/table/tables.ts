/** Tables and their columns, as the database knows them. */
import { isComputed, type Table, type TableSummary } from '@dime-gate/contract/table'
import { type Database, isUniqueViolation, type Queryable, rowsOf } from '../database/database'
import { loadNetwork, standsOf, tablesBelow } from '../figure/network'
import { isFresh } from '../figure/stored-figures'
import { refusals } from '../http/refusal'
import { NAMES, tableItself } from './table-itself'

export async function listTables(on: Queryable): Promise<TableSummary[]> {
  return rowsOf<TableSummary>(
    on,
    `
    select ${NAMES}, count(c.id)::int as columns, coalesce(sum(c.unreadable), 0)::int as unreadable
    from data_table t left join data_column c on c.table_id = t.id and c.until is null
    where t.removed_at is null group by t.id order by t.id desc`,
  )
}

/** @throws Refusal `not-found` */
export async function findTable(on: Queryable, id: number): Promise<Table> {
  const table = await tableItself(on, id)
  if (!table) throw refusals.notFound('table')
  if (table.rollUp === null && !table.columns.some(isComputed)) return table
  const network = await loadNetwork(on, table)
  const state = network.states.get(id)
  const figures = isFresh(state, table, standsOf(network, id), network.day) ? state!.generation : null
  return { ...table, figures, standsOn: tablesBelow(network, id) }
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
