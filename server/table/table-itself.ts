/** A table as it is written down, whatever its figures come to. */
import type { Column, Table } from '@dime-gate/contract/table'
import { type Prepared, type Queryable, rowsOf } from '../database/database'

export const NAMES = `t.id, t.name, t.version, t.records, t.file_name as "fileName", to_json(t.imported_at) #>> '{}' as "importedAt"`

const COLUMN = `
  id, header, name, unit, type, full_marks::text as "fullMarks", is_identity as "isIdentity", expected_low as "expectedLow", expected_high as "expectedHigh", blank, unreadable, feel, drawn`

/** Columns in the order of the file, those that came later behind them. */
const TABLES: Prepared = {
  name: 'tables themselves',
  text: `
    select ${NAMES}, t.sets, t.roll_up as "rollUp", coalesce(c.columns, '[]') as columns
    from data_table t left join lateral (
      select json_agg(one order by place, id) as columns from (select place, ${COLUMN} from data_column where table_id = t.id and until is null) as one) c on true
    where t.id = any($1) and t.removed_at is null`,
}

/** @returns null where there is none */
export async function tableItself(on: Queryable, id: number): Promise<Table | null> {
  return (await tablesThemselves(on, [id]))[0] ?? null
}

/** Those that there are. */
export async function tablesThemselves(on: Queryable, ids: readonly number[]): Promise<Table[]> {
  const found = await rowsOf<Omit<Table, 'unreadable' | 'figures' | 'standsOn'>>(on, TABLES, [ids])
  return found.map((table) => ({ ...table, unreadable: table.columns.reduce((sum, { unreadable }) => sum + unreadable, 0), figures: null, standsOn: [] }))
}

/** Those that a table had in one of its versions; named as they are now. */
export async function columnsAt(on: Queryable, tableId: number, version: number): Promise<Column[]> {
  return rowsOf<Column>(on, `select ${COLUMN} from data_column where table_id = $1 and since <= $2 and (until is null or until > $2) order by place, id`, [tableId, version])
}
