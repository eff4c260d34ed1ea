/** Which records of a table are listed, and in which order. */
import type { Filter, Listing } from '@dime-gate/contract/change'
import type { Column } from '@dime-gate/contract/table'
import { inOrder } from '@dime-gate/core/table/in-order'
import { joinColumns } from '@dime-gate/core/table/join-columns'
import type { Column as CoreColumn } from '@dime-gate/core/table/table'
import { readCell } from '@dime-gate/core/value/read-cell'
import type { Connection } from '../database/database'
import { refusals } from '../http/refusal'
import { SQL_TYPES } from './column-types'
import { columnFrom, type ColumnSource, recordsBatches, recordsOf, sourceOf } from './read-column'
import { isOutside, isUnreadable, valueOf, writtenText } from './relation'

type Quoting = Pick<Connection, 'escapeLiteral'>

/** As SQL, over a table's records, of which the columns are. @throws Refusal `not-found` for a column that is not there, `malformed` for ends that are none */
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

/**
 * The numbers of the listed records, in their order, as whole numbers of 32 bits, the lowest byte first. Records are put in order here
 * and not by the database, which would take several times as long.
 */
export async function* listedRecords(
  connection: Connection,
  { columns, from: records }: { columns: readonly Column[]; from: string },
  { filters, sorts }: Listing,
): AsyncGenerator<Uint8Array> {
  const keys = sorts.map(({ column: id, direction }) => {
    const column = columns.find((one) => one.id === id)
    if (!column) throw refusals.notFound('column of this table')
    return { source: sortSource(column), direction, parts: [] as CoreColumn[] }
  })
  const from = `${records} where ${whereOf(connection, columns, filters)}`
  if (keys.length === 0) {
    const numbers = await allNumbers(connection, from)
    return yield bytesOf(numbers, asTheyStand(numbers))
  }
  const sources = keys.map(({ source }) => source)
  const numbered: Int32Array[] = []
  for await (const batch of recordsBatches(connection, from, sources, AT_ONCE)) {
    numbered.push(recordsOf(batch))
    keys.forEach(({ source: { kind }, parts }, key) => parts.push(columnFrom(batch, key, kind)))
  }
  const numbers = joined(numbered)
  let places = asTheyStand(numbers)
  for (const { parts, direction } of keys.reverse()) places = inOrder(places, direction, joinColumns(parts))
  yield bytesOf(numbers, places)
}

/** In one value: a message of the database for each record would take longer than all else. */
async function allNumbers(connection: Connection, from: string): Promise<Int32Array> {
  const asked = { text: `select string_agg(int4send(record), ''::bytea) as numbers from ${from}`, binary: true }
  const { rows } = await connection.query<{ numbers: Buffer | null }>(asked)
  const bytes = rows[0]!.numbers ?? Buffer.alloc(0)
  const numbers = new Int32Array(bytes.length / 4)
  // The database writes the highest byte first.
  for (let at = 0; at < numbers.length; at++) numbers[at] = bytes.readInt32BE(4 * at)
  return numbers
}

function bytesOf(numbers: Int32Array, places: Uint32Array): Uint8Array {
  const listed = new Int32Array(places.length)
  for (let at = 0; at < listed.length; at++) listed[at] = numbers[places[at]!]!
  return new Uint8Array(listed.buffer)
}

/** Days and truths are sorted as the numbers that they are: that spares a text for each. */
function sortSource(column: Column): ColumnSource {
  const { value, ...source } = sourceOf(column)
  if (column.type === 'date') return { ...source, kind: 'number', value: `(${value} - date '2000-01-01')` }
  if (column.type === 'boolean') return { ...source, kind: 'number', value: `${value}::integer` }
  return { ...source, value }
}

/** The places of records by their numbers; most lie so already. */
function asTheyStand(numbers: Int32Array): Uint32Array {
  const places = new Uint32Array(numbers.length)
  let isSorted = true
  for (let place = 0; place < numbers.length; place++) {
    places[place] = place
    if (place > 0 && numbers[place - 1]! > numbers[place]!) isSorted = false
  }
  return isSorted ? places : places.sort((a, b) => numbers[a]! - numbers[b]!)
}

function joined(parts: readonly Int32Array[]): Int32Array {
  const whole = new Int32Array(parts.reduce((sum, { length }) => sum + length, 0))
  let start = 0
  for (const part of parts) {
    whole.set(part, start)
    start += part.length
  }
  return whole
}

const AT_ONCE = 65_536
