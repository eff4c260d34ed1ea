<script setup lang="ts">
/** A table: its columns with their quality, and all its records. */
import { deskSchema } from '@dime-gate/contract/desk'
import { tableProfileSchema, tableSchema, type Table, type TableProfile } from '@dime-gate/contract/table'
import { NONE } from '@dime-gate/core/rule/rules'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { onMounted, ref, shallowRef } from 'vue'
import NewScaleDialog from '../desk/NewScaleDialog.vue'
import RecordList from '../records/RecordList.vue'
import type { ListedRecord } from '../records/session'
import { ask, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { counted, moment } from '../shared/format'
import { useShortcuts } from '../shared/useShortcuts'
import { useTitle } from '../shared/useTitle'
import ColumnCard from './ColumnCard.vue'

const props = defineProps<{ id: number }>()
const table = shallowRef<Table | null>(null)
const profiles = shallowRef<TableProfile>({})
const gateNames = shallowRef<string[]>([])
const trouble = ref('')
const isCutting = ref(false)
useTitle(() => table.value?.name)
useShortcuts({ n: () => (isCutting.value = true) })

onMounted(load)
useReturn(() => trouble.value && void load())

async function load(): Promise<void> {
  trouble.value = ''
  try {
    table.value = await ask(tableSchema, `/tables/${props.id}`)
    profiles.value = await ask(tableProfileSchema, `/tables/${props.id}/profile`)
    gateNames.value = (await ask(deskSchema, '/desk')).gates.map(({ name }) => name)
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

/** Records are numbered in the order of their file. */
async function rows(from: number, to: number): Promise<ListedRecord[]> {
  return Array.from({ length: to - from }, (_, at) => ({ record: from + at + 1, status: 'labelled', rule: NONE, label: null, reasons: [], computed: [] }))
}
</script>

<template>
  <section v-if="trouble" class="trouble-page"><p class="notice problem" role="alert">{{ unlessAway(trouble) }}</p><router-link to="/">Go to the desk</router-link></section>
  <section v-else-if="table" class="table-page">
    <header>
      <h1>{{ table.name }}</h1>
      <span class="second">{{ counted(table.records, 'record') }}, {{ counted(table.columns.length, 'column') }} · from {{ table.fileName }}, {{ moment(table.importedAt) }}</span>
      <span class="space" />
      <v-btn class="primary" :disabled="!table.columns.some(({ type }) => isNumeric(type))" @click="isCutting = true">New scale<kbd>N</kbd></v-btn>
    </header>
    <div class="records">
      <RecordList :table-id="table.id" :columns="table.columns" :total="table.records" :rows="rows" :tick="0" empty="This table has columns, but no record.">
        <template #head="{ column }"><ColumnCard :column="column" :records="table.records" :profile="profiles[column.id]" /></template>
      </RecordList>
    </div>
    <NewScaleDialog v-if="isCutting" :table-id="table.id" :taken="gateNames" @close="isCutting = false" />
  </section>
  <p v-else class="second waiting" role="status">Opening the table …</p>
</template>

<style scoped>
.table-page { display: grid; grid-template-rows: auto minmax(240px, 1fr); grid-template-columns: minmax(0, 1fr); height: calc(100dvh - 48px); }
header { display: flex; flex-wrap: wrap; align-items: baseline; gap: 6px 14px; padding: 14px 20px 8px; }
.space { flex: 1; }
.records { min-height: 0; border-top: 1px solid var(--hairline); }
.trouble-page, .waiting { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; }
</style>
