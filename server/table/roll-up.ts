/** Tables of groups: made of another table, and kept as that becomes. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import type { RollUpRequest } from '@dime-gate/contract/roll-up'
import { type RollUp, type Table } from '@dime-gate/contract/table'
import { addDrawn } from '../figure/change-drawn'
import { beginChange, endChange } from '../change/versions'
import { type Database, inTransaction, isUniqueViolation, rowOf } from '../database/database'
import { refusals } from '../http/refusal'
import { createStored, keyStored } from './stored'
import { findTable } from './tables'

/** @returns the table without its groups: these come with its figures. @throws Refusal `not-found`, `name-taken`, `not-a-figure` */
export async function rollUpTable(database: Database, tableId: number, { name, by, figures }: RollUpRequest): Promise<Table> {
  return inTransaction(database, async (connection) => {
    const source = await findTable(connection, tableId)
    const groups = by.map(({ column: id, part }) => {
      const column = source.columns.find((one) => one.id === id)
      if (!column) throw refusals.notFound('column of this table')
      if (part !== 'whole' && column.type !== 'date')
        throw refusals.notAFigure(name, `“${column.name}” holds no dates, so it has no year or month.`)
      return {
        ...column,
        part,
        name: part === 'whole' ? column.name : `${column.name}, ${part}`,
        type: part === 'whole' ? column.type : ('text' as const),
      }
    })
    const twice = groups.find((group, at) => groups.findIndex((one) => one.name === group.name) < at)
    if (twice) throw refusals.notAFigure(name, `It is grouped by “${twice.name}” twice; once is enough.`)
    const made = await rowOf<{ id: number }>(
      connection,
      `insert into data_table (name, version, records, file_name, file_format, imported_at) values ($1, 1, 0, '', '{}', now()) returning id`,
      [name],
    ).catch((error: unknown) => {
      throw isUniqueViolation(error, 'data_table_name') ? refusals.nameTaken('table', name) : error
    })
    const { id } = made!
    const own: number[] = []
    for (const [place, group] of groups.entries()) {
      const column = await rowOf<{ id: number }>(
        connection,
        `insert into data_column (table_id, place, header, name, unit, type, is_identity, blank, unreadable) values ($1, $2, $3, $3, $4, $5, true, 0, 0) returning id`,
        [id, place, group.name, group.unit, group.type],
      )
      own.push(column!.id)
    }
    const target = await createStored(
      connection,
      id,
      groups.map(({ type }, at) => ({ id: own[at]!, type })),
    )
    await keyStored(connection, target)
    const rollUp: RollUp = { table: tableId, by: by.map((one, at) => ({ ...one, own: own[at]! })) }
    await connection.query('update data_table set roll_up = $2 where id = $1', [id, rollUp])
    const keys = rollUp.by.map((one) => ({ own: one.own, theirs: one.column, part: one.part }))
    for (const { name: column, unit, take, of, where } of figures) {
      const change = await beginChange(connection, id)
      const met = await addDrawn(connection, change, {
        kind: 'add drawn',
        name: column,
        unit,
        drawn: { kind: 'related', table: tableId, keys, take, of, where, none: 'nothing' },
      })
      await endChange(connection, change, 'add drawn', {
        records: 0,
        columns: met.columns.map((one) => one.name),
        ...(met.detail ? { detail: met.detail } : {}),
      })
    }
    return findTable(connection, id)
  })
}

/** The groups are those of the table beneath, whoever looks. @throws Refusal `computed` */
export function checkGroups({ rollUp, columns, name }: Table, request: ChangeRequest): void {
  if (!rollUp) return
  if (request.kind === 'add records' || request.kind === 'remove records') throw refusals.groupsFollow(name)
  const met =
    request.kind === 'values'
      ? request.cells.map(({ column }) => column)
      : request.kind === 'fill' || request.kind === 'remove column'
        ? [request.column]
        : []
  const group = columns.find(({ id }) => met.includes(id) && rollUp.by.some(({ own }) => own === id))
  if (group) throw refusals.groupsFollow(name)
}
