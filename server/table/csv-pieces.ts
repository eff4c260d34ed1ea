/** Records as CSV (RFC 4180), written by the database itself, so that nobody else waits. */
import { to as copyTo } from 'pg-copy-streams'
import type { Column, Table } from '@dime-gate/contract/table'
import { guardText } from '@dime-gate/core/value/guarded-text'
import { csvText, PLAIN_CSV } from '@dime-gate/interchange/table/write-csv'
import type { Connection } from '../database/database'
import { guardInSql } from '../database/guard-in-sql'
import { MOST_FIELDS } from '../database/most-fields'
import { recordsWithFigures, valueOf, writtenText } from './relation'

/** A field of a line, as SQL. */
export interface CsvField {
  text: string
  /** Whether it is a figure, a day or a truth, which is not guarded, whatever sign it begins with. */
  isPlain: string
}

/** A column as it was written. */
export function writtenField({ id, type }: Pick<Column, 'id' | 'type'>): CsvField {
  return { text: writtenText(id), isPlain: type === 'text' ? 'false' : `${valueOf(id)} is not null` }
}

/**
 * Bytes of the file, piece by piece, in UTF-8. Text that a spreadsheet program would run is guarded (`core/value/guarded-text`).
 * @param from what the fields are of; has a column `record`, which orders the lines
 */
export async function* csvPieces(
  connection: Connection,
  heads: readonly string[],
  fields: readonly CsvField[],
  from: string,
): AsyncGenerator<Uint8Array> {
  yield Buffer.from(csvText([heads.map(guardText)], PLAIN_CSV))
  // The texts are made in one step and looked at in the next: written into one, each would be made several times.
  const made = fields.map(({ text, isPlain }, at) => `${text} as f${at}, ${isPlain} as p${at}`)
  const guarded = (text: string, isPlain: string) => `case when ${isPlain} then ${text} else ${guardInSql(text)} end`
  const sql =
    2 * fields.length <= MOST_FIELDS
      ? `select ${fields.map((_, at) => guarded(`f${at}`, `p${at}`)).join(', ')} from (select ${made.join(', ')} from ${from} order by record offset 0) as made`
      : `select ${fields.map(({ text, isPlain }) => guarded(`(${text})`, `(${isPlain})`)).join(', ')} from ${from} order by record`
  yield* withReturns(connection.query(copyTo(`copy (${sql}) to stdout (format csv)`)))
}

export function tableCsv(connection: Connection, table: Table): AsyncGenerator<Uint8Array> {
  const heads = table.columns.map(({ header, name }) => header || name)
  return csvPieces(connection, heads, table.columns.map(writtenField), recordsWithFigures(table))
}

const [LINE_FEED, RETURN, QUOTE] = [0x0a, 0x0d, 0x22]

/** Bytes that are sent at a time: the database gives a line at a time, and each would be a packet of its own. */
const PIECE = 1 << 16

/** The database ends lines in LF alone; in quoted values they stay as they are. */
export async function* withReturns(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let isQuoted = false
  let [out, used] = [Buffer.allocUnsafe(2 * PIECE), 0]
  for await (const piece of pieces) {
    if (used + 2 * piece.length > out.length) {
      yield out.subarray(0, used)
      ;[out, used] = [Buffer.allocUnsafe(Math.max(2 * PIECE, 2 * piece.length)), 0]
    }
    for (let at = 0; at < piece.length; at++) {
      const byte = piece[at]!
      if (byte === QUOTE) isQuoted = !isQuoted
      else if (byte === LINE_FEED && !isQuoted) out[used++] = RETURN
      out[used++] = byte
    }
  }
  yield out.subarray(0, used)
}
