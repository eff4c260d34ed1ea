<script setup lang="ts">
/** What a new gate on a table is to be: rules, still empty, or a scale on one of its columns, with first cuts made from the values. */
import { API } from '@dime-gate/contract/api'
import { gateSchema } from '@dime-gate/contract/gate'
import { tableSchema, type Column, type Table } from '@dime-gate/contract/table'
import { newRulesGate } from '@dime-gate/core/gate/edit-rules'
import { givenNumber } from '@dime-gate/core/gate/scale-gate'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../records/useSession'
import { ask, askWith, messageOf } from '../shared/api'
import { count } from '../shared/format'
import { freeName } from '../shared/free-name'
import { useReturnFocus } from '../shared/useReturnFocus'
import { withUnit } from '../shared/words'

const props = defineProps<{ tableId: number; taken: string[] }>()
const emit = defineEmits<{ close: [] }>()

const router = useRouter()
useReturnFocus()
const session = useSession()
const table = shallowRef<Table | null>(null)
const trouble = ref('')
const isBusy = ref(false)
const columns = computed(() => table.value?.columns.filter(({ type }) => isNumeric(type)) ?? [])

onMounted(() => tell(async () => {
  table.value = await ask(tableSchema, `/tables/${props.tableId}`)
}))

async function makeRules(): Promise<void> {
  await tell(async () => {
    const draft = newRulesGate(freeName(`${table.value!.name} rules`, props.taken))
    const gate = await askWith(gateSchema, 'POST', '/gates', { draft, binding: { tableId: props.tableId, inputs: {} } })
    await router.push(`/gates/${gate.id}`)
  })
}

async function make({ id, name, unit }: Column): Promise<void> {
  await tell(async () => {
    await session.open([{ id, kind: 'number', path: `${API}/tables/${props.tableId}/columns/${id}` }])
    const draft = await session.firstScale(freeName(`${name} scale`, props.taken), givenNumber(name, unit), id)
    const gate = await askWith(gateSchema, 'POST', '/gates', { draft, binding: { tableId: props.tableId, inputs: { [draft.on]: { column: id } } } })
    await router.push(`/gates/${gate.id}`)
  })
}

async function tell(work: () => Promise<void>): Promise<void> {
  isBusy.value = true
  try {
    await work()
  } catch (error) {
    trouble.value = messageOf(error)
  }
  isBusy.value = false
}
</script>

<template>
  <v-dialog :model-value="true" max-width="460" aria-label="New gate" @update:model-value="emit('close')">
    <v-card class="pa-5">
      <h1>New gate<template v-if="table"> on {{ table.name }}</template></h1>
      <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
      <button class="plain-button choice rules" type="button" :disabled="!table || isBusy" @click="makeRules">
        <b>Rules</b>
        <span class="second">conditions on any columns, in order</span>
      </button>
      <h2 v-if="columns.length > 0" class="pt-4 pb-1">or a scale, which cuts one column into bands</h2>
      <p v-else-if="table" class="second pt-3">A scale needs a column of numbers, and this table has none.</p>
      <ul v-if="columns.length > 0">
        <li v-for="column in columns" :key="column.id">
          <button class="plain-button choice" type="button" :disabled="isBusy" @click="make(column)">
            <b>{{ withUnit(column.name, column.unit) }}</b>
            <span class="second">{{ count(table!.records - column.blank - column.unreadable) }} values<template v-if="column.unreadable">, {{ count(column.unreadable) }} unreadable</template></span>
          </button>
        </li>
      </ul>
      <div class="mt-3"><v-btn @click="emit('close')">Cancel</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 0; overflow: auto; border-top: 1px solid var(--hairline); }
.choice { display: flex; justify-content: space-between; gap: 12px; width: 100%; padding: 8px 4px; border-bottom: 1px solid var(--hairline); }
.rules { border-top: 1px solid var(--hairline); margin-top: 10px; }
.choice:hover { background: var(--sheet); }
</style>
