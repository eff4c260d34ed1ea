/** Computes all figures of a table anew, in a thread, into a relation of their own. */
import type { Table } from '@dime-gate/contract/table'
import type { Column } from '@dime-gate/core/table/table'
import { valueTextAt } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { copyIn } from '../database/copy-in'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import { type Connection, type Database, inTransaction, rowOf, rowsOf, whileReading } from '../database/database'
import { SQL_TYPES } from '../table/column-types'
import { recordsBatches } from '../table/read-column'
import { recordsAt, valueOf } from '../table/relation'
import { findTable } from '../table/tables'
import type { OnTask } from '../threads/serve-tasks'
import { countBlanks } from './changed-figures'
import { figureReader } from './figure-batches'
import { computable, currentDay, definitionsOf, figureColumns, figureRelation, figureState, isFresh } from './stored-figures'

export interface FigureTask {
  kind: 'figures'
  tableId: number
}

const AT_ONCE = 65_536
/** Any number will do that nobody else takes. */
const LOCK = 4171

/** @throws Refusal `not-found` */
export async function computeFigures({ tableId }: FigureTask, { database }: OnTask<never>): Promise<void> {
  await inTransaction(database, async (connection) => {
    await connection.query('select pg_advisory_xact_lock($1, $2::bigint::int)', [LOCK, tableId])
    const [table, day, state] = [await findTable(connection, tableId), await currentDay(connection), await figureState(connection, tableId)]
    if (isFresh(state, table, day)) return
    const { generation } = (await rowOf<{ generation: number }>(connection, "select nextval('figure_generation')::int as generation"))!
    await fill(connection, database, table, day, generation)
    const isOfToday = computable(table).some(({ figure }) => figure.isOfToday)
    await connection.query(
      `
      insert into figure_state (table_id, generation, table_version, as_of, definitions) values ($1, $2, $3, $4, $5)
      on conflict (table_id) do update set generation = $2, table_version = $3, as_of = $4, definitions = $5`,
      [tableId, generation, table.version, isOfToday ? day : null, JSON.stringify(definitionsOf(table))],
    )
    // In the order in which a change does both, so that neither ever waits for the other.
    await countBlanks(connection, table, generation)
  })
  await dropOlder(database, tableId)
}

/** One connection reads while another writes. */
async function fill(writing: Connection, database: Database, table: Table, day: string, generation: number): Promise<void> {
  const columns = figureColumns(table)
  const computed = computable(table).map(({ column }) => column)
  const relation = figureRelation(table.id, generation)
  await writing.query(
    `create table ${relation} (${['record integer not null', ...columns.map(({ id, type }) => `${valueOf(id)} ${SQL_TYPES[type]}`)].join(', ')})`,
  )
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
          const values = computed.map(({ id }): Column => valueAt(id))
          const lines = Array.from({ length: batch.rows.length }, (_, at) =>
            [batch.rows.whole(at, 0), ...values.map((column) => copied(valueTextAt(column, at)))].join('\t'),
          )
          if (lines.length > 0) await write(Buffer.from(`${lines.join('\n')}\n`))
        }
      })
    },
  )
  await writing.query(`alter table ${relation} add primary key (record)`)
}

function copied(text: string | null): string {
  return text === null ? COPY_NULL : toCopyText(text)
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
