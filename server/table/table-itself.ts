/** A table as it is written down, whatever its figures come to. */
import type { Column, Table, TableSummary } from '@dime-gate/contract/table'
import { type Queryable, rowOf, rowsOf } from '../database/database'

const summed = (more = '') => `
  select t.id, t.name, t.version, t.records, t.file_name as "fileName", to_json(t.imported_at) #>> '{}' as "importedAt",
    count(c.id)::int as columns, coalesce(sum(c.unreadable), 0)::int as unreadable${more}
  from data_table t left join data_column c on c.table_id = t.id and c.until is null`
export const SUMMARY = summed()

/** @returns null where there is none */
export async function tableItself(on: Queryable, id: number): Promise<Table | null> {
  const found = await rowOf<TableSummary & Pick<Table, 'sets' | 'rollUp'>>(on, `${summed(', t.sets, t.roll_up as "rollUp"')} where t.id = $1 and t.removed_at is null group by t.id`, [id])
  return found && { ...found, columns: await columnsOf(on, id), figures: null, standsOn: [] }
}

const COLUMNS = `
  select id, header, name, unit, type, full_marks::text as "fullMarks", is_identity as "isIdentity", expected_low as "expectedLow", expected_high as "expectedHigh", blank, unreadable, feel, drawn
  from data_column where table_id = $1`

/** In the order of the file, those that came later behind them. */
async function columnsOf(on: Queryable, tableId: number): Promise<Column[]> {
  return rowsOf<Column>(on, `${COLUMNS} and until is null order by place, id`, [tableId])
}

/** Those that a table had in one of its versions; named as they are now. */
export async function columnsAt(on: Queryable, tableId: number, version: number): Promise<Column[]> {
  return rowsOf<Column>(on, `${COLUMNS} and since <= $2 and (until is null or until > $2) order by place, id`, [tableId, version])
}
