<script setup lang="ts">
/** What people already have becomes a gate of its own, or several that feed each other. */
import type { BoundInputs } from '@dime-gate/contract/binding'
import { deskSchema, type Desk } from '@dime-gate/contract/desk'
import { gateSchema } from '@dime-gate/contract/gate'
import { type Table, tableSchema } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import { ask, askWith } from '../shared/api'
import { counted } from '../shared/format'
import { useAsOf } from '../shared/useAsOf'
import { useTelling } from '../shared/useTelling'
import { useTitle } from '../shared/useTitle'
import { useWorkspace } from '../shared/workspace'
import SourceSides from './SourceSides.vue'

/** @property on the table that it is for; null where that is still to be said */
const props = defineProps<{ on: number | null }>()
const router = useRouter()
const workspace = useWorkspace()
const { asOf } = useAsOf()
useTitle(() => 'Bring in a gate')

const desk = shallowRef<Desk | null>(null)
const table = shallowRef<Table | null>(null)
const tableId = ref<number | null>(props.on)
const became = shallowRef<{ gate: Gate; inputs: BoundInputs }[]>([])
/** Told anew only when the desk is: what reads it would read for ever. */
const taken = computed(() => (desk.value?.gates ?? []).map((gate) => gate.name))
const { trouble, tell } = useTelling()
const isBusy = ref(false)

onMounted(() => tell(async () => {
  if (workspace.asOf === null) await workspace.load()
  desk.value = await ask(deskSchema, '/desk')
  // Of several tables nobody knows which is meant.
  if (desk.value.tables.length === 1) tableId.value ??= desk.value.tables[0]!.id
}))
watch(tableId, (id) => id !== null && tell(async () => void (table.value = await ask(tableSchema, `/tables/${id}`))), { immediate: true })

async function make(): Promise<void> {
  if (isBusy.value) return
  isBusy.value = true
  await tell(async () => {
    const made: number[] = []
    try {
      await makeInto(made)
    } catch (error) {
      // All of them, or none: half of what was meant would be in the way of the next attempt.
      for (const id of made.toReversed()) await askWith(z.object({}), 'DELETE', `/gates/${id}`, {}).catch(() => undefined)
      throw error
    }
    await router.push(tableId.value === null ? '/gates' : { path: `/gates/${made.at(-1)}`, query: { on: tableId.value } })
  })
  isBusy.value = false
}

/** Those that feed others get a first version, so that the others can decide. */
async function makeInto(made: number[]): Promise<void> {
  const feeding = new Set(became.value.flatMap(({ gate }) => gate.inputs.flatMap((one) => (one.source.kind === 'gate' ? [one.source.gate] : []))))
  for (const { gate, inputs } of became.value) {
    const binding = tableId.value === null ? null : { tableId: tableId.value, inputs }
    const { id, draftVersion } = await askWith(gateSchema, 'POST', '/gates', { draft: gate, binding })
    made.push(id)
    if (feeding.has(gate.name)) await askWith(gateSchema, 'POST', `/gates/${id}/versions`, { seen: draftVersion, note: 'as it was brought in' })
  }
}
</script>

<template>
  <section class="bring">
    <header>
      <h1>Bring in a gate</h1>
      <p class="second">A chart of thresholds, a nested conditional in a formula, in SQL or in FEEL, a DMN file, or a gate’s own document.</p>
    </header>
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
    <SourceSides v-model="became" :table="table" :tables="desk?.tables" :taken="taken" :as-of="asOf" is-named>
      <template #for><v-select v-model="tableId" :items="(desk?.tables ?? []).map((one) => ({ value: one.id, title: one.name }))" label="For the table" class="what" /></template>
      <template #ways>
        <p v-if="tableId === null && became.length > 0" class="second">Say for which table it is, and it opens on the bench with its counts.</p>
        <div class="ways"><v-btn class="primary" :disabled="became.length === 0 || isBusy || !desk" @click="make">{{ became.length > 1 ? `Make ${counted(became.length, 'gate')} of it` : 'Make it a gate' }}</v-btn><router-link to="/">Go to the desk</router-link></div>
      </template>
    </SourceSides>
  </section>
</template>

<style scoped>
.bring { display: grid; gap: 14px; padding: 20px; max-width: 1320px; margin: 0 auto; }
header { display: grid; gap: 2px; }
.what { flex: 1; min-width: 0; }
.ways { display: flex; gap: 16px; align-items: center; }
</style>
