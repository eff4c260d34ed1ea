<script setup lang="ts">
/** Which column of a table to cut; a first scale is made from its values. */
import { API } from '@dime-gate/contract/api'
import { gateSchema } from '@dime-gate/contract/gate'
import { tableSchema, type Column, type Table } from '@dime-gate/contract/table'
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
  <v-dialog :model-value="true" max-width="460" aria-label="New scale" @update:model-value="emit('close')">
    <v-card class="pa-5">
      <h1>New scale<template v-if="table"> on {{ table.name }}</template></h1>
      <p class="second mb-2">Which column of numbers should be cut into bands?</p>
      <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
      <p v-if="table && columns.length === 0" class="notice">This table has no column of numbers. A scale cuts numbers; bring the table in again and choose “number” or “percent” for the column.</p>
      <ul>
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
.choice:hover { background: var(--sheet); }
</style>
