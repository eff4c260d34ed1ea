/** Removing tables, gates and runs, and taking that back. What others stand on stays, and says who does. */
import { type Connection, type Database, inTransaction, isUniqueViolation, rowsOf } from './database/database'
import { usersOfGate, usersOfTable } from './figure/users-of'
import { checkConditionNames } from './gate/conditions'
import { refusals } from './http/refusal'
import { runRelation } from './run/run-relation'
import { dropStored } from './table/stored'

const RELATIONS = { table: 'data_table', gate: 'gate', run: 'run' } as const
export type Removable = keyof typeof RELATIONS

/** What stands on a thing, in words; $1 is its id. Runs have nothing that stands on them. */
const STANDING: Record<Removable, string | null> = {
  table: `
    select 'the gate “' || (g.draft ->> 'name') || '”' as who from binding b join gate g on g.id = b.gate_id where b.table_id = $1 and g.removed_at is null
    union all
    select 'run ' || r.number || ' of “' || (g.draft ->> 'name') || '”' from run r join gate g on g.id = r.gate_id where r.table_id = $1 and r.removed_at is null`,
  gate: `select 'run ' || number as who from run where gate_id = $1 and removed_at is null`,
  run: null,
}
/** A run comes back only where its gate and its table are there; one of a draft never does. */
const WITH_ALL_BELOW = `
  and run.draft is null
  and exists (select from gate where id = run.gate_id and removed_at is null)
  and exists (select from data_table where id = run.table_id and removed_at is null)`
/** So many are named; the rest are counted. */
const MOST_NAMED = 4
/** So long removed things are kept, so that removing can be taken back. */
const KEPT = '1 day'

/** @throws Refusal `not-found`, or `stood-on` naming who stands on it */
export async function remove(database: Database, kind: Removable, id: number): Promise<void> {
  await inTransaction(database, async (connection) => {
    const { rowCount } = await connection.query(`update ${RELATIONS[kind]} set removed_at = now() where id = $1 and removed_at is null`, [id])
    if (rowCount === 0) throw refusals.notFound(kind)
    const sql = STANDING[kind]
    const drawn = kind === 'table' ? await usersOfTable(connection, id) : kind === 'gate' ? await usersOfGate(connection, id) : []
    const bound = sql ? (await rowsOf<{ who: string }>(connection, sql, [id])).map(({ who }) => who) : []
    const standing = [...drawn, ...bound]
    if (standing.length > 0) throw refusals.stoodOn(kind, listed(standing), standing.length === 1)
  })
}

function listed(all: readonly string[]): string {
  const named = all.length > MOST_NAMED ? [...all.slice(0, MOST_NAMED - 1), `${all.length - MOST_NAMED + 1} more`] : all
  return named.length < 2 ? named.join('') : `${named.slice(0, -1).join(', ')} and ${named.at(-1)}`
}

/** @throws Refusal `not-found` where it is gone for good or was never removed, `name-taken` where another has its name by now */
export async function restore(database: Database, kind: Removable, id: number): Promise<void> {
  try {
    if (kind === 'gate') await checkConditionNames(database, id)
    const { rowCount } = await database.query(`update ${RELATIONS[kind]} set removed_at = null where id = $1 and removed_at is not null ${kind === 'run' ? WITH_ALL_BELOW : ''}`, [id])
    if (rowCount === 0) throw refusals.notFound(kind)
  } catch (error) {
    if (isUniqueViolation(error, 'data_table_name') || isUniqueViolation(error, 'gate_name')) throw refusals.nameTakenMeanwhile(kind)
    throw error
  }
}

/** Removes for good what nobody took back. */
export async function clearRemoved(database: Database): Promise<void> {
  await inTransaction(database, async (connection) => {
    const gone = async (relation: string) => (await rowsOf<{ id: number }>(connection, `select id from ${relation} where removed_at < now() - $1::interval`, [KEPT])).map(({ id }) => id)
    const [runs, gates, tables] = [await gone('run'), await gone('gate'), await gone('data_table')]
    const ended = await rowsOf<{ id: number }>(connection, 'delete from run where id = any($1) or gate_id = any($2) or table_id = any($3) returning id', [runs, gates, tables])
    for (const { id } of ended) await connection.query(`drop table if exists ${runRelation(id)}`)
    await connection.query('delete from gate_version where gate_id = any($1)', [gates])
    await connection.query('delete from gate where id = any($1)', [gates])
    await dropTables(connection, tables)
  })
}

async function dropTables(connection: Connection, ids: readonly number[]): Promise<void> {
  for (const id of ids) await dropStored(connection, id)
  await connection.query('delete from binding where table_id = any($1)', [ids])
  await connection.query('delete from data_table where id = any($1)', [ids])
}
