/** Values typed or pasted over others. */
import type { ChangeRequest, Conflict } from '@dime-gate/contract/change'
import { type Cell, type Column, isComputed } from '@dime-gate/contract/table'
import { isBlank, isSameCell, isUnreadable, newCell } from '@dime-gate/contract/typed-cell'
import { type Connection, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'
import { readRecords } from '../table/records'
import { recordsWithFigures } from '../table/relation'
import { recount } from './recount'
import { rewriteRows } from './rewrite-rows'
import type { Changing } from './versions'

export interface Met {
  records: number[]
  columns: readonly Column[]
  /** What is noted of the change, so that it can be taken back. */
  detail?: object
}

/** Columns that came with a change, and those that went. */
export interface ColumnsMoved {
  came?: number[]
  went?: number[]
}

type ValuesRequest = ChangeRequest & { kind: 'values' }

/** @returns what was changed elsewhere since it was seen, and then nothing is done; or what it met. @throws Refusal `not-found` */
export async function changeValues(
  connection: Connection,
  changing: Changing,
  { cells, reading }: ValuesRequest,
): Promise<Conflict[] | Met> {
  const { table } = changing
  const columns = new Map(table.columns.map((column) => [column.id, column]))
  const missing = cells.find(({ column }) => !columns.has(column))
  if (missing) throw refusals.notFound('column of this table')
  const computed = cells.find(({ column }) => isComputed(columns.get(column)!))
  if (computed) throw refusals.computed(columns.get(computed.column)!.name)
  const asked = table.columns.filter(({ id }) => cells.some(({ column }) => column === id))
  const records = [...new Set(cells.map(({ record }) => record))]
  const before = new Map(
    (await readRecords(connection, table, asked, records)).map(({ record, cells: found }) => [
      record,
      new Map(asked.map(({ id }, at): [number, Cell] => [id, found[at]!])),
    ]),
  )
  if (before.size < records.length) throw refusals.notFound('record of this table')

  const wanted = new Map<number, Map<number, Cell>>()
  const conflicts: Conflict[] = []
  for (const { record, column, text, seen } of cells) {
    const now = before.get(record)!.get(column)!
    const cell = newCell(text, columns.get(column)!, reading)
    // What two want alike is no quarrel.
    if (!isSameCell(now, seen) && !isSameCell(now, cell)) conflicts.push({ record, column, now })
    wanted.set(record, (wanted.get(record) ?? new Map<number, Cell>()).set(column, cell))
  }
  if (conflicts.length > 0) return conflicts
  await rewriteRows(connection, changing, wanted)
  await countOn(connection, asked, before, wanted)
  return { records, columns: asked }
}

/** What became blank or unreadable, and what is no longer: a table need not be counted for one value. */
async function countOn(
  connection: Connection,
  columns: readonly Column[],
  before: ReadonlyMap<number, ReadonlyMap<number, Cell>>,
  after: ReadonlyMap<number, ReadonlyMap<number, Cell>>,
): Promise<void> {
  for (const { id } of columns) {
    let [blank, unreadable] = [0, 0]
    for (const [record, cells] of after) {
      const [old, now] = [before.get(record)!.get(id)!, cells.get(id)]
      if (!now) continue
      blank += Number(isBlank(now)) - Number(isBlank(old))
      unreadable += Number(isUnreadable(now)) - Number(isUnreadable(old))
    }
    if (blank !== 0 || unreadable !== 0)
      await connection.query('update data_column set blank = blank + $2, unreadable = unreadable + $3 where id = $1', [
        id,
        blank,
        unreadable,
      ])
  }
}

/** One value for many records: those that are named, or all that filters find. @param where as SQL. @throws Refusal `not-found` */
export async function fill(
  connection: Connection,
  changing: Changing,
  { column: id, text, reading, filters }: ChangeRequest & { kind: 'fill' },
  where: string,
): Promise<Met> {
  const column = changing.table.columns.find((one) => one.id === id)
  if (!column) throw refusals.notFound('column of this table')
  if (isComputed(column)) throw refusals.computed(column.name)
  if (filters.some((filter) => filter.kind === 'found' || isFigure(changing, filter.column)) && isWaited(changing)) throw refusals.notComputedYet()
  const cell = newCell(text, column, reading)
  const records = (await rowsOf<{ record: number }>(connection, `select record from ${recordsWithFigures(changing.table)} where ${where}`)).map(
    ({ record }) => record,
  )
  const one = new Map([[id, cell]])
  // A piece at a time: what is sent at once is held at once.
  for (let at = 0; at < records.length; at += AT_ONCE)
    await rewriteRows(connection, changing, new Map(records.slice(at, at + AT_ONCE).map((record) => [record, one])))
  await recount(connection, changing.table.id, [column])
  return { records, columns: [column] }
}

const isFigure = ({ table }: Changing, id: number) => table.columns.some((column) => column.id === id && isComputed(column))
/** Whether what its figures come to is not known yet. */
const isWaited = ({ table, given }: Changing) => table.figures === null && given.length < table.columns.length

const AT_ONCE = 50_000
