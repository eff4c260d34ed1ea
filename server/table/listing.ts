/** Which records of a table are listed, and in which order. */
import type { Filter, Listing } from '@dime-gate/contract/change'
import type { Column } from '@dime-gate/contract/table'
import { readCell } from '@dime-gate/core/value/read-cell'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { refusals } from '../http/refusal'
import { SQL_TYPES } from './column-types'
import { isOutside, isUnreadable, recordsNow, valueOf, writtenOf, writtenText } from './relation'

type Quoting = Pick<Connection, 'escapeLiteral'>

/** As SQL, over a table's records as they are now. @throws Refusal `not-found` for a column that is not there, `malformed` for ends that are none */
export function whereOf(connection: Quoting, columns: readonly Column[], filters: readonly Filter[]): string {
  return filters.length === 0 ? 'true' : filters.map((filter) => `(${condition(connection, columns, filter)})`).join(' and ')
}

function condition(connection: Quoting, columns: readonly Column[], filter: Filter): string {
  if (filter.kind === 'found')
    return columns.length === 0
      ? 'false'
      : `array_to_string(array[${columns.map(({ id }) => writtenText(id)).join(', ')}], E'\\n') ilike ${pattern(connection, filter.text)}`
  const column = columns.find(({ id }) => id === filter.column)
  if (!column) throw refusals.notFound('column of this table')
  const value = valueOf(column.id)
  switch (filter.kind) {
    case 'values':
      return `${value}::text = any(array[${filter.values.map((text) => connection.escapeLiteral(text)).join(', ')}]::text[])`
    case 'range': {
      const end = (text: string | null, sign: string) => (text === null ? [] : [`${value} ${sign} ${endOf(connection, column, text)}`])
      return [...end(filter.low, '>='), ...end(filter.high, '<='), `${value} is not null`].join(' and ')
    }
    case 'contains':
      return `${writtenText(column.id)} ilike ${pattern(connection, filter.text)}`
    case 'blank':
      return `${value} is null and not coalesce(${isUnreadable(column.id)}, false)`
    case 'unreadable':
      return isUnreadable(column.id)
    case 'outside':
      return isOutside(column) ?? 'false'
  }
}

function endOf(connection: Quoting, { type }: Column, text: string): string {
  const read = readCell(text, { type, decimalMark: 'point', dateOrder: 'year', fraction: false })
  if (read.state !== 'readable') throw refusals.malformed(`“${text.slice(0, 40)}” is no value of the column.`)
  return `${connection.escapeLiteral(read.value)}::${SQL_TYPES[type]}`
}

/** What people type stands for itself. */
function pattern(connection: Quoting, text: string): string {
  return connection.escapeLiteral(`%${text.replace(/[\\%_]/g, '\\$&')}%`)
}

/** The numbers of the listed records, in their order, as whole numbers of 32 bits, the lowest byte first. Blanks come last either way, what cannot be read just before them. */
export async function* listedRecords(
  connection: Connection,
  tableId: number,
  columns: readonly Column[],
  { filters, sorts }: Listing,
): AsyncGenerator<Uint8Array> {
  const order = sorts.flatMap(({ column: id, direction }) => {
    const column = columns.find((one) => one.id === id)
    if (!column) throw refusals.notFound('column of this table')
    const value = column.type === 'text' ? `${valueOf(id)} collate "C"` : valueOf(id)
    const written = column.type !== 'text' && column.unreadable > 0 ? [`${writtenOf(id)} collate "C" nulls last`] : []
    return [`${value} ${direction === 'rising' ? 'asc' : 'desc'} nulls last`, ...written]
  })
  const sql = `select record from ${recordsNow(tableId)} where ${whereOf(connection, columns, filters)} order by ${[...order, 'record'].join(', ')}`
  for await (const rows of copyRows(connection, sql, 1, AT_ONCE)) {
    const piece = Buffer.allocUnsafe(4 * rows.length)
    for (let row = 0; row < rows.length; row++) piece.writeInt32LE(rows.whole(row, 0), 4 * row)
    yield piece
  }
}

const AT_ONCE = 65_536
