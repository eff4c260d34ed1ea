/** What is there besides a table: other tables with their columns, and the gates that are bound to it. */
import { deskSchema } from '@dime-gate/contract/desk'
import { gateSchema, type GateSummary } from '@dime-gate/contract/gate'
import { type Table, tableSchema, type TableSummary } from '@dime-gate/contract/table'
import { computed, onMounted, type Ref, ref, shallowRef } from 'vue'
import { ask, messageOf } from '../shared/api'
import type { World } from './drawn-sentence'

/** Tables that are looked at before anybody chooses one. */
const MOST_KNOWN = 20

/** @param own the column that is being changed; null for a new one */
export function useWorld(table: Ref<Table>, own: number | null) {
  const tables = shallowRef<TableSummary[]>([])
  const gates = shallowRef<GateSummary[]>([])
  const outcomes = shallowRef<ReadonlyMap<number, string[]>>(new Map())
  const known = shallowRef<ReadonlyMap<number, Table>>(new Map())
  const trouble = ref('')
  /** Whether so much is here that it can be told which table is meant most likely: by what its columns are called. */
  const isKnown = ref(false)
  const asked = new Set<number>()

  const world = computed((): World => {
    const others = known.value
    return {
      table: table.value,
      own,
      tables: tables.value,
      gates: gates.value,
      outcomes: outcomes.value,
      other: (id) => (id === table.value.id ? table.value : (others.get(id) ?? null)),
    }
  })

  async function tell(work: () => Promise<void>): Promise<void> {
    try {
      await work()
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  async function wantTable(id: number): Promise<void> {
    if (id === table.value.id || asked.has(id)) return
    asked.add(id)
    await tell(async () => {
      const found = await ask(tableSchema, `/tables/${id}`)
      known.value = new Map([...known.value, [id, found]])
    })
  }

  onMounted(() =>
    tell(async () => {
      const desk = await ask(deskSchema, '/desk')
      tables.value = desk.tables
      gates.value = desk.gates.filter((gate) => gate.tables.some(({ id }) => id === table.value.id))
      for (const { id } of gates.value) {
        const { draft } = await ask(gateSchema, `/gates/${id}`)
        outcomes.value = new Map([...outcomes.value, [id, draft.outcomes.map(({ name }) => name)]])
      }
      await Promise.all(tables.value.slice(0, MOST_KNOWN).map(({ id }) => wantTable(id)))
      isKnown.value = true
    }),
  )

  return { world, isKnown, trouble, wantTable: (id: number) => void wantTable(id) }
}
