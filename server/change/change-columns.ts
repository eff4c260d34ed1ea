/** Columns that come and go, and what is said of them. */
import type { ChangeRequest, Reading } from '@dime-gate/contract/change'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { kindOfColumn, readCell } from '@dime-gate/core/value/read-cell'
import { headOf } from '@dime-gate/interchange/table/out'
import { type Connection, rowOf, rowsOf } from '../database/database'
import { copyIn } from '../database/copy-in'
import { copyRows } from '../database/copy-rows'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import { checkChange, checkNameIsFree, figuresOn, renameInFigures } from '../figure/change-figures'
import { usersOfColumn } from '../figure/users-of'
import { refusals } from '../http/refusal'
import { SQL_TYPES } from '../table/column-types'
import { relationOf, valueOf, writtenText } from '../table/relation'
import { addStored, retypeStored } from '../table/stored'
import type { ColumnsMoved, Met } from './change-values'
import { named } from './named-column'
import { recount } from './recount'
import type { Changing } from './versions'

type Settings = Partial<Pick<Column, 'name' | 'unit' | 'type' | 'fullMarks' | 'isIdentity' | 'expectedLow' | 'expectedHigh'>>

export async function addColumn(
  connection: Connection,
  { table, version }: Changing,
  { name, unit, type, fullMarks }: ChangeRequest & { kind: 'add column' },
): Promise<Met> {
  checkNameIsFree(table, name, null)
  const { id } = (await named(name, () =>
    rowOf<{ id: number }>(
      connection,
      `
    insert into data_column (table_id, place, header, name, unit, type, full_marks, since, blank)
    values ($1, (select coalesce(max(place), -1) + 1 from data_column where table_id = $1), $2, $3, $4, $5, $6, $7, $8) returning id`,
      [table.id, headOf({ name, unit, fullMarks }), name, unit, type, fullMarks, version, table.records],
    ),
  ))!
  await addStored(connection, table.id, { id, type })
  return { records: [], columns: [{ ...table.columns[0]!, id, name, unit, type }], detail: { came: [id] } satisfies ColumnsMoved }
}

/** Values stay where they are: what a run saw of them is still there. @throws Refusal `stood-on` naming the gates that look at it */
export async function removeColumn(
  connection: Connection,
  { table, version }: Changing,
  { column: id }: ChangeRequest & { kind: 'remove column' },
): Promise<Met> {
  const column = found(table, id)
  await checkNobodyLooks(connection, table, column)
  const figures = figuresOn(table, column)
  if (figures.length > 0) throw refusals.usedByFigures(column.name, figures)
  await checkNobodyDraws(connection, table, column)
  if (table.columns.length === 1) throw refusals.lastColumn(column.name)
  await connection.query('update data_column set until = $2 where id = $1', [id, version])
  return { records: [], columns: [column], detail: { went: [id] } satisfies ColumnsMoved }
}

/** What was said before is noted, so that it can be taken back. @throws Refusal `name-taken`, `stood-on` */
export async function changeColumn(
  connection: Connection,
  { table }: Changing,
  { column: id, settings, reading }: { column: number; settings: Settings; reading: Reading },
): Promise<Met> {
  const column = found(table, id)
  const now = { ...column, ...settings, ...(isComputed(column) ? { type: column.type } : {}) }
  checkChange(table, column, now)
  if (kindOfColumn(now.type) !== kindOfColumn(column.type)) {
    await checkNobodyLooks(connection, table, column)
    await checkNobodyDraws(connection, table, column)
  }
  const isFigure = (text: string | null) =>
    text === null ||
    readCell(text, { ...reading, decimalMark: 'point', dateOrder: 'year', type: now.type, fraction: false }).state === 'readable'
  // What was expected of numbers says nothing of dates.
  const [low, high] = [now.expectedLow, now.expectedHigh].map((text) => (isFigure(text) ? text : null))
  await named(now.name, () =>
    connection.query(
      `
    update data_column set name = $2, unit = $3, type = $4, full_marks = $5, is_identity = $6, expected_low = $7, expected_high = $8, header = $9 where id = $1`,
      [
        id,
        now.name,
        now.unit,
        now.type,
        now.fullMarks,
        now.isIdentity,
        low,
        high,
        now.name === column.name && now.unit === column.unit && now.fullMarks === column.fullMarks ? column.header : headOf(now),
      ],
    ),
  )
  await renameInFigures(connection, table, column.name, now.name)
  if (now.type !== column.type) await readAnew(connection, table.id, column, now, reading)
  const before = Object.fromEntries(Object.keys(settings).map((key) => [key, column[key as keyof Settings]])) as Settings
  return { records: [], columns: [now], detail: { column: id, before } }
}

function found(table: Table, id: number): Column {
  const column = table.columns.find((one) => one.id === id)
  if (!column) throw refusals.notFound('column of this table')
  return column
}

async function checkNobodyDraws(connection: Connection, table: Table, column: Column): Promise<void> {
  const users = await usersOfColumn(connection, table, column)
  if (users.length > 0) throw refusals.usedByFigures(column.name, users)
}

async function checkNobodyLooks(connection: Connection, table: Table, column: Column): Promise<void> {
  const gates = await rowsOf<{ name: string }>(
    connection,
    `
    select distinct g.draft ->> 'name' as name from binding b join gate g on g.id = b.gate_id, jsonb_each(b.inputs) as i (input, bound)
    where b.table_id = $1 and g.removed_at is null and (bound -> 'column' = to_jsonb($2::bigint) or bound -> 'columns' @> to_jsonb($2::bigint)) order by 1`,
    [table.id, column.id],
  )
  if (gates.length > 0)
    throw refusals.lookedAt(
      column.name,
      gates.map(({ name }) => name),
    )
}

const READ_AT_ONCE = 10_000

/** Every text of the column, also those that are past, is read as its new type says; none is lost, whatever it comes to. */
async function readAnew(connection: Connection, tableId: number, old: Column, now: Column, reading: Reading): Promise<void> {
  const relation = relationOf(tableId)
  await connection.query('create temporary table reread (record integer, since integer, value text, written text) on commit drop')
  // As the file was written, or as whoever changes it writes.
  const { format } = (await rowOf<{ format: Partial<Reading> }>(connection, 'select file_format as format from data_table where id = $1', [
    tableId,
  ]))!
  const readings: Reading[] = [
    {
      ...reading,
      ...(format.decimalMark ? { decimalMark: format.decimalMark } : {}),
      ...(format.dateOrder ? { dateOrder: format.dateOrder } : {}),
    },
    reading,
  ]
  const field = (text: string | null) => (text === null ? COPY_NULL : toCopyText(text))
  const valueIn = (text: string): string | null => {
    for (const one of readings) {
      const cell = readCell(text, { ...one, type: now.type, fraction: false })
      if (cell.state === 'readable') return cell.value
    }
    return null
  }
  const rows: { record: number; since: number; text: string }[] = []
  for await (const some of copyRows(
    connection,
    `select record, since, ${writtenText(old.id)} from ${relation} where ${writtenText(old.id)} is not null`,
    3,
    READ_AT_ONCE,
  )) {
    for (let row = 0; row < some.length; row++)
      rows.push({ record: some.whole(row, 0), since: some.whole(row, 1), text: some.text(row, 2)! })
  }
  await copyIn(connection, 'copy reread from stdin', async (write) => {
    for (let at = 0; at < rows.length; at += READ_AT_ONCE) {
      await write(
        Buffer.from(
          rows
            .slice(at, at + READ_AT_ONCE)
            .map(({ record, since, text }) => {
              const value = valueIn(text)
              return `${record}\t${since}\t${field(value)}\t${field(value === text ? null : text)}\n`
            })
            .join(''),
        ),
      )
    }
  })
  await retypeStored(connection, tableId, { id: old.id, type: now.type })
  await connection.query(`
    update ${relation} t set ${valueOf(old.id)} = r.value::${SQL_TYPES[now.type]},
      written = nullif((coalesce(t.written, '{}') - '${old.id}') || case when r.written is null then '{}' else jsonb_build_object('${old.id}', r.written) end, '{}')
    from reread r where t.record = r.record and t.since = r.since`)
  await recount(connection, tableId, [now])
}
