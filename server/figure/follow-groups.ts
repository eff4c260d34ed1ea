/** A table of groups follows the few records beneath it that were changed: only their groups are worked out anew. */
import { isDeepStrictEqual } from 'node:util'
import { isComputed, type RollUp, type Table } from '@dime-gate/contract/table'
import { rowsSince } from '../change/changed-since'
import { type Connection, rowOf, rowsOf } from '../database/database'
import { recordsNow, valueOf } from '../table/relation'
import { writeFigures } from './changed-figures'
import { groupKey } from './drawn-sql'
import { type Network, standsOf } from './network'
import { beneathOf, figureRelation, isFreshWithin } from './stored-figures'

/** Groups beyond which all are made anew. */
const MOST = 100

export interface GroupsMet {
  /** The generation that the others are taken from. */
  from: number
  /** Of the groups, by their numbers, those of which a record was changed. */
  records: number[]
}

/**
 * @param stale tables whose figures are not what they would come to
 * @returns null where the table is none of groups, or more of it can be different than groups that are there
 */
export async function groupsMet(connection: Connection, network: Network, table: Table, stale: readonly number[]): Promise<GroupsMet | null> {
  const { id, rollUp } = table
  const beneath = rollUp && network.tables.get(rollUp.table)
  if (!beneath || stale.includes(beneath.id) || !isMadeOfGroups(table, rollUp, beneath)) return null
  const state = network.states.get(id)
  if (!state || !isFreshWithin(state, table, network.day) || !isDeepStrictEqual(state.beneath, beneathOf(network, beneath))) return null
  const since = versionBefore(state.stands, standsOf(network, id), beneath.id)
  const keys = since === null ? null : await keysMet(connection, rollUp, beneath, since)
  if (!keys) return null
  const own = groupKey(rollUp.by.map((one) => ({ value: valueOf(one.own), type: typeOf(table, one.own), part: 'whole' })))
  const there = await rowsOf<{ record: number }>(connection, `select record from ${recordsNow(id)} where ${own} = any($1)`, [keys])
  // A group that comes makes a record.
  return there.length < keys.length ? null : { from: state.generation, records: there.map(({ record }) => record) }
}

/** Makes a generation of another, with these groups as they are now. */
export async function carryOn(connection: Connection, network: Network, table: Table, { from, records }: GroupsMet, generation: number): Promise<void> {
  const relation = figureRelation(table.id, generation)
  await connection.query(`create table ${relation} as select * from ${figureRelation(table.id, from)} where record <> all('{${records.join(',')}}')`)
  if (records.length > 0) await writeFigures(connection, network, table, generation, records)
  await connection.query(`alter table ${relation} add primary key (record)`)
}

const typeOf = ({ columns }: Table, id: number) => columns.find((column) => column.id === id)!.type

/** Whether a group is told by given values, and has nothing but what its own records come to. */
function isMadeOfGroups({ columns }: Table, { by }: RollUp, beneath: Table): boolean {
  const areGiven = by.every((one) => beneath.columns.some((column) => column.id === one.column && !isComputed(column)))
  return (
    areGiven &&
    columns.every(({ drawn }) => {
      if (drawn === null || drawn.kind === 'label') return true
      if (drawn.kind !== 'related' || drawn.table !== beneath.id || drawn.keys.length < by.length) return false
      return drawn.keys.every((key) => by.some((one) => one.own === key.own && one.column === key.theirs && one.part === key.part))
    })
  )
}

/** @returns the version of a table that figures stood on, where they stand on all else as it is; null otherwise */
function versionBefore(before: unknown, now: object, tableId: number): number | null {
  const [was, is] = [before, now] as { tables?: [id: number, version: number | null][]; labels?: unknown }[]
  const others = (tables: [number, number | null][] = []) => tables.filter(([id]) => id !== tableId)
  if (!isDeepStrictEqual([others(was!.tables), was!.labels], [others(is!.tables), is!.labels])) return null
  return was!.tables?.find(([id]) => id === tableId)?.[1] ?? null
}

/** Keys of the groups that changed records are in, and were in. @returns null where they are too many, or one has lost its last record */
async function keysMet(connection: Connection, { by }: RollUp, beneath: Table, since: number): Promise<string[] | null> {
  const key = groupKey(by.map(({ column, part }) => ({ value: valueOf(column), type: typeOf(beneath, column), part })))
  const rows = await rowsSince<string>(connection, beneath.id, since, key)
  if (!rows) return null
  const now = new Set(rows.filter(({ isNow }) => isNow).map(({ value }) => value))
  const all = [...new Set(rows.filter(({ isNow, was }) => isNow || was).map(({ value }) => value))]
  if (all.length > MOST) return null
  for (const left of all.filter((one) => !now.has(one)))
    if (!(await rowOf(connection, `select from ${recordsNow(beneath.id)} where ${key} = $1 limit 1`, [left]))) return null
  return all
}
