/** Rows of which some values change: the old ones end with this version, and new ones begin. */
import type { Cell, Column } from '@dime-gate/contract/table'
import type { Connection } from '../database/database'
import { SQL_TYPES } from '../table/column-types'
import { relationOf, valueOf } from '../table/relation'
import { type Changing } from './versions'

/** By record, then by column, what stands there from now on. */
export type NewCells = ReadonlyMap<number, ReadonlyMap<number, Cell>>

/** @returns how many records there were of those that are named */
export async function rewriteRows(connection: Connection, { table, given, version }: Changing, cells: NewCells): Promise<number> {
  const changed = new Set([...cells.values()].flatMap((one) => [...one.keys()]))
  const rows = [...cells].map(([record, one]) => ({
    record,
    values: Object.fromEntries([...one].map(([column, [value]]) => [column, value])),
    written: Object.fromEntries([...one].flatMap(([column, [, written]]) => (written === null ? [] : [[column, written]]))),
    columns: [...one.keys()].map(String),
  }))
  const relation = relationOf(table.id)
  const fields = given.map((column) => (changed.has(column.id) ? newValue(column) : `old.${valueOf(column.id)}`))
  const { rowCount } = await connection.query(
    `
    with new as (select * from jsonb_to_recordset($1::jsonb) as r (record int, values jsonb, written jsonb, columns jsonb)),
    old as (update ${relation} t set until = $2 from new where t.record = new.record and t.until is null returning t.*)
    insert into ${relation} (${['record', 'since', 'written', ...given.map(({ id }) => valueOf(id))].join(', ')})
    select record, $2, nullif((coalesce(old.written, '{}') - array(select jsonb_array_elements_text(new.columns))) || new.written, '{}'), ${fields.join(', ')}
    from old join new using (record)`,
    [JSON.stringify(rows), version],
  )
  return rowCount ?? 0
}

function newValue({ id, type }: Column): string {
  return `case when new.values ? '${id}' then (new.values ->> '${id}')::${SQL_TYPES[type]} else old.${valueOf(id)} end`
}
