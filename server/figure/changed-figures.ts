/** Figures of the few records that a change met, computed within it: whoever looks sees them at once. */
import type { Column, Table, TableRecord } from '@dime-gate/contract/table'
import { valueTextAt } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { type Connection, type Database, rowOf, whileReading } from '../database/database'
import { SQL_TYPES } from '../table/column-types'
import { recordsBatches } from '../table/read-column'
import { recordsNow, valueOf } from '../table/relation'
import { findTable } from '../table/tables'
import { figureReader } from './figure-batches'
import { computable, currentDay, figureColumns, figureRelation, figureState, isFresh } from './stored-figures'

/** Beyond, they are computed anew by a thread, when they are next looked at. */
const MOST = 500

/**
 * @param before the table before the change
 * @param records those that it met
 */
export async function computeChanged(connection: Connection, before: Table, records: readonly number[]): Promise<void> {
  if (figureColumns(before).length === 0 || records.length > MOST) return
  const [table, day, state] = [
    await findTable(connection, before.id),
    await currentDay(connection),
    await figureState(connection, before.id),
  ]
  // Another expression, another column: then all of them are others.
  if (!isFresh(state, { ...table, version: before.version }, day)) return
  const columns = computable(table).map(({ column }) => column)
  const relation = figureRelation(table.id, state!.generation)
  const found = await figuresOfRecords(connection, table, columns, records, day)
  const rows = [...found].map(([record, texts]) => ({
    record,
    ...Object.fromEntries(columns.map(({ id }, at) => [valueOf(id), texts[at]])),
  }))
  await connection.query(`delete from ${relation} where record = any($1)`, [records])
  const fields = ['record integer', ...columns.map(({ id, type }) => `${valueOf(id)} ${SQL_TYPES[type]}`)]
  const names = ['record', ...columns.map(({ id }) => valueOf(id))]
  await connection.query(
    `insert into ${relation} (${names.join(', ')}) select ${names.join(', ')} from jsonb_to_recordset($1::jsonb) as r (${fields.join(', ')})`,
    [JSON.stringify(rows)],
  )
  await connection.query('update figure_state set table_version = $2 where table_id = $1 and generation = $3', [
    table.id,
    table.version,
    state!.generation,
  ])
  await countBlanks(connection, table, state!.generation)
}

/** By record what each figure comes to, in canonical text. */
async function figuresOfRecords(
  connection: Connection,
  table: Table,
  columns: readonly Column[],
  records: readonly number[],
  day: string,
): Promise<Map<number, (string | null)[]>> {
  const reader = figureReader(table, columns, parseDate(day)!)
  const found = new Map<number, (string | null)[]>()
  const from = `${recordsNow(table.id)} where record = any('{${records.join(',')}}') order by record`
  for await (const batch of recordsBatches(connection, from, reader.sources, MOST)) {
    const valueAt = reader.read(batch, 0)
    for (let at = 0; at < batch.rows.length; at++)
      found.set(
        batch.rows.whole(at, 0),
        columns.map(({ id }) => valueTextAt(valueAt(id), at)),
      )
  }
  return found
}

/** Records of a page that goes by a day of its own. */
export async function withFiguresOf(
  database: Database,
  table: Table,
  records: readonly TableRecord[],
  day: string,
): Promise<TableRecord[]> {
  const columns = computable(table)
    .filter(({ figure }) => figure.isOfToday)
    .map(({ column }) => column)
  if (columns.length === 0 || records.length === 0) return [...records]
  let found = new Map<number, (string | null)[]>()
  await whileReading(database, async (connection) => {
    found = await figuresOfRecords(
      connection,
      table,
      columns,
      records.map(({ record }) => record),
      day,
    )
  })
  const places = columns.map(({ id }) => table.columns.findIndex((column) => column.id === id))
  return records.map(({ record, cells }) => ({
    record,
    cells: cells.map((cell, at) => (places.includes(at) ? [found.get(record)?.[places.indexOf(at)] ?? null, null] : cell)),
  }))
}

/** Of all figures, as they are in a generation. */
export async function countBlanks(connection: Connection, table: Table, generation: number): Promise<void> {
  const columns = figureColumns(table)
  const counts = columns.map(({ id }) => `count(*) filter (where ${valueOf(id)} is null)::int as b${id}`)
  const found = (await rowOf<Record<string, number>>(
    connection,
    `select ${counts.join(', ')} from ${figureRelation(table.id, generation)}`,
  ))!
  const rows = columns.map(({ id }) => ({ id, blank: found[`b${id}`]! }))
  await connection.query(
    'update data_column c set blank = r.blank from jsonb_to_recordset($1::jsonb) as r (id bigint, blank bigint) where c.id = r.id',
    [JSON.stringify(rows)],
  )
}
