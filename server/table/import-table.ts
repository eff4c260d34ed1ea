/** A file becomes a table: streamed record by record into a relation of its own, in one transaction. */
import { checkColumns, type TableSettings } from '@dime-gate/interchange/table/settings'
import { type Database, inTransaction, isUniqueViolation, rowOf, rowsOf } from '../database/database'
import { copyRecords } from './copy-records'
import { refusals } from '../http/refusal'
import { createStored, keyStored } from './stored'

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
    const { id, relation } = await inTransaction(database, async (connection) => {
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
      const target = await createStored(connection, id, ids.map((column, at) => ({ id: column, type: kept[at]!.type })))
      const columnIds = columns.map((column) => (column.isLeftOut ? null : ids[kept.indexOf(column)]!))
      // Records of a relation that nobody else can see yet are settled at once.
      const tally = await copyRecords(connection, target, 'freeze', source, settings, columnIds, told)
      await keyStored(connection, target)
      await connection.query('update data_table set records = $2 where id = $1', [id, tally.records])
      await connection.query(`
        update data_column set blank = t.blank, unreadable = t.unreadable
        from unnest($1::bigint[], $2::bigint[], $3::bigint[]) as t (id, blank, unreadable) where data_column.id = t.id`,
        [columnIds, tally.blank, tally.unreadable])
      return { id, relation: target.relation }
    })
    // Without it the database would sort what lies in order, until it looks by itself. Nobody waits for it, or misses it.
    database.query(`analyze ${relation} (record, since, until)`).catch(() => undefined)
    return id
  } catch (error) {
    if (isUniqueViolation(error, 'data_table_name')) throw refusals.nameTaken('table', name)
    throw error
  }
}
