/** A file becomes a table: streamed record by record into a relation of its own, in one transaction. */
import { checkColumns, type TableSettings } from '@dime-gate/interchange/table/settings'
import { type Database, inTransaction, isUniqueViolation, rowOf, rowsOf } from '../database/database'
import { SQL_TYPES } from './column-types'
import { copyRecords } from './copy-records'
import { relationOf, valueOf } from './relation'
import { refusals } from '../http/refusal'

export interface NewTable {
  name: string
  fileName: string
  settings: TableSettings
}

/**
 * @param source the file's bytes
 * @param told is told how many records have come in
 * @returns the id of the new table
 * @throws FileError where the file cannot be read as `settings` say, Refusal `name-taken`; nothing stays behind
 */
export async function importTable(database: Database, source: AsyncIterable<Uint8Array>, { name, fileName, settings }: NewTable, told: (records: number) => void = () => undefined): Promise<number> {
  checkColumns(settings.columns)
  try {
    const id = await inTransaction(database, async (connection) => {
      const { columns, ...format } = settings
      const { id } = (await rowOf<{ id: number }>(connection,
        'insert into data_table (name, file_name, file_format) values ($1, $2, $3) returning id', [name, fileName, format]))!
      const kept = columns.filter(({ isLeftOut }) => !isLeftOut)
      const ids = (await rowsOf<{ id: number }>(connection, `
        insert into data_column (table_id, place, header, name, unit, type, full_marks, is_identity)
        select $1, place, header, name, unit, type, "fullMarks", "isIdentity"
        from jsonb_to_recordset($2::jsonb) as c (place int, header text, name text, unit text, type text, "fullMarks" numeric, "isIdentity" boolean)
        order by place returning id`,
        [id, JSON.stringify(kept.map((column, place) => ({ ...column, place })))])).map((row) => row.id)
      const definitions = ids.map((column, at) => `${valueOf(column)} ${SQL_TYPES[kept[at]!.type]}`)
      await connection.query(`create table ${relationOf(id)} (record integer not null, since integer not null default 1, until integer, written jsonb, ${definitions.join(', ')})`)
      // Records of a relation that nobody else can see yet are settled at once, and its key is quicker made of all of them.
      const fields = ['record', ...ids.map(valueOf), 'written']
      const columnIds = columns.map((column) => (column.isLeftOut ? null : ids[kept.indexOf(column)]!))
      const tally = await copyRecords(connection, `copy ${relationOf(id)} (${fields.join(', ')}) from stdin with (freeze, format binary)`, source, settings, columnIds, told)
      await connection.query(`alter table ${relationOf(id)} add primary key (record, since)`)
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
