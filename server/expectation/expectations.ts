/** Expectations of gates, kept and taken away. */
import { type ExpectationRequest, type KeptExpectation, MOST_EXPECTATIONS } from '@dime-gate/contract/expectation'
import { type Database, inTransaction, type Queryable, rowOf, rowsOf } from '../database/database'
import { findGate } from '../gate/gates'
import { refusals } from '../http/refusal'
import { findTable } from '../table/tables'

const KEPT = 'select e.id, e.table_id as "tableId", e.document as expectation from expectation e'

/** In the order in which they were added. @throws Refusal `not-found` */
export async function listExpectations(on: Queryable, gateId: number): Promise<KeptExpectation[]> {
  await findGate(on, gateId)
  return rowsOf<KeptExpectation>(on, `${KEPT} where gate_id = $1 order by id`, [gateId])
}

/** Those that hold for a gate on one table. */
export async function expectationsOn(on: Queryable, gateId: number, tableId: number): Promise<KeptExpectation[]> {
  return rowsOf<KeptExpectation>(on, `${KEPT} where gate_id = $1 and (table_id is null or table_id = $2) order by id`, [gateId, tableId])
}

/** All of them, or none. What is there already is not added again. @throws Refusal `not-found`, `too-large` */
export async function addExpectations(database: Database, gateId: number, { add }: ExpectationRequest): Promise<KeptExpectation[]> {
  return inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    await findGate(connection, gateId)
    for (const tableId of new Set(add.map((one) => one.tableId))) if (tableId !== null) await findTable(connection, tableId)
    for (const { tableId, expectation } of add)
      await connection.query(
        'insert into expectation (gate_id, table_id, document) select $1, $2, $3::jsonb where not exists (select from expectation where gate_id = $1 and table_id is not distinct from $2 and document = $3::jsonb)',
        [gateId, tableId, expectation],
      )
    const { kept } = (await rowOf<{ kept: number }>(connection, 'select count(*)::int as kept from expectation where gate_id = $1', [gateId]))!
    if (kept > MOST_EXPECTATIONS) throw refusals.tooManyExpectations(MOST_EXPECTATIONS)
    return listExpectations(connection, gateId)
  })
}

/** @throws Refusal `not-found` */
export async function removeExpectation(database: Database, gateId: number, id: number): Promise<void> {
  const { rowCount } = await database.query('delete from expectation where id = $2 and gate_id = $1', [gateId, id])
  if (rowCount === 0) throw refusals.notFound('expectation of this gate')
}
