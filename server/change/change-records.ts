/** Records that come and go. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import { type Cell, isComputed } from '@dime-gate/contract/table'
import { newCell } from '@dime-gate/contract/typed-cell'
import { type Connection, rowOf } from '../database/database'
import { refusals } from '../http/refusal'
import { SQL_TYPES } from '../table/column-types'
import { relationOf, valueOf } from '../table/relation'
import type { Met } from './change-values'
import { recount } from './recount'
import type { Changing } from './versions'

/** @throws Refusal `not-found` */
export async function addRecords(
  connection: Connection,
  { table, given, version }: Changing,
  { rows, reading }: ChangeRequest & { kind: 'add records' },
): Promise<Met> {
  const columns = new Map(table.columns.map((column) => [column.id, column]))
  // A number is never given twice, even where its record is gone: what was kept of that is still of that.
  const { last } = (await rowOf<{ last: number }>(connection, `select coalesce(max(record), 0)::int as last from ${relationOf(table.id)}`))!
  const made = rows.map((cells, at) => {
    const own = new Map<number, Cell>()
    for (const { column: id, text } of cells) {
      const column = columns.get(id)
      if (!column) throw refusals.notFound('column of this table')
      if (isComputed(column)) throw refusals.computed(column.name)
      own.set(id, newCell(text, column, reading))
    }
    const written = [...own].flatMap(([id, [, text]]) => (text === null ? [] : [[id, text] as const]))
    return {
      record: last + at + 1,
      values: Object.fromEntries([...own].map(([id, [value]]) => [id, value])),
      written: written.length > 0 ? Object.fromEntries(written) : null,
    }
  })
  const fields = given.map(({ id, type }) => `(values ->> '${id}')::${SQL_TYPES[type]}`)
  await connection.query(
    `
    insert into ${relationOf(table.id)} (record, since, ${['written', ...given.map(({ id }) => valueOf(id))].join(', ')})
    select ${['record', '$2', 'written', ...fields].join(', ')} from jsonb_to_recordset($1::jsonb) as r (record int, values jsonb, written jsonb)`,
    [JSON.stringify(made), version],
  )
  await recount(connection, table.id, given)
  return { records: made.map(({ record }) => record), columns: [] }
}

export async function removeRecords(
  connection: Connection,
  { table, given, version }: Changing,
  { records }: ChangeRequest & { kind: 'remove records' },
): Promise<Met> {
  const { rowCount } = await connection.query(`update ${relationOf(table.id)} set until = $2 where record = any($1) and until is null`, [
    records,
    version,
  ])
  if (rowCount === 0) throw refusals.notFound('record of this table')
  await recount(connection, table.id, given)
  return { records, columns: [] }
}
