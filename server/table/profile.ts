/** How the values of each column are spread, small enough for the head of a table. */
import type { Column, ColumnProfile } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Queryable, rowsOf } from '../database/database'
import { relationOf, valueOf } from './relation'

const BINS = 24
const COMMON = 5

/** By column id. */
export async function profileTable(on: Queryable, tableId: number, columns: Column[]): Promise<Record<string, ColumnProfile>> {
  const profiles: Record<string, ColumnProfile> = {}
  for (const column of columns) {
    profiles[column.id] = isNumeric(column.type) || column.type === 'date' ? await bins(on, tableId, column) : await values(on, tableId, column)
  }
  return profiles
}

async function bins(on: Queryable, tableId: number, { id, type }: Column): Promise<ColumnProfile> {
  const value = valueOf(id)
  // A date is counted in days here; to PostgreSQL the difference of two dates is a whole number.
  const place = type === 'date' ? `(${value} - least)::numeric` : `(${value} - least)`
  const span = type === 'date' ? '(most - least)::numeric' : '(most - least)'
  const rows = await rowsOf<{ bin: number; records: number; least: string; most: string }>(on, `
    with ends as (select min(${value}) as least, max(${value}) as most from ${relationOf(tableId)})
    select case when least = most then 0 else least(${BINS - 1}, floor(${place} * ${BINS} / ${span}))::int end as bin,
      count(*)::int as records, least::text as least, most::text as most
    from ${relationOf(tableId)}, ends where ${value} is not null group by 1, 3, 4`)
  const [first] = rows
  if (!first) return { kind: 'none' }
  const counts = new Array<number>(BINS).fill(0)
  for (const { bin, records } of rows) counts[bin] = records
  return { kind: 'bins', from: first.least, to: first.most, bins: counts }
}

async function values(on: Queryable, tableId: number, { id }: Column): Promise<ColumnProfile> {
  const value = valueOf(id)
  const rows = await rowsOf<{ value: string; records: number; distinct: number }>(on, `
    select ${value}::text as value, count(*)::int as records, (count(*) over ())::int as distinct
    from ${relationOf(tableId)} where ${value} is not null group by ${value} order by 2 desc, 1 limit ${COMMON}`)
  if (rows.length === 0) return { kind: 'none' }
  return { kind: 'values', distinct: rows[0]!.distinct, common: rows.map(({ value: text, records }) => ({ value: text, records })) }
}
