/** Finds records by who they are: by the values of identity columns, in every table. */
import { type FoundRecord, MOST_OF_A_TABLE } from '@dime-gate/contract/found'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Queryable, rowsOf } from '../database/database'
import { lastRuns } from '../review/exception-list'
import { recordsNow, valueOf } from './relation'
import { findTable, listTables } from './tables'

/** Shorter texts are in too many. */
const LEAST = 2

/** Those first whose value begins so, then in table order; a few of each table. @param text of which case does not count */
export async function findRecords(on: Queryable, text: string): Promise<FoundRecord[]> {
  const sought = text.trim()
  if (sought.length < LEAST) return []
  const pattern = sought.replace(/[\\%_]/g, '\\$&')
  const found: FoundRecord[] = []
  const last = (await lastRuns(on)).map(({ id, tableId }) => ({ id, tableId }))
  for (const { id } of await listTables(on)) {
    const table = await findTable(on, id)
    const runs = last.filter(({ tableId }) => tableId === id).map((run) => run.id)
    for (const column of table.columns.filter(({ isIdentity, feel, drawn }) => isIdentity && feel === null && drawn === null)) {
      const value = `${isNumeric(column.type) ? `trim_scale(${valueOf(column.id)})` : valueOf(column.id)}::text`
      const rows = await rowsOf<{ record: number; value: string; isException: boolean }>(on, `
        select record, value, exists (select from exception x where x.run_id = any($3) and x.record = found.record) as "isException"
        from (select record, ${value} as value from ${recordsNow(id)} where ${value} ilike $1 order by ${value} not ilike $2, record limit ${MOST_OF_A_TABLE}) as found`, [`%${pattern}%`, `${pattern}%`, runs])
      found.push(...rows.map((row) => ({ tableId: id, tableName: table.name, column: column.id, columnName: column.name, ...row })))
    }
  }
  return found
}
