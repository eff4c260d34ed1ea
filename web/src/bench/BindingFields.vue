<script setup lang="ts">
/** Which column of which table the gate looks at. */
import { deskSchema } from '@dime-gate/contract/desk'
import { tableSchema, type Column, type Table } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { computed, ref, shallowRef } from 'vue'
import { ask, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { withUnit } from '../shared/words'

const props = defineProps<{ table: Table; column: Column }>()
const emit = defineEmits<{ bind: [tableId: number, columnId: number] }>()

const notices = useNotices()
const open = ref(false)
/** Null while they are fetched. */
const tables = shallowRef<{ title: string; value: number }[] | null>(null)
const chosen = shallowRef<Table>(props.table)
const columns = computed(() => chosen.value.columns.filter(({ type }) => isNumeric(type)))

async function begin(): Promise<void> {
  chosen.value = props.table
  await tell(async () => {
    tables.value = (await ask(deskSchema, '/desk')).tables.map(({ id, name }) => ({ title: name, value: id }))
  })
}

async function choose(id: number): Promise<void> {
  await tell(async () => {
    chosen.value = await ask(tableSchema, `/tables/${id}`)
  })
}

function bind({ id }: Column): void {
  open.value = false
  emit('bind', chosen.value.id, id)
}

async function tell(work: () => Promise<void>): Promise<void> {
  try {
    await work()
  } catch (error) {
    notices.warn(messageOf(error))
  }
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false" @update:model-value="$event && begin()">
    <template #activator="{ props: activator }">
      <button v-bind="activator" class="plain-button bound" type="button" aria-label="Table and column that the gate looks at"><b>{{ withUnit(column.name, column.unit) }}</b></button>
    </template>
    <v-card class="pa-4" width="320">
      <v-select v-if="tables" label="Table" :items="tables" :model-value="chosen.id" @update:model-value="choose" />
      <p v-else class="second">{{ table.name }}</p>
      <h2 class="pt-3 pb-1">Column of numbers</h2>
      <p v-if="columns.length === 0" class="second">This table has no column of numbers.</p>
      <ul>
        <li v-for="one in columns" :key="one.id"><button class="plain-button choice" :class="{ chosen: one.id === column.id }" type="button" @click="bind(one)">{{ withUnit(one.name, one.unit) }}</button></li>
      </ul>
    </v-card>
  </v-menu>
</template>

<style scoped>
.bound { color: var(--ink); border-bottom: 1px dotted var(--second); }
ul { list-style: none; padding: 0; margin: 0; max-height: 320px; overflow: auto; }
.choice { width: 100%; padding: 5px 8px; border-radius: 3px; }
.choice:hover { background: var(--sheet); }
.chosen { background: var(--tint); font-weight: 600; }
</style>
