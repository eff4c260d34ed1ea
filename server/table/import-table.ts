/** A file becomes a table: streamed record by record into a relation of its own, in one transaction. */
import type { ImportRequest } from '@dime-gate/contract/table'
import type { ColumnType } from '@dime-gate/core/value/read-cell'
import { utf8Decoding } from '@dime-gate/interchange/table/decode'
import { FileError, fileError } from '@dime-gate/interchange/table/problem'
import { recordReader } from '@dime-gate/interchange/table/read-records'
import type { Records } from '@dime-gate/interchange/table/records'
import { checkColumns, readingOf, type TableSettings } from '@dime-gate/interchange/table/settings'
import { copyIn } from '../database/copy-in'
import { type Connection, type Database, inTransaction, isUniqueViolation, rowOf, rowsOf } from '../database/database'
import { BinaryRows } from '../database/copy-binary'
import { cellEncoder, type CellFate } from './cell-encoder'
import { relationOf, valueOf } from './relation'
import { refusals } from '../http/refusal'

const SQL_TYPES: Record<ColumnType, string> = { number: 'numeric', percent: 'numeric', date: 'date', text: 'text', boolean: 'boolean' }

/** Rows are handed to the database in pieces of about this many bytes. */
const PIECE = 1 << 18

/**
 * @param source the file's bytes
 * @returns the id of the new table
 * @throws FileError where the file cannot be read as `settings` say, Refusal `name-taken`; nothing stays behind
 */
export async function importTable(database: Database, source: AsyncIterable<Uint8Array>, { name, fileName, settings }: ImportRequest): Promise<number> {
  checkColumns(settings.columns)
  try {
    const id = await inTransaction(database, async (connection) => {
      const { columns, ...format } = settings
      const { id } = (await rowOf<{ id: number }>(connection,
        'insert into data_table (name, file_name, file_format) values ($1, $2, $3) returning id', [name, fileName, format]))!
      const columnIds = (await rowsOf<{ id: number }>(connection, `
        insert into data_column (table_id, place, header, name, unit, type)
        select $1, place, header, name, unit, type from jsonb_to_recordset($2::jsonb) as c (place int, header text, name text, unit text, type text)
        order by place returning id`,
        [id, JSON.stringify(columns.map((column, place) => ({ ...column, place })))])).map((row) => row.id)
      const definitions = columnIds.map((column, at) => `${valueOf(column)} ${SQL_TYPES[columns[at]!.type]}`)
      await connection.query(`create table ${relationOf(id)} (record integer not null, written jsonb, ${definitions.join(', ')})`)
      // Records of a relation that nobody else can see yet are settled at once, and its key is quicker made of all of them.
      const fields = ['record', ...columnIds.map(valueOf), 'written']
      const tally = await copyRecords(connection, `copy ${relationOf(id)} (${fields.join(', ')}) from stdin with (freeze, format binary)`, source, settings, columnIds)
      await connection.query(`alter table ${relationOf(id)} add primary key (record)`)
      await connection.query('update data_table set records = $2 where id = $1', [id, tally.records])
      await connection.query(`
        update data_column set blank = t.blank, unreadable = t.unreadable
        from unnest($1::bigint[], $2::bigint[], $3::bigint[]) as t (id, blank, unreadable) where data_column.id = t.id`,
        [columnIds, tally.blank, tally.unreadable])
      return id
    })
    // Without it the database would sort what lies in order, until it looks by itself. Nobody waits for it, or misses it.
    database.query(`analyze ${relationOf(id)} (record)`).catch(() => undefined)
    return id
  } catch (error) {
    if (isUniqueViolation(error, 'data_table_name')) throw refusals.nameTaken('table', name)
    throw error
  }
}

interface Tally {
  records: number
  /** By column. */
  blank: number[]
  unreadable: number[]
}

async function copyRecords(connection: Connection, sql: string, source: AsyncIterable<Uint8Array>, settings: TableSettings, columnIds: number[]): Promise<Tally> {
  const encoder = recordEncoder(settings, columnIds)
  await copyIn(connection, sql, async (write) => {
    for await (const records of recordsOf(source, settings)) {
      encoder.write(records)
      if (encoder.rows.size >= PIECE) await write(encoder.rows.take())
    }
    await write(encoder.rows.end())
  })
  return encoder.tally
}

/** The records of a file, some at a time; a piece's hold until the next. */
async function* recordsOf(source: AsyncIterable<Uint8Array>, settings: TableSettings): AsyncGenerator<Records> {
  const decoding = utf8Decoding(settings.encoding)
  const reader = recordReader(settings.delimiter)
  let isFirst = true
  const checked = (records: Records): Records => {
    const problem = reader.problem()
    if (problem) throw new FileError(problem)
    if (isFirst && records.length > 0) {
      const [found, expected] = [records.width, settings.columns.length]
      if (found !== expected) throw fileError('ragged', `The file has ${found} columns on line 1 where ${expected} were expected. It may have changed since it was looked at; choose it again.`, 1, Math.min(found, expected) + 1)
      isFirst = false
    }
    return records
  }
  for await (const bytes of source) yield checked(reader.push(decoding.decode(bytes)))
  yield checked(reader.push(decoding.end()))
  yield checked(reader.end())
  if (isFirst && settings.hasHeader) throw fileError('empty', 'The file is empty: it has no line at all.', 1, 1)
}

interface RecordEncoder {
  /** Where records are written to, a row each: number, values, and what is kept as written. */
  rows: BinaryRows
  write(records: Records): void
  tally: Tally
}

function recordEncoder(settings: TableSettings, columnIds: number[]): RecordEncoder {
  const columns = settings.columns.map((column) => cellEncoder(readingOf(settings, column)))
  const tally: Tally = { records: 0, blank: columns.map(() => 0), unreadable: columns.map(() => 0) }
  const rows = new BinaryRows()
  let headers = settings.hasHeader ? 1 : 0

  const write = (records: Records): void => {
    const { bytes, starts, ends, width } = records
    for (let record = Math.min(headers, records.length), place = record * width; record < records.length; record++) {
      let kept: Record<number, string> | null = null
      rows.row(width + 2)
      rows.integer(++tally.records)
      for (let at = 0; at < width; at++, place++) {
        const { state, isKept }: CellFate = columns[at]!(bytes, starts[place]!, ends[place]!, rows)
        if (state !== 'readable') tally[state][at]!++
        if (isKept) (kept ??= {})[columnIds[at]!] = records.text(record, at)
      }
      if (kept) rows.json(kept)
      else rows.null()
    }
    if (records.length > 0) headers = 0
  }
  return { rows, tally, write }
}
