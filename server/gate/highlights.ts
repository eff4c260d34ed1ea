/** Highlights of gates, kept as one list in order. */
import type { HighlightChange, HighlightList } from '@dime-gate/contract/highlight'
import { type Database, inTransaction, type Queryable, rowOf } from '../database/database'
import { refusals } from '../http/refusal'
import { findGate } from './gates'

/** @throws Refusal `not-found` */
export async function findHighlights(on: Queryable, gateId: number): Promise<HighlightList> {
  await findGate(on, gateId)
  return (await rowOf<HighlightList>(on, 'select highlights_version as version, highlights from gate where id = $1', [gateId]))!
}

/** @throws Refusal `not-found`, `stale` */
export async function changeHighlights(database: Database, gateId: number, { seen, highlights }: HighlightChange): Promise<HighlightList> {
  return inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    const { version } = await findHighlights(connection, gateId)
    if (version !== seen) throw refusals.staleHighlights((await findGate(connection, gateId)).draft.name)
    await connection.query('update gate set highlights = $2, highlights_version = highlights_version + 1 where id = $1', [gateId, JSON.stringify(highlights)])
    return findHighlights(connection, gateId)
  })
}
