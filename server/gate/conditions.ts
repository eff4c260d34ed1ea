/** Named conditions: gates carry them along, and whatever gates carry one say the same of it. */
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import type { BoundInputs } from '@dime-gate/contract/binding'
import type { KnownCondition } from '@dime-gate/contract/condition'
import type { Gate, Input } from '@dime-gate/core/gate/document'
import { isSame } from '@dime-gate/core/gate/is-same'
import { conditionsOf, parcelOf, usesOf, withParcel } from '@dime-gate/core/gate/named-conditions'
import { type Connection, type Queryable, rowsOf } from '../database/database'
import { Refusal, refusals } from '../http/refusal'
import { tableItself } from '../table/table-itself'
import { checkGate } from './feeding'

interface Carrier {
  id: number
  draft: Gate
  isRemoved: boolean
  table: number | null
}

/** Gates that carry named conditions, the one that was changed last first. */
function carriers(on: Queryable): Promise<Carrier[]> {
  return rowsOf<Carrier>(on, `
    select g.id, g.draft, g.removed_at is not null as "isRemoved",
      (select b.table_id from binding b join data_table t on t.id = b.table_id where b.gate_id = g.id and t.removed_at is null order by b.changed_at desc, b.table_id desc limit 1) as "table"
    from gate g where jsonb_array_length(coalesce(g.draft -> 'conditions', '[]')) > 0 order by g.changed_at desc, g.id desc`)
}

/** By their names. */
export async function listConditions(on: Queryable): Promise<KnownCondition[]> {
  const known = new Map<string, KnownCondition>()
  for (const { id, draft, table, isRemoved } of await carriers(on)) {
    if (isRemoved) continue
    for (const condition of conditionsOf(draft)) {
      const before = known.get(condition.id) ?? { ...condition, parcel: parcelOf(draft, condition.id), gates: [] }
      known.set(condition.id, { ...before, gates: [...before.gates, { id, name: draft.name, table, rules: usesOf(draft, condition.name).rules }] })
    }
  }
  return [...known.values()].toSorted((a, b) => a.name.localeCompare(b.name))
}

/** Before anything is written: changes of conditions come one after the other, since each may change the gates of the others. */
export async function lockConditions(connection: Connection, before: Gate | null, draft: Gate): Promise<void> {
  if (!isSame(before?.conditions, draft.conditions)) await connection.query("select pg_advisory_xact_lock(hashtext('named conditions'))")
}

/**
 * What a gate's draft says of its conditions from now on, all others that carry them say too; with the inputs that are needed for it.
 * @param before null where the gate is new
 * @throws Refusal `name-taken` where another condition has a name, or says something else by now; `cannot-decide` where it does not go with another gate
 */
export async function shareConditions(connection: Connection, id: number, before: Gate | null, draft: Gate): Promise<void> {
  const [had, has] = [before ? conditionsOf(before) : [], conditionsOf(draft)]
  if (isSame(had, has)) return
  const others = (await carriers(connection)).filter((one) => one.id !== id)
  for (const condition of has) {
    const was = had.find((one) => one.id === condition.id)
    checkName(condition, others)
    const carrying = others.filter((other) => conditionsOf(other.draft).some((one) => one.id === condition.id))
    if (!was) {
      const moved = carrying.find((other) => !conditionsOf(other.draft).some((one) => isSame(one, condition)))
      if (moved) throw refusals.conditionMoved(condition.name, moved.draft.name)
    } else if (!isSame(was, condition)) {
      for (const other of carrying) other.draft = await carriedAlong(connection, id, draft, condition, other)
    }
  }
}

function checkName({ id, name }: { id: string; name: string }, others: readonly Carrier[]): void {
  const other = others.find((one) => !one.isRemoved && conditionsOf(one.draft).some((condition) => condition.name === name && condition.id !== id))
  if (other) throw refusals.conditionTaken(name, other.draft.name)
}

/** Before a removed gate comes back. @throws Refusal `name-taken` */
export async function checkConditionNames(on: Queryable, id: number): Promise<void> {
  const all = await carriers(on)
  const own = all.find((one) => one.id === id)
  for (const condition of own ? conditionsOf(own.draft) : []) checkName(condition, all.filter((one) => one.id !== id))
}

async function carriedAlong(connection: Connection, from: number, draft: Gate, condition: { id: string; name: string }, other: Carrier): Promise<Gate> {
  const { name } = other.draft
  const taken = withParcel(other.draft, parcelOf(draft, condition.id))
  if ('quarrel' in taken) throw refusals.conditionDoesNotFit(condition.name, name, `It has a “${taken.quarrel}” of its own, which is something else. Rename one of the two.`)
  try {
    // One that is removed decides nothing.
    if (!other.isRemoved) await checkGate(connection, taken.gate)
  } catch (error) {
    if (error instanceof Refusal) throw refusals.conditionDoesNotFit(condition.name, name, error.message)
    throw error
  }
  await connection.query('update gate set draft = $2, draft_version = draft_version + 1, changed_at = now() where id = $1', [other.id, taken.gate])
  if (taken.added.length > 0) await bindAdded(connection, from, other.id, taken.added)
  return taken.gate
}

/** What stands for an input in a table stands for it there too; elsewhere the columns' names say it. */
async function bindAdded(connection: Connection, from: number, to: number, added: readonly Input[]): Promise<void> {
  const bindings = await rowsOf<{ tableId: number; inputs: BoundInputs; known: BoundInputs | null }>(connection, `
    select b.table_id as "tableId", b.inputs, o.inputs as known from binding b left join binding o on o.gate_id = $1 and o.table_id = b.table_id where b.gate_id = $2`, [from, to])
  for (const { tableId, inputs, known } of bindings) {
    const { columns, sets } = (await tableItself(connection, tableId))!
    const own = Object.fromEntries(added.flatMap(({ name }) => (known?.[name] ? [[name, known[name]]] : [])))
    const next = { ...boundByNames(added, columns, sets), ...own, ...inputs }
    await connection.query('update binding set inputs = $3, version = version + 1, changed_at = now() where gate_id = $1 and table_id = $2', [to, tableId, next])
  }
}
