/** Records of a table that were changed since one of its versions: whoever has the table as it was then needs no others. */
import { isComputed, type Table } from '@dime-gate/contract/table'
import { type Queryable, rowsOf } from '../database/database'
import { relationOf } from '../table/relation'

/** Beyond, all of them are fetched as quickly. */
const MOST = 500
/** A record can have been changed many times. */
const MOST_ROWS = 5000

/** A row as it is now, or as it was in a version; what it has been in between is neither. */
export interface ChangedRow<Value> {
  value: Value
  isNow: boolean
  was: boolean
}

/**
 * Rows of a table's records that are not what they were in a version. They are asked for in an order, so that they are looked for in
 * the indexes whatever the database takes them to be.
 * @param version at least 1: the first version of a table is most of it, and no index holds it
 * @param value what is asked of each, as SQL
 * @returns null where they are many
 */
export async function rowsSince<Value>(on: Queryable, tableId: number, version: number, value: string): Promise<ChangedRow<Value>[] | null> {
  if (!Number.isSafeInteger(version)) throw new TypeError(`not a version: ${version}`)
  const some = (where: string, field: string) => `(select * from ${relationOf(tableId)} where ${where} order by ${field} limit ${MOST_ROWS + 1})`
  const rows = await rowsOf<ChangedRow<Value>>(
    on,
    `select ${value} as value, until is null as "isNow", since <= ${version} as was
    from (${some(`since > ${version} and since > 1`, 'since')} union all ${some(`until > ${version}`, 'until')}) as changed`,
  )
  return rows.length > MOST_ROWS ? null : rows
}

/**
 * @param figures the table's, as they were known in that version
 * @returns the numbers of the records, ascending; null where they are many, where some came or went, or where more than they can be different
 */
export async function changedSince(on: Queryable, table: Table, version: number, figures: number | null): Promise<number[] | null> {
  // Figures of few records are known to be others only where the rest was carried on.
  if (table.columns.some(isComputed) && (table.figures === null || table.figures !== figures)) return null
  const rows = await rowsSince<number>(on, table.id, version, 'record')
  if (!rows) return null
  const recordsIn = (some: readonly ChangedRow<number>[]) => new Set(some.map(({ value }) => value))
  const [are, were] = [recordsIn(rows.filter(({ isNow }) => isNow)), recordsIn(rows.filter(({ was }) => was))]
  const isSame = are.size === were.size && [...are].every((record) => were.has(record))
  return isSame && are.size <= MOST ? [...are].sort((a, b) => a - b) : null
}
