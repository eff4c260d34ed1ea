<script setup lang="ts">
/** The record in focus: all its values below each other, what does not fit and why, and what became of it. */
import { type RecordHistory, recordHistorySchema } from '@dime-gate/contract/change'
import type { Cell, Column } from '@dime-gate/contract/table'
import { computed, ref, watch } from 'vue'
import { ask, messageOf } from '../shared/api'
import { moment } from '../shared/format'
import { withUnit } from '../shared/words'
import { cellWords, expectedWords, stateOf } from './cell-words'

const props = defineProps<{ tableId: number; record: number; columns: Column[]; cells: Cell[] | undefined; focused: number | null; tick: number }>()
const emit = defineEmits<{ close: [] }>()

const history = ref<RecordHistory>([])
const trouble = ref('')
watch(() => [props.record, props.tick], async () => {
  const { record } = props
  try {
    const found = await ask(recordHistorySchema, `/tables/${props.tableId}/records/${record}/history`)
    if (record === props.record) history.value = found
    trouble.value = ''
  } catch (error) {
    trouble.value = messageOf(error)
  }
}, { immediate: true })

const who = computed(() => {
  const texts = props.columns.flatMap((column, at) => (column.isIdentity && props.cells ? [cellWords(props.cells[at], column)] : []))
  return texts.join(', ') || `Record ${props.record}`
})
const KINDS = { 'there from the start': 'as it came', added: 'added', changed: 'changed', removed: 'removed' }
const words = (cell: Cell | null, id: number) => (cell ? cellWords(cell, props.columns.find((column) => column.id === id) ?? { type: 'text' }) : '')
</script>

<template>
  <aside class="aside" aria-label="The record in focus">
    <header>
      <h2 class="who">{{ who }}</h2>
      <v-btn class="plain" @click="emit('close')">Close</v-btn>
    </header>
    <dl v-if="cells">
      <div v-for="(column, at) in columns" :key="column.id" :class="{ focused: column.id === focused }">
        <dt>{{ withUnit(column.name, column.unit) }}</dt>
        <dd :class="stateOf(cells[at], column)">{{ cellWords(cells[at], column) }}</dd>
        <p v-if="stateOf(cells[at], column) === 'unreadable' || stateOf(cells[at], column) === 'outside'" class="expected">
          expected: {{ expectedWords(column) }}
        </p>
        <p v-else-if="cells[at]![0] !== null && cells[at]![1] !== null" class="written second">written “{{ cells[at]![1] }}”</p>
      </div>
    </dl>
    <h2>What became of it</h2>
    <p v-if="trouble" class="trouble">{{ trouble }}</p>
    <ol>
      <li v-for="one in history" :key="`${one.version} ${one.kind}`">
        <span class="second">{{ one.changedAt ? moment(one.changedAt) : 'From the file' }} · {{ KINDS[one.kind] }}</span>
        <span v-for="value in one.values" :key="value.column" class="step"
          >{{ value.name }}: <s>{{ words(value.before, value.column) }}</s> → <b>{{ words(value.after, value.column) }}</b></span
        >
      </li>
    </ol>
  </aside>
</template>

<style scoped>
.aside { overflow: auto; padding: 12px 16px; border-left: 1px solid var(--hairline); background: var(--ground); }
header { display: flex; align-items: start; justify-content: space-between; gap: 8px; }
.who { font-size: 16px; font-weight: 700; color: var(--ink); overflow-wrap: anywhere; }
dl { margin: 8px 0 16px; }
dl > div { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 12px; padding: 4px 6px; border-bottom: 1px solid var(--hairline); }
.focused { background: var(--tint); }
dt { color: var(--second); overflow: hidden; text-overflow: ellipsis; }
dd { margin: 0; font-weight: 600; text-align: right; overflow-wrap: anywhere; max-width: 190px; }
dd.blank { font-weight: 400; font-style: italic; color: var(--second); }
dd.unreadable, dd.outside { color: var(--brick); }
.expected { grid-column: 1 / -1; color: var(--brick); font-size: 12.5px; }
.written { grid-column: 1 / -1; text-align: right; font-size: 12.5px; }
ol { margin: 6px 0 0; padding: 0; list-style: none; }
li { display: grid; padding: 5px 6px; border-bottom: 1px solid var(--hairline); font-size: 13px; }
.step { overflow-wrap: anywhere; }
s { color: var(--second); }
</style>
