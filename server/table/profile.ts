/** How the values of each column are spread, small enough for the head of a table. */
import type { Column, ColumnProfile, Table, TableProfile } from '@dime-gate/contract/table'
import { isOnLine } from '@dime-gate/core/value/read-cell'
import { type Database, type Queryable, rowOf, rowsOf } from '../database/database'
import { isOutside, recordsWithFigures, valueOf } from './relation'

const BINS = 24
const COMMON = 5

/** Those that are being reckoned, so that two who look at once wait for one. */
const underWay = new Map<string, Promise<TableProfile>>()

/**
 * By column id. Reckoned at the first look at a table as it stands, which takes a while for a large one, and kept.
 * @param slow connections for what takes long
 */
export async function profileOf(database: Database, slow: Database, table: Table): Promise<TableProfile> {
  const { id, version, figures } = table
  const kept = await rowOf<{ profile: TableProfile }>(database, 'select profile from table_profile where table_id = $1 and table_version = $2 and figures is not distinct from $3', [id, version, figures])
  if (kept) return kept.profile
  const key = `${id} ${version} ${figures}`
  const reckoned = underWay.get(key) ?? reckonAndKeep(slow, table).finally(() => underWay.delete(key))
  underWay.set(key, reckoned)
  return reckoned
}

async function reckonAndKeep(slow: Database, table: Table): Promise<TableProfile> {
  const { id, version, figures } = table
  const profile = await reckon(slow, table)
  await slow.query(`
    insert into table_profile (table_id, table_version, profile, figures) values ($1, $2, $3, $4)
    on conflict (table_id) do update set table_version = excluded.table_version, profile = excluded.profile, figures = excluded.figures`, [id, version, JSON.stringify(profile), figures])
  return profile
}

async function reckon(on: Queryable, table: Table): Promise<TableProfile> {
  const profile: TableProfile = {}
  const from = recordsWithFigures(table)
  for (const column of table.columns) {
    profile[column.id] = { spread: await spreadOf(on, from, column), outside: await outsideOf(on, from, column) }
  }
  return profile
}

async function outsideOf(on: Queryable, from: string, column: Column): Promise<number> {
  const condition = isOutside(column)
  if (condition === null) return 0
  return (await rowOf<{ count: number }>(on, `select count(*)::int as count from ${from} where ${condition}`))!.count
}

/** @param from as SQL, with the column */
export function spreadOf(on: Queryable, from: string, column: Pick<Column, 'id' | 'type'>): Promise<ColumnProfile> {
  return isOnLine(column.type) ? bins(on, from, column) : values(on, from, column)
}

async function bins(on: Queryable, from: string, { id }: Pick<Column, 'id'>): Promise<ColumnProfile> {
  const value = valueOf(id)
  // To PostgreSQL the difference of two dates is a whole number of days. Doubles do for a picture, and are far quicker.
  const [place, span] = [`(${value} - least)::float8`, '(most - least)::float8']
  const rows = await rowsOf<{ bin: number; records: number; least: string; most: string }>(on, `
    with ends as (select min(${value}) as least, max(${value}) as most from ${from})
    select case when least = most then 0 else least(${BINS - 1}, floor(${place} * ${BINS} / ${span}))::int end as bin,
      count(*)::int as records, least::text as least, most::text as most
    from ${from}, ends where ${value} is not null group by 1, 3, 4`)
  const [first] = rows
  if (!first) return { kind: 'none' }
  const counts = new Array<number>(BINS).fill(0)
  for (const { bin, records } of rows) counts[bin] = records
  return { kind: 'bins', from: first.least, to: first.most, bins: counts }
}

async function values(on: Queryable, from: string, { id }: Pick<Column, 'id'>): Promise<ColumnProfile> {
  const value = valueOf(id)
  const rows = await rowsOf<{ value: string; records: number; distinct: number }>(on, `
    select ${value}::text as value, count(*)::int as records, (count(*) over ())::int as distinct
    from ${from} where ${value} is not null group by ${value} order by 2 desc, 1 limit ${COMMON}`)
  if (rows.length === 0) return { kind: 'none' }
  return { kind: 'values', distinct: rows[0]!.distinct, common: rows.map(({ value: text, records }) => ({ value: text, records })) }
}
