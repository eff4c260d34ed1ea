/** Figures and sets of a table that come, and become others. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import { type Column, plainColumn, type SetOfColumns, type Table } from '@dime-gate/contract/table'
import { columnSets, tableColumns, tableFigures, tableNames, typeOfKind } from '@dime-gate/contract/table-figures'
import { figuresOf, wholeSetName } from '@dime-gate/core/figure/figure'
import { figureTroubleWords } from '@dime-gate/core/figure/figure-words'
import { renamedIn } from '@dime-gate/core/expression/rename'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { freeNames } from '@dime-gate/core/expression/tree'
import { type Connection, rowOf, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'
import type { ColumnsMoved, Met } from '../change/change-values'
import { named } from '../change/named-column'
import type { Changing } from '../change/versions'
import { checkNoRing, loadNetwork } from './network'
import { renameInConditions, usersOfName } from './users-of'

type Names = Pick<Table, 'columns' | 'sets'>

/** @throws Refusal `not-a-figure` with what is wrong, `name-taken` */
export async function addFigure(
  connection: Connection,
  { table, version }: Changing,
  { name, unit, feel }: ChangeRequest & { kind: 'add figure' },
): Promise<Met> {
  checkNameIsFree(table, name, null)
  const type = typeOf({ columns: [...table.columns, plainColumn(-1, name, { unit, feel })], sets: table.sets }, name)
  const { id } = (await named(name, () =>
    rowOf<{ id: number }>(
      connection,
      `
    insert into data_column (table_id, place, header, name, unit, type, since, blank, feel)
    values ($1, (select coalesce(max(place), -1) + 1 from data_column where table_id = $1), $2, $2, $3, $4, $5, 0, $6) returning id`,
      [table.id, name, unit, type, version, feel],
    ),
  ))!
  return { records: [], columns: [plainColumn(id, name, { unit, type, feel })], detail: { came: [id] } satisfies ColumnsMoved }
}

/** What a figure was before is noted, so that it can be taken back. @throws Refusal `not-found`, `not-a-figure`, `name-taken` */
export async function changeFigure(
  connection: Connection,
  { table }: Changing,
  { column: id, name, unit, feel }: { column: number; name: string; unit: string; feel: string },
): Promise<Met> {
  const column = table.columns.find((one) => one.id === id)
  if (!column || column.feel === null) throw refusals.notFound('figure of this table')
  checkNameIsFree(table, name, id)
  const renamed = renaming(table, new Map([[column.name, name]]))
  const columns = renamed.map((one) => (one.id === id ? { ...one, name, unit, feel } : one))
  const type = typeOf({ columns, sets: table.sets }, name)
  const now = columns.map((one) => (one.id === id ? { ...one, type } : one))
  checkOthers(table, { columns: now, sets: table.sets })
  checkNoRing(await loadNetwork(connection, { ...table, columns: now }), { table: table.id, column: id })
  await named(name, () =>
    connection.query('update data_column set name = $2, header = $2, unit = $3, feel = $4, type = $5 where id = $1', [
      id,
      name,
      unit,
      feel,
      type,
    ]),
  )
  await writeFeels(connection, table, columns)
  await renameInConditions(connection, table, column.name, name)
  return {
    records: [],
    columns: [{ ...column, name, unit, feel, type }],
    detail: { figure: id, before: { name: column.name, unit: column.unit, feel: column.feel } },
  }
}

/** @throws Refusal `not-a-figure` where a figure could no longer be computed, `name-taken` */
export async function changeSets(connection: Connection, { table }: Changing, sets: SetOfColumns[]): Promise<Met> {
  const names = [...table.columns.map(({ name }) => name), ...sets.flatMap(({ name }) => [name, wholeSetName(name)])]
  const twice = names.find((name, at) => names.indexOf(name) < at)
  if (twice !== undefined) throw refusals.columnTaken(twice)
  const renamed = renamedSets(table.sets, sets)
  const columns = renaming(table, renamed)
  checkOthers(table, { columns, sets })
  const gone = table.sets.filter(({ name }) => !renamed.has(name) && !sets.some((set) => set.name === name)).map(({ name }) => name)
  await checkNobodyTakes(connection, table.id, gone)
  for (const name of gone.flatMap((set) => [set, wholeSetName(set)])) {
    const users = await usersOfName(connection, table, name)
    if (users.length > 0) throw refusals.usedByFigures(name, users)
  }
  for (const [before, name] of renamed) {
    await renameInBindings(connection, table.id, before, name)
    await renameInConditions(connection, table, before, name)
  }
  await connection.query('update data_table set sets = $2 where id = $1', [table.id, JSON.stringify(sets)])
  await writeFeels(connection, table, columns)
  return { records: [], columns: [], detail: { sets: table.sets } }
}

/** @throws Refusal `stood-on` naming the gates that one of these sets stands for something of */
async function checkNobodyTakes(connection: Connection, tableId: number, sets: readonly string[]): Promise<void> {
  const taken = await rowsOf<{ set: string; gate: string }>(
    connection,
    `
    select distinct bound ->> 'set' as set, g.draft ->> 'name' as gate from binding b join gate g on g.id = b.gate_id, jsonb_each(b.inputs) as i (input, bound)
    where b.table_id = $1 and g.removed_at is null and bound ->> 'set' = any($2) order by 1, 2`,
    [tableId, sets],
  )
  const [first] = taken
  if (first)
    throw refusals.lookedAt(
      first.set,
      taken.filter(({ set }) => set === first.set).map(({ gate }) => gate),
    )
}

async function renameInBindings(connection: Connection, tableId: number, before: string, name: string): Promise<void> {
  await connection.query(
    `
    update binding set version = version + 1, inputs = (
      select jsonb_object_agg(input, case when bound ->> 'set' = $2 then jsonb_build_object('set', $3::text) else bound end) from jsonb_each(inputs) as i (input, bound))
    where table_id = $1 and exists (select from jsonb_each(inputs) as i (input, bound) where bound ->> 'set' = $2)`,
    [tableId, before, name],
  )
}

/** Sets that have nothing but another name. */
function renamedSets(before: readonly SetOfColumns[], now: readonly SetOfColumns[]): Map<string, string> {
  const pairs = before.flatMap((set, at) => {
    const other = now[at]
    const isRenamed = other && other.name !== set.name && JSON.stringify(other.by) === JSON.stringify(set.by)
    return isRenamed
      ? ([
          [set.name, other.name],
          [wholeSetName(set.name), wholeSetName(other.name)],
        ] as const)
      : []
  })
  return new Map(before.length === now.length ? pairs : [])
}

/** A column gets another name: whatever names it goes along. */
export async function renameInFigures(connection: Connection, table: Table, before: string, name: string): Promise<void> {
  if (before === name) return
  await writeFeels(connection, table, renaming(table, new Map([[before, name]])))
  await renameInConditions(connection, table, before, name)
}

/** Figures that name a column. */
export function figuresOn(table: Names, { name, id }: Pick<Column, 'name' | 'id'>): string[] {
  const names = tableNames(table)
  return table.columns.flatMap((column) => {
    if (column.feel === null || column.id === id) return []
    const parsed = parseExpression(column.feel, names)
    return 'tree' in parsed && freeNames(parsed.tree).includes(name) ? [column.name] : []
  })
}

/** @throws Refusal `not-a-figure` where figures could no longer be computed, `name-taken` */
export function checkChange(table: Table, column: Column, now: Column): void {
  checkNameIsFree(table, now.name, column.id)
  const columns = renaming(table, new Map([[column.name, now.name]])).map((one) =>
    one.id === column.id ? { ...one, name: now.name, type: now.type } : one,
  )
  checkOthers(table, { columns, sets: table.sets })
}

export function renaming(table: Table, renamed: ReadonlyMap<string, string>): Column[] {
  const names = tableNames(table)
  return table.columns.map((column) => (column.feel === null ? column : { ...column, feel: renamedIn(column.feel, names, renamed) }))
}

export async function writeFeels(connection: Connection, table: Table, columns: readonly Column[]): Promise<void> {
  for (const { id, feel } of columns) {
    if (feel !== null && feel !== table.columns.find((one) => one.id === id)?.feel)
      await connection.query('update data_column set feel = $2 where id = $1', [id, feel])
  }
}

function typeOf(names: Names, name: string): Column['type'] {
  const { figures, troubles } = figuresOf(tableColumns(names.columns), columnSets(names))
  const trouble = troubles.get(name)
  if (trouble) throw refusals.notAFigure(name, figureTroubleWords(trouble))
  return typeOfKind(figures.find((figure) => figure.name === name)!.kind)
}

/** None that could be computed before may no longer be. */
export function checkOthers(before: Names, now: Names): void {
  const [could, can] = [tableFigures(before).troubles, tableFigures(now).troubles]
  for (const [name, trouble] of can) if (!could.has(name)) throw refusals.notAFigure(name, figureTroubleWords(trouble))
}

/** Columns and sets are named alike in expressions. */
export function checkNameIsFree({ columns, sets }: Names, name: string, own: number | null): void {
  const isTaken =
    columns.some((column) => column.id !== own && column.name === name) ||
    sets.some((set) => set.name === name || wholeSetName(set.name) === name)
  if (isTaken) throw refusals.columnTaken(name)
}
