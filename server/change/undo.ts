/** Taking a change back: what it ended comes back, what it began ends. That is a change of its own, and can be taken back in turn. */
import type { Reading } from '@dime-gate/contract/change'
import type { Drawn } from '@dime-gate/contract/drawn'
import type { SetOfColumns } from '@dime-gate/contract/table'
import { type Connection, rowOf, rowsOf } from '../database/database'
import { changeDrawn } from '../figure/change-drawn'
import { changeFigure, changeSets } from '../figure/change-figures'
import { refusals } from '../http/refusal'
import { relationOf, valueOf } from '../table/relation'
import { changeColumn } from './change-columns'
import type { ColumnsMoved, Met } from './change-values'
import { recount } from './recount'
import { type Changing, detailOf } from './versions'

/** @throws Refusal `not-found`; `stale` where what it met was changed again since */
export async function undoChange(connection: Connection, changing: Changing, undone: number): Promise<Met> {
  const { table, version } = changing
  const change = await detailOf(connection, table.id, undone)
  if (!change) throw refusals.notFound('change of this table')
  const { column, before, came = [], went = [] } = change.detail as { column?: number; before?: object } & ColumnsMoved
  if (before && column !== undefined) {
    const reading: Reading = { decimalMark: 'point', dateOrder: 'year' }
    return changeColumn(connection, changing, { column, settings: before, reading })
  }
  const { figure, drawn, sets } = change.detail as { figure?: number; drawn?: number; sets?: SetOfColumns[] }
  if (drawn !== undefined) return changeDrawn(connection, changing, { column: drawn, ...(before as { name: string; unit: string; drawn: Drawn }) })
  if (figure !== undefined) return changeFigure(connection, changing, { column: figure, ...(before as { name: string; unit: string; feel: string }) })
  if (sets) return changeSets(connection, changing, sets)
  const relation = relationOf(table.id)
  const fields = (await rowsOf<{ id: number }>(connection, 'select id from data_column where table_id = $1 and feel is null and drawn is null', [table.id])).map(({ id }) =>
    valueOf(id),
  )
  const content = (of: string) => `row(${['written', ...fields].map((field) => `${of}.${field}`).join(', ')})`
  const parts = `
    was as (select * from ${relation} where until = ${undone}), became as (select * from ${relation} where since = ${undone}),
    met as (select record from was union select record from became)`
  // What somebody changed again is theirs; what was changed and changed back is as this change left it.
  const { clash } = (await rowOf<{ clash: boolean }>(
    connection,
    `
    with ${parts} select exists (
      select from met left join became using (record) left join ${relation} now on now.record = met.record and now.until is null
      where (became.since is null) <> (now.since is null) or ${content('became')} is distinct from ${content('now')}) as clash`,
  ))!
  if (clash) throw refusals.changedSince()
  const ended = await rowsOf<{ record: number }>(
    connection,
    `
    with ${parts} update ${relation} t set until = ${version} from met where t.record = met.record and t.until is null returning t.record`,
  )
  const back = await rowsOf<{ record: number }>(
    connection,
    `
    insert into ${relation} (record, since, written, ${fields.join(', ')}) select record, ${version}, written, ${fields.join(', ')} from ${relation} where until = ${undone} returning record`,
  )
  // A column that had gone is there again, as if it had never been away: its values were never touched.
  await connection.query('update data_column set until = $3 where table_id = $1 and id = any($2)', [table.id, came, version])
  await connection.query('update data_column set until = null where table_id = $1 and id = any($2)', [table.id, went])
  const stillThere = await rowsOf<{ id: number }>(connection, 'select id from data_column where table_id = $1 and until is null and feel is null and drawn is null', [
    table.id,
  ])
  await recount(connection, table.id, stillThere)
  return {
    records: [...new Set([...ended, ...back].map(({ record }) => record))],
    columns: table.columns.filter(({ id }) => came.includes(id)),
    detail: { came: went, went: came } satisfies ColumnsMoved,
  }
}
