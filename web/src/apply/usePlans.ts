/** What is planned for gates on tables: fetched when it is asked for, and changed where somebody says what stands for an input. */
import { bindingSchema, type Bound } from '@dime-gate/contract/binding'
import { feedingGateSchema, type FeedingGate } from '@dime-gate/contract/gate'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { runSchema, type Run } from '@dime-gate/contract/run'
import { tableSchema, type Table } from '@dime-gate/contract/table'
import { isSame } from '@dime-gate/core/gate/is-same'
import { shallowRef } from 'vue'
import { z } from 'zod'
import { ask, askWith, messageOf, RequestProblem } from '../shared/api'
import { bindingsNeeded, type PlannedGate, type PlannedInput, plannedInputs } from './plan'

/** A gate on a table. @property trouble what keeps it from being run at all */
export interface Plan {
  key: string
  gateId: number
  gateName: string
  table: Table
  gates: PlannedGate[]
  inputs: PlannedInput[]
  trouble: string
}

export const planKey = (gateId: number, tableId: number) => `${gateId} ${tableId}`

export function usePlans() {
  const plans = shallowRef<Plan[]>([])

  /** @param pairs gates with their last versions, each on a table */
  async function load(pairs: readonly { gateId: number; gateName: string; version: number; tableId: number }[]): Promise<void> {
    const tables = new Map<number, Promise<Table>>()
    const tableOf = (id: number) => tables.get(id) ?? tables.set(id, ask(tableSchema, `/tables/${id}`)).get(id)!
    plans.value = await Promise.all(pairs.map(async ({ gateId, gateName, version, tableId }): Promise<Plan> => {
      const table = await tableOf(tableId)
      const plan = { key: planKey(gateId, tableId), gateId, gateName, table, gates: [], inputs: [] }
      if (version === 0) return { ...plan, trouble: 'No version of it is set yet. Set one on its bench.' }
      try {
        const gates = await gatesOf(gateId, version, tableId)
        return { ...plan, gates, inputs: plannedInputs(gates, table), trouble: '' }
      } catch (error) {
        return { ...plan, trouble: messageOf(error) }
      }
    }))
  }

  /** Says what stands for an input: of one gate on one table, wherever it is planned. */
  function stand(tableId: number, { gateId, input }: PlannedInput, bound: Bound): void {
    plans.value = plans.value.map((plan) => (plan.table.id !== tableId ? plan : {
      ...plan, inputs: plan.inputs.map((one) => (one.gateId === gateId && one.input.name === input.name ? { ...one, bound, how: 'chosen' as const } : one)),
    }))
  }

  return { plans, load, stand }
}

/** Whether everything that it looks at has something that stands for it. */
export function isReady({ trouble, inputs }: Plan): boolean {
  return trouble === '' && inputs.every(({ bound }) => bound !== null)
}

async function gatesOf(gateId: number, version: number, tableId: number): Promise<PlannedGate[]> {
  const gate = await ask(gateDocumentSchema, `/gates/${gateId}/versions/${version}`)
  const isFed = gate.inputs.some(({ source }) => source.kind === 'gate')
  const feeding = isFed ? await ask(z.array(feedingGateSchema), `/gates/${gateId}/feeding/${tableId}`) : []
  const planned = async (id: number, one: Pick<PlannedGate, 'gate' | 'version'>): Promise<PlannedGate> => ({ ...one, id, bound: await boundOn(id, tableId) })
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

/** Binds what is not bound yet, so that it is remembered, and begins the run. @throws RequestProblem */
export async function begin({ gateId, table, gates, inputs }: Plan): Promise<Run> {
  for (const { gateId: id, ...change } of bindingsNeeded(gates, inputs)) {
    // Another plan of this table may have bound it just so; what somebody else has bound otherwise is not written over.
    const now = await boundOn(id, table.id)
    if (!now || !isSame(now.inputs, change.inputs)) await askWith(bindingSchema, 'PUT', `/gates/${id}/bindings/${table.id}`, change)
  }
  const now = await gatesOf(gateId, gates.at(-1)!.version, table.id)
  const [own, feeding] = [now.at(-1)!, now.slice(0, -1)]
  return askWith(runSchema, 'POST', '/runs', {
    gateId, version: own.version, tableId: table.id, binding: own.bound!.version,
    feeding: feeding.map(({ id, version, bound }) => ({ gateId: id, version, binding: bound?.version ?? null })),
  })
}
