/** Computes all figures of a table anew, in a thread, into a relation of their own; and those of the tables that it is drawn from. */
import { isComputed, type Table } from '@dime-gate/contract/table'
import { definitionsOf } from '@dime-gate/contract/table-figures'
import type { Column } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { copyIn } from '../database/copy-in'
import { type Connection, type Database, inTransaction, rowOf, rowsOf, whileReading } from '../database/database'
import { refusals } from '../http/refusal'
import { recordsBatches } from '../table/read-column'
import { recordsAt, valueOf } from '../table/relation'
import { tableItself } from '../table/table-itself'
import type { OnTask } from '../threads/serve-tasks'
import { countBlanks } from './changed-figures'
import { AT_ONCE, Together } from './compute-together'
import { figureReader } from './figure-batches'
import { fieldsOf, linesOf } from './figure-lines'
import { carryOn, groupsMet } from './follow-groups'
import { loadNetwork, type Network, standsOf, tablesBelow } from './network'
import { beneathOf, computable, figureColumns, figureRelation, type FigureState, isFresh } from './stored-figures'

export interface FigureTask {
  kind: 'figures'
  tableId: number
}

/** Any number will do that nobody else takes. */
const LOCK = 4171

/** @throws Refusal `not-found` */
export async function computeFigures({ tableId }: FigureTask, { database }: OnTask<never>): Promise<void> {
  const computed = await inTransaction(database, async (connection) => {
    // One after the other: tables that are drawn from one another are computed together.
    await connection.query('select pg_advisory_xact_lock($1)', [LOCK])
    const root = await tableItself(connection, tableId)
    if (!root) throw refusals.notFound('table')
    const network = await loadNetwork(connection, root)
    const stale: number[] = []
    for (const id of [...tablesBelow(network, tableId), tableId]) {
      const table = network.tables.get(id)
      if (
        table &&
        (table.rollUp !== null || table.columns.some(isComputed)) &&
        !isFresh(network.states.get(id), table, standsOf(network, id), network.day)
      )
        stale.push(id)
    }
    const left: number[] = []
    for (const id of stale) {
      const table = network.tables.get(id)!
      const groups = await groupsMet(connection, network, table, stale)
      if (groups) await finish(connection, network, table, (generation) => carryOn(connection, network, table, groups, generation))
      else left.push(id)
    }
    if (left.length === 0) return stale
    const only = network.tables.get(tableId)!
    const isAlone = network.tables.size === 1 && network.labels.size === 0 && only.columns.every(({ drawn }) => drawn === null)
    if (isAlone) await finish(connection, network, only, (generation) => fill(connection, database, only, network.day, generation))
    else {
      const together = new Together(connection, network, left)
      const now = await together.compute()
      for (const id of left) await finish(connection, now, now.tables.get(id)!, (generation) => together.keep(id, generation))
    }
    return stale
  })
  for (const id of computed) await dropOlder(database, id)
}

async function finish(
  connection: Connection,
  network: Network,
  table: Table,
  make: (generation: number) => Promise<void>,
): Promise<void> {
  const { generation } = (await rowOf<{ generation: number }>(connection, "select nextval('figure_generation')::int as generation"))!
  await make(generation)
  const beneath = table.rollUp && network.tables.get(table.rollUp.table)
  // What is drawn from elsewhere may hang on the day there.
  const isOfToday = computable(table).some(({ figure }) => figure.isOfToday) || table.columns.some(({ drawn }) => drawn !== null)
  const state: FigureState = {
    generation,
    tableVersion: table.version,
    asOf: isOfToday ? network.day : null,
    definitions: definitionsOf(table),
    stands: standsOf(network, table.id),
    beneath: beneath ? beneathOf(network, beneath) : null,
  }
  network.states.set(table.id, state)
  await connection.query(
    `
    insert into figure_state (table_id, generation, table_version, as_of, definitions, stands, beneath) values ($1, $2, $3, $4, $5, $6, $7)
    on conflict (table_id) do update set generation = $2, table_version = $3, as_of = $4, definitions = $5, stands = $6, beneath = $7`,
    [table.id, generation, table.version, state.asOf, ...[state.definitions, state.stands, state.beneath].map((part) => part && JSON.stringify(part))],
  )
  // In the order in which a change does both, so that neither ever waits for the other.
  await countBlanks(connection, table, generation)
}

/** One connection reads while another writes. */
async function fill(writing: Connection, database: Database, table: Table, day: string, generation: number): Promise<void> {
  const columns = figureColumns(table)
  const computed = computable(table).map(({ column }) => column)
  const relation = figureRelation(table.id, generation)
  await writing.query(`create table ${relation} (${fieldsOf(columns).join(', ')})`)
  const reader = figureReader(table, computed, parseDate(day)!)
  await copyIn(
    writing,
    `copy ${relation} (${['record', ...computed.map(({ id }) => valueOf(id))].join(', ')}) from stdin with (freeze)`,
    async (write) => {
      await whileReading(database, async (reading) => {
        for await (const batch of recordsBatches(
          reading,
          `${recordsAt(table.id, table.version)} order by record`,
          reader.sources,
          AT_ONCE,
        )) {
          const valueAt = reader.read(batch, 0)
          const lines = linesOf(
            batch.rows,
            computed.map(({ id }): Column => valueAt(id)),
          )
          if (lines) await write(lines)
        }
      })
    },
  )
  await writing.query(`alter table ${relation} add primary key (record)`)
}

/** Whoever reads the generation before goes on with it. */
async function dropOlder(database: Database, tableId: number): Promise<void> {
  const relations = await rowsOf<{ name: string }>(
    database,
    `
    select relname as name from pg_class where relnamespace = 'records'::regnamespace and relkind = 'r' and relname ~ $1
    order by substring(relname from '_(\\d+)$')::int desc offset 2`,
    [`^g${tableId}_\\d+$`],
  )
  for (const { name } of relations) await database.query(`drop table if exists records.${name}`)
}
