import type { Gate, NewGate } from '@dime-gate/contract/gate'
import { type Database, inTransaction, rowOf } from '../database/database'
import { copyName } from '../copy-name'
import { findTable } from '../table/tables'
import { writeBinding } from './bindings'
import { lockConditions, shareConditions } from './conditions'
import { checkGate } from './feeding'
import { findGate, listGates, namedOnce } from './gates'
import { checkFormerNames } from './rename'

/** @returns the new gate, bound where that is asked. @throws Refusal `name-taken`, `no-such-column`, `wrong-type`, `cannot-decide` */
export async function createGate(database: Database, { draft, binding }: NewGate): Promise<Gate> {
  await checkGate(database, draft)
  return namedOnce(draft, () => inTransaction(database, async (connection) => {
    await checkFormerNames(connection, null, draft.name)
    await lockConditions(connection, null, draft)
    const { id } = (await rowOf<{ id: number }>(connection, 'insert into gate (draft) values ($1) returning id', [draft]))!
    await shareConditions(connection, id, null, draft)
    if (binding) {
      await findTable(connection, binding.tableId)
      await writeBinding(connection, id, draft, binding.tableId, binding.inputs)
    }
    return findGate(connection, id)
  }))
}

/** A gate of its own with the same draft, bound as this one is, of which the same is expected and pointed out. Versions and runs stay with the first. @throws Refusal `not-found` */
export async function copyGate(database: Database, id: number): Promise<Gate> {
  return inTransaction(database, async (connection) => {
    const { draft } = await findGate(connection, id)
    const name = copyName(draft.name, (await listGates(connection)).map((one) => one.name))
    const copy = (await rowOf<{ id: number }>(connection, 'insert into gate (draft, highlights) select $2, highlights from gate where id = $1 returning id', [id, { ...draft, name }]))!
    await connection.query('insert into binding (gate_id, table_id, inputs) select $2, table_id, inputs from binding where gate_id = $1', [id, copy.id])
    await connection.query('insert into expectation (gate_id, table_id, document) select $2, table_id, document from expectation where gate_id = $1 order by id', [id, copy.id])
    return findGate(connection, copy.id)
  })
}
