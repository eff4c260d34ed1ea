/** Gates name those that feed them. One that gets another name takes the drafts along; its versions, and those of others, know it by the name that it had. */
import type { Gate as GateDocument } from '@dime-gate/core/gate/document'
import { type Connection, rowOf, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'

/** @throws Refusal `name-taken` where another gate had the name, and is known by it still */
export async function checkFormerNames(connection: Connection, own: number | null, name: string): Promise<void> {
  const other = await rowOf<{ name: string }>(
    connection,
    "select draft ->> 'name' as name from gate where removed_at is null and $2 = any(former_names) and id is distinct from $1",
    [own, name],
  )
  if (other) throw refusals.formerName(name, other.name)
}

/** Once the gate's draft is written. */
export async function renamed(connection: Connection, id: number, before: string, name: string): Promise<void> {
  await connection.query(
    'update gate set former_names = array_remove(case when $2 = any(former_names) then former_names else former_names || $2::text end, $3::text) where id = $1',
    [id, before, name],
  )
  const others = await rowsOf<{ id: number; draft: GateDocument }>(
    connection,
    "select id, draft from gate where id <> $1 and exists (select from jsonb_array_elements(draft -> 'inputs') i where i -> 'source' ->> 'gate' = $2) for update",
    [id, before],
  )
  for (const { id: other, draft } of others) {
    const inputs = draft.inputs.map((input) =>
      input.source.kind === 'gate' && input.source.gate === before ? { ...input, source: { ...input.source, gate: name } } : input,
    )
    await connection.query('update gate set draft = $2, draft_version = draft_version + 1, changed_at = now() where id = $1', [
      other,
      { ...draft, inputs },
    ])
  }
}
