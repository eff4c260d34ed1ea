/** What is planned for gates on tables: fetched when it is asked for, and changed where somebody says what stands for an input. */
import { bindingSchema, type Bound } from '@dime-gate/contract/binding'
import { feedingGateSchema, type FeedingGate } from '@dime-gate/contract/gate'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { runSchema, type Run } from '@dime-gate/contract/run'
import { tableSchema, type Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { isSame } from '@dime-gate/core/gate/is-same'
import { shallowRef } from 'vue'
import { z } from 'zod'
import { ask, askWith, messageOf, RequestProblem } from '../shared/api'
import { bindingsNeeded, type PlannedGate, type PlannedInput, plannedInputs } from './plan'

/** A gate on a table. @property trouble what keeps it from being run at all @property fits whether it was ready when it was planned */
export interface Plan {
  key: string
  version: number
  fits: boolean
  gateId: number
  gateName: string
  table: Table
  gates: PlannedGate[]
  inputs: PlannedInput[]
  trouble: string
}

/** @property version its last one */
export interface Pair {
  gateId: number
  gateName: string
  version: number
  tableId: number
}

export const planKey = (gateId: number, tableId: number) => `${gateId} ${tableId}`

export function usePlans() {
  const plans = shallowRef<Plan[]>([])

  /** Those that fit come first. What was chosen for one stays. @param pairs gates with their last versions, each on a table @param isBound whether a gate was ever bound to a table */
  async function load(pairs: readonly Pair[], isBound: (gateId: number, tableId: number) => boolean): Promise<void> {
    const [tableOf, documentOf] = [onceEach((id: number) => ask(tableSchema, `/tables/${id}`)), onceEach(askDocument)]
    const bindingOf = async (gateId: number, tableId: number) => (isBound(gateId, tableId) ? boundOn(gateId, tableId) : null)
    const before = new Map(plans.value.map((plan) => [plan.key, plan]))
    const all = await Promise.all(pairs.map(async ({ gateId, gateName, version, tableId }): Promise<Plan> => {
      const key = planKey(gateId, tableId)
      const known = before.get(key)
      if (known?.version === version && known.inputs.some(({ how }) => how === 'chosen')) return known
      const table = await tableOf(tableId)
      const plan = { key, gateId, gateName, version, table, gates: [], inputs: [], fits: false }
      if (version === 0) return { ...plan, trouble: 'No version of it is set yet. Set one on its bench.' }
      try {
        const gates = await gatesOf(await documentOf(`/gates/${gateId}/versions/${version}`), { gateId, version, tableId }, bindingOf)
        const made = { ...plan, gates, inputs: plannedInputs(gates, table), trouble: '' }
        return { ...made, fits: isReady(made) }
      } catch (error) {
        return { ...plan, trouble: messageOf(error) }
      }
    }))
    plans.value = all.toSorted((one, other) => Number(other.fits) - Number(one.fits))
  }

  /** Says what stands for an input: of one gate on one table, wherever it is planned. */
  function stand(tableId: number, { gateId, input }: PlannedInput, bound: Bound): void {
    plans.value = plans.value.map((plan) => (plan.table.id !== tableId ? plan : {
      ...plan, inputs: plan.inputs.map((one) => (one.gateId === gateId && one.input.name === input.name ? { ...one, bound, how: 'chosen' as const } : one)),
    }))
  }

  /** Begins the run of one; what was chosen for it is remembered from here on. @throws RequestProblem */
  async function begin(plan: Plan): Promise<Run> {
    const { run, gates } = await beginRun(plan)
    plans.value = plans.value.map((one) => (one.key === plan.key ? { ...one, gates, inputs: one.inputs.map((input) => ({ ...input, how: 'bound' as const })) } : one))
    return run
  }

  return { plans, load, stand, begin }
}

/** Whether everything that it looks at has something that stands for it. */
export function isReady({ trouble, inputs }: Pick<Plan, 'trouble' | 'inputs'>): boolean {
  return trouble === '' && inputs.every(({ bound }) => bound !== null)
}

const askDocument = (path: string) => ask(gateDocumentSchema, path)

/** Asks for each thing once. */
function onceEach<Key, Found>(look: (key: Key) => Promise<Found>): (key: Key) => Promise<Found> {
  const asked = new Map<Key, Promise<Found>>()
  return (key) => asked.get(key) ?? asked.set(key, look(key)).get(key)!
}

/** A gate with those that feed it, each after those that feed it, as they are bound to a table. */
async function gatesOf(gate: Gate, { gateId, version, tableId }: Omit<Pair, 'gateName'>, bindingOf = boundOn): Promise<PlannedGate[]> {
  const isFed = gate.inputs.some(({ source }) => source.kind === 'gate')
  const feeding = isFed ? await ask(z.array(feedingGateSchema), `/gates/${gateId}/feeding/${tableId}`) : []
  const planned = async (id: number, one: Pick<PlannedGate, 'gate' | 'version'>): Promise<PlannedGate> => ({ ...one, id, bound: await bindingOf(id, tableId) })
  return Promise.all([...feeding.map((one: FeedingGate) => planned(one.gateId, one)), planned(gateId, { gate, version })])
}

async function boundOn(gateId: number, tableId: number): Promise<PlannedGate['bound']> {
  try {
    return await ask(bindingSchema, `/gates/${gateId}/bindings/${tableId}`)
  } catch (error) {
    if (error instanceof RequestProblem && error.status === 404) return null
    throw error
  }
}

/** Binds what is not bound yet, so that it is remembered, and begins the run. @returns it, and the gates as they are bound by now @throws RequestProblem */
async function beginRun({ gateId, table, gates, inputs }: Plan): Promise<{ run: Run; gates: PlannedGate[] }> {
  for (const { gateId: id, ...change } of bindingsNeeded(gates, inputs)) {
    // Another plan of this table may have bound it just so; what somebody else has bound otherwise is not written over.
    const now = await boundOn(id, table.id)
    if (!now || !isSame(now.inputs, change.inputs)) await askWith(bindingSchema, 'PUT', `/gates/${id}/bindings/${table.id}`, change)
  }
  const { gate, version } = gates.at(-1)!
  const now = await gatesOf(gate, { gateId, version, tableId: table.id })
  const [own, feeding] = [now.at(-1)!, now.slice(0, -1)]
  const run = await askWith(runSchema, 'POST', '/runs', {
    gateId, version: own.version, tableId: table.id, binding: own.bound!.version,
    feeding: feeding.map(({ id, version, bound }) => ({ gateId: id, version, binding: bound?.version ?? null })),
  })
  return { run, gates: now }
}
