import type { Gate, NewGate } from '@dime-gate/contract/gate'
import { type Database, inTransaction, rowOf } from '../database/database'
import { findTable } from '../table/tables'
import { writeBinding } from './bindings'
import { findGate, namedOnce } from './gates'

/** @returns the new gate, bound where that is asked. @throws Refusal `name-taken`, `no-such-column`, `wrong-type` */
export async function createGate(database: Database, { draft, binding }: NewGate): Promise<Gate> {
  return namedOnce(draft, () => inTransaction(database, async (connection) => {
    const { id } = (await rowOf<{ id: number }>(connection, 'insert into gate (draft) values ($1) returning id', [draft]))!
    if (binding) {
      await findTable(connection, binding.tableId)
      await writeBinding(connection, id, draft, binding.tableId, binding.inputs)
    }
    return findGate(connection, id)
  }))
}
