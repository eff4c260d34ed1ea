/** What a column that is drawn from elsewhere would come to; nothing of it is kept. */
import type { Drawn, Related } from '@dime-gate/contract/drawn'
import type { DrawnPreview } from '@dime-gate/contract/drawn-preview'
import { plainColumn, type Table } from '@dime-gate/contract/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { type Database, inTransaction, isOfTheData, type Queryable, rowOf } from '../database/database'
import { refusals } from '../http/refusal'
import { spreadOf } from '../table/profile'
import { recordsWithFigures, valueOf } from '../table/relation'
import { findTable } from '../table/tables'
import { typeOfDrawn } from './change-drawn'
import { type Drawing, drawnSql, keyText, type Readable } from './drawn-sql'
import type { Figures } from './figures'
import { loadNetwork, tablesBelow } from './network'
import { currentDay } from './stored-figures'

const MOST_KEYS = 1000
/** Stands for a column that the table does not have yet. */
const NEW = 2 ** 31

/** @param column the one that is being changed; null for a new one. @throws Refusal `not-found`, `not-a-figure` */
export async function previewDrawn(
  database: Database,
  figures: Figures,
  tableId: number,
  { drawn, column, record }: { drawn: Drawn; column: number | null; record: number | null },
): Promise<DrawnPreview> {
  if (drawn.kind === 'label') throw refusals.malformed('what a gate gives is seen on its bench.')
  const table = await figures.current(tableId)
  const id = column ?? NEW
  const now = { ...table, columns: [...table.columns.filter((one) => one.id !== id), plainColumn(id, 'the column', { drawn })] }
  for (const below of tablesBelow(await loadNetwork(database, now), tableId)) await figures.current(below).catch(() => undefined)
  return inTransaction(database, async (connection) => {
    const type = await typeOfDrawn(connection, table, { id, name: 'the column', drawn })
    const network = await loadNetwork(connection, now)
    const readables = new Map<number, Readable>([[tableId, { table, from: recordsWithFigures(table) }]])
    for (const below of tablesBelow(network, tableId)) {
      const there = await findTable(connection, below).catch(() => null)
      if (there) readables.set(below, { table: there, from: recordsWithFigures(there) })
    }
    const own = readables.get(tableId)!
    const drawing: Drawing = {
      own,
      other: (other) => readables.get(other) ?? null,
      today: parseDate(await currentDay(connection))!,
      asked: null,
    }
    const { joins, values } = drawnSql(drawing, [{ id, type, drawn }])
    const from = `(select record, ${values.get(id)!} as ${valueOf(id)} from ${own.from} ${joins}) as records`
    const counts = (await rowOf<{ computed: number; blank: number; value: string | null }>(
      connection,
      `select count(${valueOf(id)})::int as computed, (count(*) - count(${valueOf(id)}))::int as blank, max(${valueOf(id)}::text) filter (where record = $1) as value from ${from}`,
      [record],
    ))!
    return {
      type,
      ...counts,
      spread: await spreadOf(connection, from, { id, type }),
      keys: drawn.kind === 'related' && drawn.keys.length === 1 ? await keysOf(connection, drawing, drawn) : null,
    }
  }).catch((error: unknown) => {
    throw isOfTheData(error)
      ? refusals.notAFigure('the column', 'These values cannot be worked out together. Choose another column, or another condition.')
      : error
  })
}

async function keysOf(on: Queryable, { own, other }: Drawing, { table, keys: [key] }: Related): Promise<DrawnPreview['keys']> {
  const there = other(table)!
  const typeOf = ({ columns }: Table, id: number) => columns.find((one) => one.id === id)!.type
  const here = `select ${keyText(valueOf(key!.own), typeOf(own.table, key!.own), own.table.rollUp ? 'whole' : key!.part)} as k from ${own.from}`
  const far = `select ${keyText(valueOf(key!.theirs), typeOf(there.table, key!.theirs), key!.part)} as k from ${there.from}`
  const counted = async (of: string, where: string) =>
    (await rowOf<{ records: number; values: string[] }>(
      on,
      `with mine as (select k, count(*)::int as n from (${of}) as one where k is not null group by k)
      select coalesce(sum(n), 0)::int as records, coalesce((array_agg(k order by k))[1:${MOST_KEYS}], '{}') as values from mine where ${where}`,
    ))!
  return {
    alone: await counted(here, `not exists (select from (${far}) as two where two.k = mine.k)`),
    theirsAlone: await counted(far, `not exists (select from (${here}) as two where two.k = mine.k)`),
    twice: await counted(here, 'n > 1'),
    theirsTwice: await counted(far, 'n > 1'),
  }
}
