/** Figures of the few records that a change met, computed within it: whoever looks sees them at once. */
import type { Drawn } from '@dime-gate/contract/drawn'
import { type Column, isComputed, type Table, type TableRecord } from '@dime-gate/contract/table'
import { valueTextAt } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { type Connection, type Database, rowOf, rowsOf, whileReading } from '../database/database'
import { SQL_TYPES } from '../table/column-types'
import { recordsBatches } from '../table/read-column'
import { recordsNow, recordsWithDrawn, recordsWithFigures, valueOf } from '../table/relation'
import { tableItself } from '../table/table-itself'
import { drawnSql, type Readable } from './drawn-sql'
import { figureReader } from './figure-batches'
import { loadNetwork, looksAtItself, type Network, standsOf, tablesBelow } from './network'
import { computable, figureColumns, figureRelation, isFresh } from './stored-figures'

/** Beyond, they are computed anew by a thread, when they are next looked at. */
const MOST = 500

/**
 * @param before the table before the change
 * @param records those that it met
 * @returns the table after it, with its figures where they are known
 */
export async function computeChanged(connection: Connection, before: Table, records: readonly number[]): Promise<Table> {
  const table = (await tableItself(connection, before.id))!
  if (table.rollUp === null && figureColumns(table).length === 0) return table
  const network = await loadNetwork(connection, table)
  const unknown = { ...table, standsOn: tablesBelow(network, table.id) }
  if (records.length > MOST || looksAtItself(network, table) || findsByComputed(table)) return unknown
  const state = network.states.get(table.id)
  // Another expression, another column: then all of them are others.
  if (!isFresh(state, { ...table, version: before.version }, standsOf(network, table.id), network.day)) return unknown
  const { generation } = state!
  const were = await connection.query<Values>(`delete from ${figureRelation(table.id, generation)} where record = any($1) returning *`, [records])
  const are = await writeFigures(connection, network, table, generation, records)
  await connection.query('update figure_state set table_version = $2 where table_id = $1 and generation = $3', [table.id, table.version, generation])
  const blanks = await countBlanksOn(connection, table, were.rows, are)
  return { ...unknown, figures: generation, columns: table.columns.map((column) => ({ ...column, blank: column.blank + (blanks.get(column.id) ?? 0) })) }
}

/** Whether related records are found by what has to be computed first. */
function findsByComputed({ columns }: Table): boolean {
  const computed = new Set(columns.filter(isComputed).map(({ id }) => id))
  return columns.some(({ drawn }) => drawn?.kind === 'related' && drawn.keys.some(({ own }) => computed.has(own)))
}

/** What a record's figures are, by their fields. */
type Values = Record<string, unknown>

/** Computes the figures of some records, and puts them to a generation that has none of them. */
export async function writeFigures(
  connection: Connection,
  network: Network,
  table: Table,
  generation: number,
  records: readonly number[],
): Promise<Values[]> {
  const able = new Set(computable(table).map(({ column }) => column.id))
  const columns = figureColumns(table).filter(({ id, drawn }) => drawn !== null || able.has(id))
  const found = await figuresOfRecords(connection, { ...table, figures: generation }, columns, records, network.day, network)
  const rows = [...found].map(([record, texts]): Values => ({ record, ...Object.fromEntries(columns.map(({ id }, at) => [valueOf(id), texts[at]])) }))
  const fields = ['record integer', ...columns.map(({ id, type }) => `${valueOf(id)} ${SQL_TYPES[type]}`)]
  const names = ['record', ...columns.map(({ id }) => valueOf(id))].join(', ')
  await connection.query(
    `insert into ${figureRelation(table.id, generation)} (${names}) select ${names} from jsonb_to_recordset($1::jsonb) as r (${fields.join(', ')})`,
    [JSON.stringify(rows)],
  )
  return rows
}

/** By record what each figure comes to, in canonical text. */
async function figuresOfRecords(
  connection: Connection,
  table: Table,
  columns: readonly Column[],
  records: readonly number[],
  day: string,
  network: Network | null,
): Promise<Map<number, (string | null)[]>> {
  const labels = new Map([...(network?.labels ?? [])].flatMap(([id, question]) => (question ? [[id, question] as const] : [])))
  const reader = figureReader(table, columns, parseDate(day)!, labels)
  const found = new Map<number, (string | null)[]>()
  const these = `record = any('{${records.join(',')}}')`
  const from = network ? await drawnAnew(connection, network, table, these) : recordsWithDrawn(table)
  for await (const batch of recordsBatches(connection, `${from} where ${these} order by record`, reader.sources, MOST)) {
    const valueAt = reader.read(batch, 0)
    for (let at = 0; at < batch.rows.length; at++)
      found.set(
        batch.rows.whole(at, 0),
        columns.map(({ id }) => valueTextAt(valueAt(id), at)),
      )
  }
  return found
}

/** Some records, with what they draw from other tables, whose own figures are what they would come to. */
async function drawnAnew(connection: Connection, network: Network, table: Table, these: string): Promise<string> {
  const drawn = table.columns.filter(
    (column): column is typeof column & { drawn: Exclude<Drawn, { kind: 'label' }> } =>
      column.drawn !== null && column.drawn.kind !== 'label',
  )
  if (drawn.length === 0) return recordsNow(table.id)
  const readables = new Map<number, Readable>()
  for (const id of tablesBelow(network, table.id)) {
    const below = network.tables.get(id)!
    readables.set(id, {
      table: below,
      from: recordsWithFigures({ ...below, figures: network.states.get(id)?.generation ?? null }),
    })
  }
  const own = { table, from: recordsNow(table.id) }
  const keys = [...new Set(drawn.flatMap((column) => (column.drawn.kind === 'related' ? column.drawn.keys.map((key) => key.own) : [])))]
  const found = await rowsOf<{ values: (string | null)[] }>(
    connection,
    `select array[${keys.map((id) => `${valueOf(id)}::text`).join(', ')}]::text[] as values from ${own.from} where ${these}`,
  )
  const asked = { records: these, keys: new Map(keys.map((id, at) => [id, [...new Set(found.map(({ values }) => values[at]!))]])) }
  const drawing = { own, other: (id: number) => readables.get(id) ?? null, today: parseDate(network.day)!, asked }
  const { joins, values } = drawnSql(drawing, drawn)
  const fields = drawn.map(({ id }) => `, ${values.get(id)!} as ${valueOf(id)}`)
  return `(select records.*${fields.join('')} from ${own.from} ${joins}) as records`
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
      null,
    )
  })
  const places = columns.map(({ id }) => table.columns.findIndex((column) => column.id === id))
  return records.map(({ record, cells }) => ({
    record,
    cells: cells.map((cell, at) => (places.includes(at) ? [found.get(record)?.[places.indexOf(at)] ?? null, null] : cell)),
  }))
}

/** What became blank, less what is no longer, by figure: they need not all be counted for one record. */
async function countBlanksOn(connection: Connection, table: Table, were: readonly Values[], are: readonly Values[]): Promise<Map<number, number>> {
  const more = new Map<number, number>()
  for (const { id } of figureColumns(table)) {
    const blanks = (rows: readonly Values[]) => rows.filter((row) => (row[valueOf(id)] ?? null) === null).length
    const by = blanks(are) - blanks(were)
    if (by === 0) continue
    more.set(id, by)
    await connection.query('update data_column set blank = blank + $2 where id = $1', [id, by])
  }
  return more
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
