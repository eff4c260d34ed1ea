/** Gates: their drafts and set versions. */
import { isDeepStrictEqual } from 'node:util'
import type { DraftChange, Gate, GateSummary, VersionSummary } from '@dime-gate/contract/gate'
import type { Gate as GateDocument, Label } from '@dime-gate/core/gate/document'
import { type Database, inTransaction, isUniqueViolation, type Queryable, rowOf, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'
import { lockConditions, shareConditions } from './conditions'
import { checkGate } from './feeding'
import { checkFormerNames, renamed } from './rename'

const GATE = `
  select g.id, g.draft, g.draft_version as "draftVersion", coalesce(v.number, 0) as "latestVersion", v.document as latest
  from gate g left join lateral (select number, document from gate_version where gate_id = g.id order by number desc limit 1) v on true`

export async function listGates(on: Queryable): Promise<GateSummary[]> {
  const rows = await rowsOf<Omit<GateSummary, 'labels'> & { labels: Label[] }>(on, `
    select g.id, g.draft ->> 'name' as name, g.draft ->> 'form' as form, to_json(g.changed_at) #>> '{}' as "changedAt",
      jsonb_path_query_array(g.draft, '$.outcomes[0].labels[*]') as labels,
      (select coalesce(json_agg(distinct input -> 'source' ->> 'gate'), '[]') from jsonb_array_elements(g.draft -> 'inputs') as input where input -> 'source' ->> 'kind' = 'gate') as "fedBy",
      coalesce((select max(number) from gate_version where gate_id = g.id), 0) as "latestVersion",
      coalesce((select json_agg(json_build_object('id', t.id, 'name', t.name) order by b.changed_at desc, t.id desc)
        from binding b join data_table t on t.id = b.table_id where b.gate_id = g.id and t.removed_at is null), '[]') as tables
    from gate g where g.removed_at is null order by g.id desc`)
  return rows.map((gate) => ({ ...gate, labels: gate.labels.map(({ value, colour, mark }) => ({ label: value, colour, mark })) }))
}

/** @throws Refusal `not-found` */
export async function findGate(on: Queryable, id: number): Promise<Gate> {
  const gate = await rowOf<Gate>(on, `${GATE} where g.id = $1 and g.removed_at is null`, [id])
  if (!gate) throw refusals.notFound('gate')
  return gate
}

/** @throws Refusal `stale` where the draft has moved since it was seen, `name-taken`, `cannot-decide` */
export async function changeDraft(database: Database, id: number, { draft, seen }: DraftChange): Promise<Gate> {
  await checkGate(database, draft)
  return namedOnce(draft, () => inTransaction(database, async (connection) => {
    await checkFormerNames(connection, id, draft.name)
    const before = await findGate(connection, id)
    await lockConditions(connection, before.draft, draft)
    const { rowCount } = await connection.query('update gate set draft = $2, draft_version = draft_version + 1, changed_at = now() where id = $1 and draft_version = $3', [id, draft, seen])
    const gate = await findGate(connection, id)
    if (rowCount === 0) throw staleDraft(seen, gate)
    await shareConditions(connection, id, before.draft, draft)
    if (before.draft.name !== draft.name) await renamed(connection, id, before.draft.name, draft.name)
    return gate
  }))
}

/** Freezes the draft as the next version. @throws Refusal `stale`, or `nothing-new` where it equals the last version */
export async function setVersion(database: Database, id: number, seen: number, note = ''): Promise<Gate> {
  return inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [id])
    const gate = await findGate(connection, id)
    if (gate.draftVersion !== seen) throw staleDraft(seen, gate)
    if (isDeepStrictEqual(gate.draft, gate.latest)) throw refusals.nothingNew(gate.latestVersion)
    await connection.query('insert into gate_version (gate_id, number, document, note) values ($1, $2, $3, $4)', [id, gate.latestVersion + 1, gate.draft, note])
    return findGate(connection, id)
  })
}

/** The newest first. @throws Refusal `not-found` */
export async function listVersions(on: Queryable, gateId: number): Promise<VersionSummary[]> {
  await findGate(on, gateId)
  return rowsOf(on, `select number, to_json(set_at) #>> '{}' as "setAt", note from gate_version where gate_id = $1 order by number desc`, [gateId])
}

/** @throws Refusal `not-found` */
export async function findVersion(on: Queryable, gateId: number, number: number): Promise<GateDocument> {
  const row = await rowOf<{ document: GateDocument }>(on, 'select document from gate_version where gate_id = $1 and number = $2', [gateId, number])
  if (!row) throw refusals.notFound('version of this gate')
  return row.document
}

function staleDraft(seen: number, { draftVersion, draft }: Gate): Error {
  return refusals.staleDraft(draft.name, draftVersion - seen)
}

/** @throws Refusal `name-taken` */
export async function namedOnce<Result>({ name }: GateDocument, write: () => Promise<Result>): Promise<Result> {
  try {
    return await write()
  } catch (error) {
    if (isUniqueViolation(error, 'gate_name')) throw refusals.nameTaken('gate', name)
    throw error
  }
}
