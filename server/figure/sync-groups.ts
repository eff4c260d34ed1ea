/** The records of a roll-up: one for each group that there is in the table beneath, none for one that is gone. */
import type { Table } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { addRecords, removeRecords } from '../change/change-records'
import { beginChange, endChange } from '../change/versions'
import { type Connection, rowsOf } from '../database/database'
import { recordsNow, valueOf } from '../table/relation'
import { tableItself } from '../table/table-itself'
import type { Readable } from './drawn-sql'
import { keyPart } from './drawn-sql'

const READING = { decimalMark: 'point', dateOrder: 'year' } as const

/** Groups that come and go are changes like any other, and stand in the history. @returns the table as it is then */
export async function syncGroups(connection: Connection, table: Table, beneath: Readable): Promise<Table> {
  const by = table.rollUp!.by.flatMap((one) => {
    const column = beneath.table.columns.find(({ id }) => id === one.column)
    return column ? [{ ...one, type: one.part === 'whole' ? column.type : ('text' as const) }] : []
  })
  if (by.length < table.rollUp!.by.length) return table
  const text = (value: string, isNumber: boolean) => (isNumber ? `trim_scale(${value})::text` : `${value}::text`)
  const wanted = await rowsOf<{ values: (string | null)[] }>(
    connection,
    // Values are told apart as what they are, and made texts once there are few.
    `select array[${by.map(({ type }, at) => text(`r${at}`, isNumeric(type))).join(', ')}] as values from (
      select ${by.map(({ column, part }, at) => `${keyPart(valueOf(column), part)} as r${at}`).join(', ')} from ${beneath.from} group by ${by.map((_, at) => at + 1).join(', ')}) as groups order by 1`,
  )
  const there = await rowsOf<{ record: number; values: (string | null)[] }>(
    connection,
    `select record, array[${by.map(({ own, type }) => text(valueOf(own), isNumeric(type))).join(', ')}] as values from ${recordsNow(table.id)}`,
  )
  const keys = new Set(wanted.map(({ values }) => JSON.stringify(values)))
  const known = new Set(there.map(({ values }) => JSON.stringify(values)))
  const gone = there.filter(({ values }) => !keys.has(JSON.stringify(values))).map(({ record }) => record)
  const fresh = wanted.filter(({ values }) => !known.has(JSON.stringify(values)))
  if (gone.length > 0) {
    const change = await beginChange(connection, table.id)
    const met = await removeRecords(connection, change, { kind: 'remove records', records: gone })
    await endChange(connection, change, 'remove records', { records: met.records.length, columns: [] })
  }
  if (fresh.length > 0) {
    const change = await beginChange(connection, table.id)
    const rows = fresh.map(({ values }) => values.flatMap((value, at) => (value === null ? [] : [{ column: by[at]!.own, text: value }])))
    const met = await addRecords(connection, change, { kind: 'add records', reading: READING, rows })
    await endChange(connection, change, 'add records', { records: met.records.length, columns: [] })
  }
  return gone.length + fresh.length === 0 ? table : (await tableItself(connection, table.id))!
}
