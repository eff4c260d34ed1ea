/**
 * How a table's records lie in the database. One row of it has room for about 8 kB beside long texts, so where there are very many
 * columns, some of them at a time are one value of a composite type, which the database keeps elsewhere where a row becomes too long.
 * Then the relation of the table is a view, which shows each column by itself and can be written to like any other.
 */
import type { ColumnType } from '@dime-gate/core/value/read-cell'
import { type Connection, rowsOf } from '../database/database'
import { SQL_TYPES } from './column-types'
import { relationOf, valueOf } from './relation'

export interface StoredColumn {
  id: number
  type: ColumnType
}

/** So many columns fit into a row, whatever stands in them. */
const MOST_IN_ROW = 240
/** Columns that are one value: few, since each is found behind those before it. */
const IN_PART = 32

const OWN_FIELDS = 'record integer not null, since integer not null default 1, until integer, written jsonb'

/** Into what records are copied, in the binary format: their numbers, their values, and what is kept as written. */
export interface CopyTarget {
  relation: string
  fields: string[]
  /** Columns that are one value each; null where each is a field by itself. */
  inPart: number | null
}

/** Whether so many columns need parts. */
function isWide(columns: number): boolean {
  return columns > MOST_IN_ROW
}

/** A relation for the records of a table, without its key, which is quicker made of all of them. */
export async function createStored(connection: Connection, tableId: number, columns: readonly StoredColumn[]): Promise<CopyTarget> {
  if (!isWide(columns.length)) {
    const fields = columns.map(({ id, type }) => `${valueOf(id)} ${SQL_TYPES[type]}`)
    await connection.query(`create table ${relationOf(tableId)} (${[OWN_FIELDS, ...fields].join(', ')})`)
    return { relation: relationOf(tableId), fields: ['record', ...columns.map(({ id }) => valueOf(id)), 'written'], inPart: null }
  }
  const parts = inParts(columns)
  for (const [at, part] of parts.entries()) await createPart(connection, tableId, at, part)
  const fields = parts.map((_, at) => `${partField(at)} ${partType(tableId, at)}`)
  await connection.query(`create table ${wideOf(tableId)} (${[OWN_FIELDS, ...fields].join(', ')})`)
  await layView(connection, tableId)
  return { relation: wideOf(tableId), fields: ['record', ...parts.map((_, at) => partField(at)), 'written'], inPart: IN_PART }
}

/** @param target as `createStored` gave it */
export async function keyStored(connection: Connection, { relation }: Pick<CopyTarget, 'relation'>): Promise<void> {
  await connection.query(`alter table ${relation} add primary key (record, since)`)
  // What was changed is found by its versions: the first of them is most of a table, and needs none.
  await connection.query(`create index on ${relation} (since) where since > 1`)
  await connection.query(`create index on ${relation} (until) where until is not null`)
}

/** Characters of a text that an index holds: a row of one has no room for long ones. */
const IN_INDEX = 200

/** What an index holds of a text, as SQL. */
export const keptInIndex = (text: string) => `left(${text}, ${IN_INDEX})`

/** Records are found by a column's values from now on without a look at all of them; in a table with parts they are not. */
export async function indexStored(connection: Connection, tableId: number, { id, type }: StoredColumn): Promise<void> {
  if ((await partsOf(connection, tableId)).length > 0) return
  const of = type === 'text' ? keptInIndex(valueOf(id)) : valueOf(id)
  await connection.query(`create index if not exists ${relationOf(tableId).replace('records.', '')}_${valueOf(id)} on ${relationOf(tableId)} (${of})`)
}

export async function addStored(connection: Connection, tableId: number, column: StoredColumn): Promise<void> {
  const field = `${valueOf(column.id)} ${SQL_TYPES[column.type]}`
  let parts = await partsOf(connection, tableId)
  if (parts.length === 0) {
    const held = await storedColumns(connection, tableId)
    if (!isWide(held.length + 1)) {
      await connection.query(`alter table ${relationOf(tableId)} add column ${field}`)
      return
    }
    await widen(connection, tableId, held)
    parts = await partsOf(connection, tableId)
  }
  await connection.query(`drop view ${relationOf(tableId)}`)
  const last = parts.length - 1
  if (parts[last]!.length < IN_PART) await connection.query(`alter type ${partType(tableId, last)} add attribute ${field}`)
  else {
    await createPart(connection, tableId, last + 1, [column])
    await connection.query(`alter table ${wideOf(tableId)} add column ${partField(last + 1)} ${partType(tableId, last + 1)}`)
  }
  await layView(connection, tableId)
}

/** The column is of this type from now on, and has no value yet. */
export async function retypeStored(connection: Connection, tableId: number, { id, type }: StoredColumn): Promise<void> {
  const part = (await partsOf(connection, tableId)).findIndex((columns) => columns.includes(valueOf(id)))
  const steps = (what: string) => `drop ${what} ${valueOf(id)}, add ${what} ${valueOf(id)} ${SQL_TYPES[type]}`
  if (part < 0) {
    await connection.query(`alter table ${relationOf(tableId)} ${steps('column')}`)
    return
  }
  await connection.query(`drop view ${relationOf(tableId)}`)
  await connection.query(`alter type ${partType(tableId, part)} ${steps('attribute')}`)
  await layView(connection, tableId)
}

export async function dropStored(connection: Connection, tableId: number): Promise<void> {
  const figures = await rowsOf<{ name: string }>(
    connection,
    "select relname as name from pg_class where relnamespace = 'records'::regnamespace and relkind = 'r' and relname ~ $1",
    [`^g${tableId}_\\d+$`],
  )
  for (const { name } of figures) await connection.query(`drop table records.${name}`)
  const parts = await partsOf(connection, tableId)
  if (parts.length === 0) {
    await connection.query(`drop table if exists ${relationOf(tableId)}`)
    return
  }
  await connection.query(`drop view ${relationOf(tableId)}; drop function ${relationOf(tableId)}_write; drop table ${wideOf(tableId)}`)
  for (const at of parts.keys()) await connection.query(`drop type ${partType(tableId, at)}`)
}

function inParts<One>(columns: readonly One[]): One[][] {
  return Array.from({ length: Math.ceil(columns.length / IN_PART) }, (_, at) => columns.slice(at * IN_PART, (at + 1) * IN_PART))
}

const wideOf = (tableId: number) => relationOf(tableId).replace('.t', '.w')
const partField = (at: number) => `p${at + 1}`
const partType = (tableId: number, at: number) => `${relationOf(tableId)}_p${at + 1}`

async function createPart(connection: Connection, tableId: number, at: number, columns: readonly StoredColumn[]): Promise<void> {
  await connection.query(
    `create type ${partType(tableId, at)} as (${columns.map(({ id, type }) => `${valueOf(id)} ${SQL_TYPES[type]}`).join(', ')})`,
  )
}

/** By part the names of its columns, in their order; none where the table has no parts. */
async function partsOf(connection: Connection, tableId: number): Promise<string[][]> {
  const rows = await rowsOf<{ part: number; columns: string[] }>(
    connection,
    `
    select substring(c.relname from '_p(\\d+)$')::int as part, array_agg(a.attname::text order by a.attnum) as columns
    from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
    where c.relnamespace = 'records'::regnamespace and c.relkind = 'c' and c.relname ~ $1 group by 1 order by 1`,
    [`^t${tableId}_p\\d+$`],
  )
  return rows.map(({ columns }) => columns)
}

/** Those of a table without parts, also such as are in no version of it any more. */
async function storedColumns(connection: Connection, tableId: number): Promise<StoredColumn[]> {
  return rowsOf<StoredColumn>(
    connection,
    `select c.id, c.type from data_column c where c.table_id = $1 and exists (
      select from pg_attribute where attrelid = $2::regclass and attname = 'c' || c.id and not attisdropped) order by c.id`,
    [tableId, relationOf(tableId)],
  )
}

/** From a column each to parts. Whoever looks at the table waits meanwhile. */
async function widen(connection: Connection, tableId: number, columns: readonly StoredColumn[]): Promise<void> {
  const before = `${relationOf(tableId)}_before`
  await connection.query(`alter table ${relationOf(tableId)} rename to ${before.replace('records.', '')}`)
  const parts = inParts(columns)
  for (const [at, part] of parts.entries()) await createPart(connection, tableId, at, part)
  await connection.query(
    `create table ${wideOf(tableId)} (${[OWN_FIELDS, ...parts.map((_, at) => `${partField(at)} ${partType(tableId, at)}`)].join(', ')})`,
  )
  const values = parts.map((part, at) => `row(${part.map(({ id }) => valueOf(id)).join(', ')})::${partType(tableId, at)}`)
  await connection.query(`insert into ${wideOf(tableId)} select record, since, until, written, ${values.join(', ')} from ${before}`)
  await connection.query(`drop table ${before}`)
  await keyStored(connection, { relation: wideOf(tableId) })
  await layView(connection, tableId)
}

/** The view, and what writes through it; made anew whenever a column comes or goes. */
async function layView(connection: Connection, tableId: number): Promise<void> {
  const parts = await partsOf(connection, tableId)
  const own = ['record', 'since', 'until', 'written']
  const shown = parts.flatMap((columns, at) => columns.map((name) => `(${partField(at)}).${name} as ${name}`))
  const [view, wide] = [relationOf(tableId), wideOf(tableId)]
  await connection.query(`create view ${view} as select ${[...own, ...shown].join(', ')} from ${wide}`)
  const made = parts.map((columns, at) => `row(${columns.map((name) => `new.${name}`).join(', ')})::${partType(tableId, at)}`)
  const [fields, values] = [
    [...own, ...parts.map((_, at) => partField(at))],
    ['new.record', 'coalesce(new.since, 1)', 'new.until', 'new.written', ...made],
  ]
  await connection.query(`
    create or replace function ${view}_write() returns trigger language plpgsql as $$
    begin
      if tg_op = 'INSERT' then insert into ${wide} (${fields.join(', ')}) values (${values.join(', ')});
      else update ${wide} set ${fields.map((field, at) => `${field} = ${values[at]!}`).join(', ')} where record = old.record and since = old.since;
      end if;
      return new;
    end $$`)
  await connection.query(`create trigger writes instead of insert or update on ${view} for each row execute function ${view}_write()`)
}
