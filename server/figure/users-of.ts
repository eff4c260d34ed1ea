/** Columns, in whichever table, that are drawn from a table, from one of its columns, or from a gate. */
import { type Calculation, type Drawn, ownColumns, tablesOf } from '@dime-gate/contract/drawn'
import type { Column, RollUp, Table } from '@dime-gate/contract/table'
import { tableNames } from '@dime-gate/contract/table-figures'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { freeNames } from '@dime-gate/core/expression/tree'
import { renamedIn } from '@dime-gate/core/expression/rename'
import { type Connection, type Queryable, rowsOf } from '../database/database'
import { idsIn } from './network'

interface User {
  id: number
  tableId: number
  table: string
  name: string
  drawn: Drawn
}

async function allDrawn(on: Queryable): Promise<User[]> {
  return rowsOf<User>(
    on,
    `
    select c.id, t.id as "tableId", t.name as table, c.name, c.drawn from data_column c join data_table t on t.id = c.table_id
    where c.drawn is not null and c.until is null and t.removed_at is null order by t.id, c.id`,
  )
}

/** In words: whoever looks at another table is told with its own. */
function words({ tableId, table, name }: User, own: number): string {
  return tableId === own ? name : `${name} (${table})`
}

function calculationsOf(drawn: Drawn): Calculation[] {
  return drawn.kind === 'related' ? [drawn] : drawn.kind === 'own' ? drawn.calculations : []
}

/** @returns the names of columns that need one of this table, and of roll-ups by it */
export async function usersOfColumn(on: Queryable, table: Table, { id }: Pick<Column, 'id'>): Promise<string[]> {
  const uses = (user: User): boolean => {
    if (user.id === id) return false
    if (user.tableId === table.id && ownColumns(user.drawn).includes(id)) return true
    const keys = user.drawn.kind === 'related' && user.drawn.table === table.id ? user.drawn.keys.map(({ theirs }) => theirs) : []
    return (
      keys.includes(id) ||
      calculationsOf(user.drawn).some(
        (one) => one.table === table.id && (one.of === id || (one.where !== null && idsIn(table, one.where).includes(id))),
      )
    )
  }
  const groups = (await rollUpsOf(on, table.id)).filter(({ rollUp }) => rollUp.by.some(({ column }) => column === id))
  return [...(await allDrawn(on)).filter(uses).map((user) => words(user, table.id)), ...groups.map(({ name }) => `the groups of ${name}`)]
}

/** @returns the names of columns whose conditions name a column or a set of this table */
export async function usersOfName(on: Queryable, table: Table, name: string): Promise<string[]> {
  const names = tableNames(table)
  const isNamed = (feel: string): boolean => {
    const parsed = parseExpression(feel, names)
    return 'tree' in parsed && freeNames(parsed.tree).includes(name)
  }
  const users = (await allDrawn(on)).filter(({ drawn }) => calculationsOf(drawn).some((one) => one.table === table.id && one.where !== null && isNamed(one.where)))
  return users.map((user) => words(user, table.id))
}

/** @returns who needs a table, in words */
export async function usersOfTable(on: Queryable, tableId: number): Promise<string[]> {
  const users = (await allDrawn(on)).filter((user) => user.tableId !== tableId && tablesOf(user.drawn).includes(tableId))
  return [
    ...users.map(({ table, name }) => `“${name}” of “${table}”`),
    ...(await rollUpsOf(on, tableId)).map(({ name }) => `the roll-up “${name}”`),
  ]
}

/** @returns who needs a gate, in words */
export async function usersOfGate(on: Queryable, gate: number): Promise<string[]> {
  return (await allDrawn(on))
    .filter(({ drawn }) => drawn.kind === 'label' && drawn.gate === gate)
    .map(({ table, name }) => `“${name}” of “${table}”`)
}

async function rollUpsOf(on: Queryable, tableId: number): Promise<{ name: string; rollUp: RollUp }[]> {
  return rowsOf(
    on,
    `select name, roll_up as "rollUp" from data_table where removed_at is null and (roll_up ->> 'table')::bigint = $1 order by id`,
    [tableId],
  )
}

/** A name of a table becomes another: conditions elsewhere go along. @param table as it was before */
export async function renameInConditions(connection: Connection, table: Table, before: string, name: string): Promise<void> {
  if (before === name) return
  const [names, renamed] = [tableNames(table), new Map([[before, name]])]
  const anew = <Part extends Calculation>(one: Part): Part =>
    one.table === table.id && one.where !== null ? { ...one, where: renamedIn(one.where, names, renamed) } : one
  for (const { id, drawn } of await allDrawn(connection)) {
    const now: Drawn =
      drawn.kind === 'related' ? anew(drawn) : drawn.kind === 'own' ? { ...drawn, calculations: drawn.calculations.map(anew) } : drawn
    if (JSON.stringify(now) !== JSON.stringify(drawn)) await connection.query('update data_column set drawn = $2 where id = $1', [id, now])
  }
}
