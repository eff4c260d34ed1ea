/** Tables and their columns, as the database knows them. */
import type { Column, Table, TableSummary } from '@dime-gate/contract/table'
import { type Database, isUniqueViolation, type Queryable, rowOf, rowsOf } from '../database/database'
import { currentDay, figureColumns, figureState, isFresh } from '../figure/stored-figures'
import { refusals } from '../http/refusal'

const SUMMARY = `
  select t.id, t.name, t.version, t.records, t.file_name as "fileName", to_json(t.imported_at) #>> '{}' as "importedAt",
    count(c.id)::int as columns, coalesce(sum(c.unreadable), 0)::int as unreadable
  from data_table t left join data_column c on c.table_id = t.id and c.until is null`

export async function listTables(on: Queryable): Promise<TableSummary[]> {
  return rowsOf<TableSummary>(on, `${SUMMARY} where t.removed_at is null group by t.id order by t.id desc`)
}

/** @throws Refusal `not-found` */
export async function findTable(on: Queryable, id: number): Promise<Table> {
  const summary = await rowOf<TableSummary>(on, `${SUMMARY} where t.id = $1 and t.removed_at is null group by t.id`, [id])
  if (!summary) throw refusals.notFound('table')
  const { sets } = (await rowOf<Pick<Table, 'sets'>>(on, 'select sets from data_table where id = $1', [id]))!
  const table = { ...summary, columns: await columnsOf(on, id), sets, figures: null }
  return figureColumns(table).length === 0 ? table : { ...table, figures: await freshGeneration(on, table) }
}

/** By which the figures can be read; null where they are not what they would come to. */
async function freshGeneration(on: Queryable, table: Table): Promise<number | null> {
  const state = await figureState(on, table.id)
  return isFresh(state, table, await currentDay(on)) ? state!.generation : null
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

const COLUMNS = `
  select id, header, name, unit, type, full_marks::text as "fullMarks", is_identity as "isIdentity", expected_low as "expectedLow", expected_high as "expectedHigh", blank, unreadable, feel
  from data_column where table_id = $1`

/** In the order of the file, those that came later behind them. */
export async function columnsOf(on: Queryable, tableId: number): Promise<Column[]> {
  return rowsOf<Column>(on, `${COLUMNS} and until is null order by place, id`, [tableId])
}

/** Those that a table had in one of its versions; named as they are now. */
export async function columnsAt(on: Queryable, tableId: number, version: number): Promise<Column[]> {
  return rowsOf<Column>(on, `${COLUMNS} and since <= $2 and (until is null or until > $2) order by place, id`, [tableId, version])
}
