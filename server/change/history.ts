/** What became of a record, version by version. */
import type { RecordHistory } from '@dime-gate/contract/change'
import type { Cell } from '@dime-gate/contract/table'
import { isSameCell } from '@dime-gate/contract/typed-cell'
import { type Queryable, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'
import { relationOf, valueOf, writtenOf } from '../table/relation'

/** The latest first. @throws Refusal `not-found` */
export async function recordHistory(on: Queryable, tableId: number, record: number): Promise<RecordHistory> {
  const columns = await rowsOf<{ id: number; name: string; since: number }>(
    on,
    'select id, name, since from data_column where table_id = $1 and feel is null and drawn is null order by place, id',
    [tableId],
  )
  const fields = columns.flatMap(({ id }) => [`${valueOf(id)}::text`, writtenOf(id)])
  const rows = await rowsOf<{ since: number; until: number | null; fields: (string | null)[]; at: string | null; ended: string | null }>(
    on,
    `
    select t.since, t.until, array[${fields.join(', ')}]::text[] as fields, to_json(b.changed_at) #>> '{}' as at, to_json(e.changed_at) #>> '{}' as ended
    from ${relationOf(tableId)} t
    left join table_change b on b.table_id = $1 and b.version = t.since left join table_change e on e.table_id = $1 and e.version = t.until
    where t.record = $2 order by t.since`,
    [tableId, record],
  )
  if (rows.length === 0) throw refusals.notFound('record of this table')
  const cellsOf = ({ fields: texts }: { fields: (string | null)[] }) => columns.map((_, at): Cell => [texts[2 * at]!, texts[2 * at + 1]!])
  const history: RecordHistory = []
  rows.forEach((row, index) => {
    const before = rows[index - 1]
    const continues = before?.until === row.since
    const [old, now] = [continues ? cellsOf(before) : null, cellsOf(row)]
    const values = columns.flatMap(({ id, name }, at) =>
      old === null || isSameCell(old[at]!, now[at]!) ? [] : [{ column: id, name, before: old[at]!, after: now[at]! }],
    )
    history.push({
      version: row.since,
      changedAt: row.at,
      kind: row.at === null ? 'there from the start' : continues ? 'changed' : 'added',
      values,
    })
    if (row.until !== null && rows[index + 1]?.since !== row.until)
      history.push({ version: row.until, changedAt: row.ended, kind: 'removed', values: [] })
  })
  return history.reverse()
}
