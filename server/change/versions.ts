/** Versions of a table: each change makes a new one, one change after the other. */
import type { ChangeKind, TableChangeMade } from '@dime-gate/contract/change'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { type Connection, type Queryable, rowOf, rowsOf } from '../database/database'
import { findTable } from '../table/tables'

/** Where changes are told, with the table's id and its version. */
export const CHANNEL = 'table_change'

/** A table that is being changed; nobody else changes it before this is done. */
export interface Changing {
  table: Table
  /** Those of its columns whose values are given, and not computed. */
  given: Column[]
  /** The version that the change makes. */
  version: number
  /** Under which it is asked for, where whoever asks wants it made once, however often it is asked for. */
  key: string | null
}

/** @throws Refusal `not-found` */
export async function beginChange(connection: Connection, tableId: number, key: string | null = null): Promise<Changing> {
  await connection.query('select from data_table where id = $1 for update', [tableId])
  const table = await findTable(connection, tableId)
  return { table, given: table.columns.filter((column) => !isComputed(column)), version: table.version + 1, key }
}

/** The change that was made under this key before; null where there is none. */
export async function madeBefore(connection: Connection, { table, key }: Changing): Promise<TableChangeMade | null> {
  return key === null ? null : ((await changesOf(connection, table.id, 'and key = $2', [key]))[0] ?? null)
}

/** @param columns those that it met, by their names */
export async function endChange(
  connection: Connection,
  { table, version, key }: Changing,
  kind: ChangeKind,
  met: { records: number; columns: readonly string[]; undoes?: number; detail?: object },
): Promise<TableChangeMade> {
  const detail = { ...met.detail, records: met.records, columns: met.columns }
  // Told once it is done: what is told in a transaction is told at its end.
  const made = await rowOf<TableChangeMade>(
    connection,
    `
    with now as (update data_table set version = $2 where id = $1),
      noted as (insert into table_change (table_id, version, kind, detail, undoes, key) values ($1, $2, $3, $4, $5, $6) returning *)
    select ${MADE} from noted, pg_notify($7, $8)`,
    [table.id, version, kind, detail, met.undoes ?? null, key, CHANNEL, `${table.id} ${version}`],
  )
  return made!
}

const MADE = `version, kind, (detail ->> 'records')::int as records, detail -> 'columns' as columns, undoes, to_json(changed_at) #>> '{}' as "changedAt"`

/** The latest first. */
export async function changesOf(on: Queryable, tableId: number, where = '', values: unknown[] = []): Promise<TableChangeMade[]> {
  return rowsOf<TableChangeMade>(
    on,
    `
    select ${MADE}
    from table_change where table_id = $1 ${where} order by version desc limit 1000`,
    [tableId, ...values],
  )
}

/** What was noted of a change beyond its counts; null where there was none. */
export async function detailOf(
  on: Queryable,
  tableId: number,
  version: number,
): Promise<{ kind: ChangeKind; detail: Record<string, unknown> } | null> {
  return rowOf(on, 'select kind, detail from table_change where table_id = $1 and version = $2', [tableId, version])
}
