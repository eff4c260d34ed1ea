/** Records on their way out, typed, some at a time. */
import type { Column } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import type { OutColumn, OutRow } from '@dime-gate/interchange/table/out'
import { copyRows } from '../database/copy-rows'
import { type Connection, rowOf } from '../database/database'
import { MOST_FIELDS } from '../database/most-fields'
import { sourceOf } from './read-column'
import { valueOf } from './relation'

/** Records that are written at a time. */
const AT_ONCE = 2000
/** Each is asked of twice. */
const COLUMNS_AT_ONCE = MOST_FIELDS / 2

/** A field of a row, as SQL: the value's canonical text, and what could not be read. */
export interface OutField {
  value: string
  unreadable: string | null
}

export function outField(column: Column): OutField {
  const { value, unreadable } = sourceOf(column)
  return { value: column.type === 'boolean' ? `case ${value} when true then 'true' when false then 'false' end` : value, unreadable }
}

/** @param from what the fields are of; has a column `record`, which orders the rows */
export async function* outRows(connection: Connection, fields: readonly OutField[], from: string): AsyncGenerator<OutRow[]> {
  const asked: string[] = []
  const place = (sql: string | null) => (sql === null ? null : asked.push(sql) - 1)
  const places = fields.map(({ value, unreadable }) => ({ value: place(value)!, unreadable: place(unreadable) }))
  const isMany = asked.length > MOST_FIELDS
  const sql = isMany ? `to_json(array[${asked.map((one) => `(${one})::text`).join(', ')}])` : asked.join(', ')
  for await (const rows of copyRows(connection, `select ${sql} from ${from} order by record`, isMany ? 1 : asked.length, AT_ONCE)) {
    yield Array.from({ length: rows.length }, (_, row): OutRow => {
      const all = isMany ? (JSON.parse(rows.text(row, 0)!) as (string | null)[]) : null
      const text = (at: number) => (all ? all[at]! : rows.text(row, at))
      return places.map(({ value, unreadable }) => ({ value: text(value), unreadable: unreadable === null ? null : text(unreadable) }))
    })
  }
}

/** Columns with the digits that their numbers need, which some formats have to know before the first record. */
export async function outColumns(connection: Connection, columns: readonly Column[], relation: string): Promise<OutColumn[]> {
  const numbers = columns.filter(({ type }) => isNumeric(type))
  const found: Record<string, number | null> = {}
  for (let at = 0; at < numbers.length; at += COLUMNS_AT_ONCE) {
    const asked = numbers
      .slice(at, at + COLUMNS_AT_ONCE)
      .flatMap(({ id }) => [
        `max(length(trunc(abs(${valueOf(id)}))::text)) as w${id}`,
        `max(scale(trim_scale(${valueOf(id)}))) as f${id}`,
      ])
    Object.assign(found, await rowOf(connection, `select ${asked.join(', ')} from ${relation}`))
  }
  return columns.map(({ id, name, unit, type, fullMarks, isIdentity, unreadable }) => ({
    name,
    unit,
    type,
    fullMarks,
    isIdentity,
    hasUnreadable: unreadable > 0,
    ...(isNumeric(type) ? { digits: { whole: found[`w${id}`] ?? 1, fraction: found[`f${id}`] ?? 0 } } : {}),
  }))
}
