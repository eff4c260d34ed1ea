/** The gates whose outcomes another gate takes, and whether a gate can decide at all. */
import { type BoundInputs, standingInputs } from '@dime-gate/contract/binding'
import type { FeedingGate, FeedingSeen } from '@dime-gate/contract/gate'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { type Queryable, rowOf } from '../database/database'
import { refusals } from '../http/refusal'

interface Named {
  id: number
  draft: Gate
  version: number | null
  latest: Gate | null
}

/** By the name that whoever is fed knows it by: its name of today, or one that it had. It is told under that name, whatever its versions were called when they were set. */
async function gateNamed(on: Queryable, name: string): Promise<Named | null> {
  const found = await rowOf<Named>(on, `
    select g.id, g.draft, v.number as version, v.document as latest from gate g
    left join lateral (select number, document from gate_version where gate_id = g.id order by number desc limit 1) v on true
    where (g.draft ->> 'name' = $1 or $1 = any(g.former_names)) and g.removed_at is null`, [name])
  return found && { ...found, draft: { ...found.draft, name } }
}

/** Those that feed a gate, and those that feed them, each after those that feed it. Unknown ones are left out; rings are cut. */
async function namedBehind(on: Queryable, gate: Gate, known = new Map<string, Named | null>([[gate.name, null]])): Promise<Named[]> {
  const found: Named[] = []
  for (const { source } of gate.inputs) {
    if (source.kind !== 'gate' || known.has(source.gate)) continue
    const named = await gateNamed(on, source.gate)
    known.set(source.gate, named)
    if (named) found.push(...await namedBehind(on, named.latest ?? named.draft, known), named)
  }
  return found
}

/** @throws Refusal `cannot-decide` saying what keeps it from it */
export async function checkGate(on: Queryable, gate: Gate): Promise<void> {
  const behind = (await namedBehind(on, gate)).map(({ draft, latest }) => ({ gate: { ...(latest ?? draft), name: draft.name }, inputs: {} }))
  const asked = gatesAsked({ gate, feeding: behind })
  if ('gates' in asked) return
  const [first] = asked.problems
  throw refusals.cannotDecide(gateProblemWords(first!), first!.path)
}

/** By their last versions, whatever they are bound to. @throws Refusal `no-version` where one has none */
export async function feedingVersions(on: Queryable, gate: Gate): Promise<{ gateId: number; version: number; gate: Gate }[]> {
  return (await namedBehind(on, gate)).map(({ id, draft, version, latest }) => {
    if (!latest) throw refusals.noVersion(gate.name, draft.name)
    return { gateId: id, version: version!, gate: { ...latest, name: draft.name } }
  })
}

/**
 * As they are used with a table: by their last versions, as they are bound to it.
 * @throws Refusal `no-version` where one has none
 */
export async function feedingGates(on: Queryable, gate: Gate, table: Pick<Table, 'id' | 'sets' | 'columns'>): Promise<FeedingGate[]> {
  const feeding: FeedingGate[] = []
  for (const { id, draft, version, latest } of await namedBehind(on, gate)) {
    if (!latest) throw refusals.noVersion(gate.name, draft.name)
    const bound = await rowOf<{ inputs: BoundInputs; binding: number }>(on, 'select inputs, version as binding from binding where gate_id = $1 and table_id = $2', [id, table.id])
    feeding.push({ gateId: id, version: version!, gate: { ...latest, name: draft.name }, inputs: standingInputs(bound?.inputs ?? {}, table), binding: bound?.binding ?? null })
  }
  return feeding
}

/** @returns the name of a gate that feeds another way than it was seen to; null where all do as they were seen */
export function feedsOtherwise(feeding: readonly FeedingGate[], seen: readonly FeedingSeen[]): string | null {
  const isSeen = ({ gateId, version, binding }: FeedingGate) => seen.some((one) => one.gateId === gateId && one.version === version && one.binding === binding)
  return feeding.find((one) => !isSeen(one))?.gate.name ?? null
}
