/** Changes to a table: each in one transaction, each a version, each told to whoever looks at the table. */
import type { ChangeAnswer, ChangeRequest } from '@dime-gate/contract/change'
import type { Table } from '@dime-gate/contract/table'
import type { Connection, Database } from '../database/database'
import { inTransaction } from '../database/database'
import { readRecords } from '../table/records'
import { whereOf } from '../table/listing'
import { computeChanged } from '../figure/changed-figures'
import { addFigure, changeFigure, changeSets } from '../figure/change-figures'
import { addDrawn, changeDrawn } from '../figure/change-drawn'
import { checkGroups } from '../table/roll-up'
import { figureColumns } from '../figure/stored-figures'
import { addColumn, changeColumn, removeColumn } from './change-columns'
import { addRecords, removeRecords } from './change-records'
import { changeValues, fill, type Met } from './change-values'
import { undoChange } from './undo'
import { beginChange, type Changing, endChange, madeBefore } from './versions'

/** Records that are told with the answer. */
const MOST_TOLD = 500

/** @param key under which it is made once, however often it is asked for. @throws Refusal `not-found`, `name-taken`, `stood-on` */
export function changeTable(database: Database, tableId: number, request: ChangeRequest, key: string | null): Promise<ChangeAnswer> {
  return inTransaction(database, (connection) => changeWithin(connection, tableId, request, key))
}

/** The same as a part of what is done in one transaction. */
export function changeWithin(connection: Connection, tableId: number, request: ChangeRequest, key: string | null = null): Promise<ChangeAnswer> {
  return changing(connection, tableId, key, async (change) => {
    checkGroups(change.table, request)
    const done = await apply(connection, change, request)
    if (Array.isArray(done)) return { conflicts: done, change: null, table: change.table, records: [] }
    const made = await endChange(connection, change, request.kind, {
      records: done.records.length,
      columns: done.columns.map(({ name }) => name),
      ...(done.detail ? { detail: done.detail } : {}),
    })
    return answer(connection, change.table, made, done)
  })
}

/** @param key as of `changeTable`. @throws Refusal `not-found`, `stale` */
export function undo(database: Database, tableId: number, version: number, key: string | null): Promise<ChangeAnswer> {
  return inTransaction(database, (connection) => undoWithin(connection, tableId, version, key))
}

/** The same as a part of what is done in one transaction. */
export function undoWithin(connection: Connection, tableId: number, version: number, key: string | null = null): Promise<ChangeAnswer> {
  return changing(connection, tableId, key, async (change) => {
    const done = await undoChange(connection, change, version)
    const made = await endChange(connection, change, 'values', {
      records: done.records.length,
      columns: done.columns.map(({ name }) => name),
      undoes: version,
      ...(done.detail ? { detail: done.detail } : {}),
    })
    return answer(connection, change.table, made, done)
  })
}

async function changing(connection: Connection, tableId: number, key: string | null, work: (change: Changing) => Promise<ChangeAnswer>): Promise<ChangeAnswer> {
  const change = await beginChange(connection, tableId, key)
  const before = await madeBefore(connection, change)
  return before ? answer(connection, change.table, before, { records: [] }) : work(change)
}

async function answer(
  connection: Connection,
  before: Table,
  change: ChangeAnswer['change'],
  { records }: Pick<Met, 'records'>,
): Promise<ChangeAnswer> {
  const table = await computeChanged(connection, before, records)
  // Figures that are not computed yet are fetched once they are.
  const isTold = records.length <= MOST_TOLD && (table.figures !== null || figureColumns(table).length === 0)
  return { conflicts: [], change, table, records: isTold ? await readRecords(connection, table, table.columns, records) : [] }
}

async function apply(connection: Connection, change: Changing, request: ChangeRequest): Promise<ChangeAnswer['conflicts'] | Met> {
  switch (request.kind) {
    case 'values':
      return changeValues(connection, change, request)
    case 'fill':
      return fill(
        connection,
        change,
        request,
        request.records ? `record = any('{${request.records.join(',')}}')` : whereOf(connection, change.table.columns, request.filters),
      )
    case 'add records':
      return addRecords(connection, change, request)
    case 'remove records':
      return removeRecords(connection, change, request)
    case 'add column':
      return addColumn(connection, change, request)
    case 'change column':
      return changeColumn(connection, change, request)
    case 'remove column':
      return removeColumn(connection, change, request)
    case 'add figure':
      return addFigure(connection, change, request)
    case 'change figure':
      return changeFigure(connection, change, request)
    case 'add drawn':
      return addDrawn(connection, change, request)
    case 'change drawn':
      return changeDrawn(connection, change, request)
    case 'column sets':
      return changeSets(connection, change, request.sets)
  }
}
