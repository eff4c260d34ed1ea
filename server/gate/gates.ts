/** Gates: their drafts, bindings and set versions. */
import { isDeepStrictEqual } from 'node:util'
import type { DraftChange, Gate, GateSummary, NewGate } from '@dime-gate/contract/gate'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Database, inTransaction, isUniqueViolation, type Queryable, rowOf, rowsOf } from '../database/database'
import { conflict, notFound, unprocessable } from '../http/refusal'
import { columnsOf } from '../table/tables'

const GATE = `
  select g.id, g.draft, g.draft_version as "draftVersion", g.table_id as "tableId", g.column_id as "columnId",
    coalesce(v.number, 0) as "latestVersion", v.document as latest
  from gate g left join lateral (select number, document from gate_version where gate_id = g.id order by number desc limit 1) v on true`

export async function listGates(on: Queryable): Promise<GateSummary[]> {
  const rows = await rowsOf<Omit<GateSummary, 'bands'> & { draft: ScaleGate }>(on, `
    select g.id, g.draft ->> 'name' as name, g.table_id as "tableId", t.name as "tableName", c.name as "columnName",
      coalesce((select max(number) from gate_version where gate_id = g.id), 0) as "latestVersion",
      g.draft, to_json(g.changed_at) #>> '{}' as "changedAt"
    from gate g join data_table t on t.id = g.table_id join data_column c on c.id = g.column_id order by g.id desc`)
  return rows.map(({ draft, ...gate }) => ({ ...gate, bands: bandsOf(draft) }))
}

/** @throws Refusal `not-found` */
export async function findGate(on: Queryable, id: number): Promise<Gate> {
  const gate = await rowOf<Gate>(on, `${GATE} where g.id = $1`, [id])
  if (!gate) throw notFound('gate')
  return gate
}

/** @returns the new gate. @throws Refusal `name-taken`, `no-such-column` */
export async function createGate(database: Database, { draft, tableId, columnId }: NewGate): Promise<Gate> {
  await checkBinding(database, tableId, columnId)
  return namedOnce(draft, async () => {
    const { id } = (await rowOf<{ id: number }>(database, 'insert into gate (draft, table_id, column_id) values ($1, $2, $3) returning id', [draft, tableId, columnId]))!
    return findGate(database, id)
  })
}

/** @throws Refusal `stale` where the draft has moved since it was seen, `name-taken`, `no-such-column` */
export async function changeDraft(database: Database, id: number, { draft, tableId, columnId, seen }: DraftChange): Promise<Gate> {
  await checkBinding(database, tableId, columnId)
  return namedOnce(draft, async () => {
    const { rowCount } = await database.query(`
      update gate set draft = $2, table_id = $3, column_id = $4, draft_version = draft_version + 1, changed_at = now()
      where id = $1 and draft_version = $5`, [id, draft, tableId, columnId, seen])
    const gate = await findGate(database, id)
    if (rowCount === 0) throw staleDraft(seen, gate)
    return gate
  })
}

/** Freezes the draft as the next version. @throws Refusal `stale`, or `nothing-new` where it equals the last version */
export async function setVersion(database: Database, id: number, seen: number): Promise<Gate> {
  return inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [id])
    const gate = await findGate(connection, id)
    if (gate.draftVersion !== seen) throw staleDraft(seen, gate)
    if (isDeepStrictEqual(gate.draft, gate.latest)) throw conflict('nothing-new', `The draft is the same as version ${gate.latestVersion}; there is nothing new to set.`)
    await connection.query('insert into gate_version (gate_id, number, document) values ($1, $2, $3)', [id, gate.latestVersion + 1, gate.draft])
    return findGate(connection, id)
  })
}

export async function findVersion(on: Queryable, gateId: number, number: number): Promise<ScaleGate> {
  const row = await rowOf<{ document: ScaleGate }>(on, 'select document from gate_version where gate_id = $1 and number = $2', [gateId, number])
  if (!row) throw notFound('version of this gate')
  return row.document
}

function staleDraft(seen: number, { draftVersion, draft }: Gate): Error {
  const changes = draftVersion - seen
  return conflict('stale', `“${draft.name}” was changed elsewhere, ${changes === 1 ? 'once' : `${changes} times`}, since this page last saw it.`)
}

async function checkBinding(on: Queryable, tableId: number, columnId: number): Promise<void> {
  const column = (await columnsOf(on, tableId)).find(({ id }) => id === columnId)
  if (!column) throw unprocessable('no-such-column', 'The table does not have that column. Choose another.')
  if (!isNumeric(column.type)) throw unprocessable('not-numeric', `“${column.name}” holds ${column.type} values; a scale needs a column of numbers.`)
}

async function namedOnce<Result>({ name }: ScaleGate, write: () => Promise<Result>): Promise<Result> {
  try {
    return await write()
  } catch (error) {
    if (isUniqueViolation(error, 'gate_name')) throw conflict('name-taken', `There is already a gate named “${name}”. Give this one another name.`)
    throw error
  }
}
