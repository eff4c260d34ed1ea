/** What a gate says to each record, kept beside it. */
import type { GateSentence, SentenceChange } from '@dime-gate/contract/slip'
import { type Database, inTransaction, type Queryable, rowOf } from '../database/database'
import { findGate } from '../gate/gates'
import { refusals } from '../http/refusal'

/** @throws Refusal `not-found` */
export async function findSentence(on: Queryable, gateId: number): Promise<GateSentence> {
  const found = await rowOf<GateSentence>(on, 'select sentence_version as version, sentence from gate where id = $1 and removed_at is null', [gateId])
  if (!found) throw refusals.notFound('gate')
  return found
}

/** @throws Refusal `not-found`, `stale` */
export async function changeSentence(database: Database, gateId: number, { seen, sentence }: SentenceChange): Promise<GateSentence> {
  return inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    const { draft } = await findGate(connection, gateId)
    if ((await findSentence(connection, gateId)).version !== seen) throw refusals.staleSentence(draft.name)
    await connection.query('update gate set sentence = $2, sentence_version = sentence_version + 1 where id = $1', [gateId, sentence])
    return findSentence(connection, gateId)
  })
}
