<script setup lang="ts">
/** What a column's values have to be to be listed: from one to another, with a text, one of the commonest. */
import type { Filter } from '@dime-gate/contract/change'
import type { Column } from '@dime-gate/contract/table'
import { isOnLine } from '@dime-gate/core/value/read-cell'
import { ref } from 'vue'
import { count } from '../shared/format'
import { cellWords } from '../table/cell-words'
import { noEndWords, typedEnd } from './typed-end'

/** @property common its commonest values, where they are known */
const props = defineProps<{ column: Column; common: { value: string; records: number }[] }>()
const emit = defineEmits<{ filter: [filter: Filter] }>()

const low = ref('')
const high = ref('')
const text = ref('')
const wrong = ref('')

function byRange(): void {
  const [from, to] = [typedEnd(low.value, props.column.type), typedEnd(high.value, props.column.type)]
  const bad = from === undefined ? low.value : to === undefined ? high.value : null
  wrong.value = bad === null ? '' : noEndWords(bad, props.column.type)
  if (bad !== null || (from === null && to === null)) return
  emit('filter', { kind: 'range', column: props.column.id, low: from!, high: to! })
}

function byText(): void {
  if (text.value.trim() !== '') emit('filter', { kind: 'contains', column: props.column.id, text: text.value.trim() })
}
</script>

<template>
  <div class="fields">
    <form v-if="isOnLine(column.type)" class="range" @submit.prevent="byRange">
      <span class="second">List from</span>
      <input v-model="low" :aria-label="`${column.name} from`" size="9" />
      <span class="second">to</span>
      <input v-model="high" :aria-label="`${column.name} to`" size="9" />
      <v-btn type="submit">List</v-btn>
    </form>
    <p v-if="wrong" class="trouble" role="alert">{{ wrong }}</p>
    <form class="range" @submit.prevent="byText">
      <span class="second">with the text</span>
      <input v-model="text" :aria-label="`${column.name} with the text`" class="grow" />
      <v-btn type="submit">List</v-btn>
    </form>
    <div v-if="common.length > 0" class="values">
      <button v-for="{ value, records } in common" :key="value" class="plain-button" type="button" @click="emit('filter', { kind: 'values', column: column.id, values: [value] })">
        <span>{{ cellWords([value, null], column) }}</span><b class="figure">{{ count(records) }}</b>
      </button>
    </div>
  </div>
</template>

<style scoped>
.fields { display: grid; gap: 8px; }
.range { display: flex; align-items: center; gap: 6px; white-space: nowrap; }
.range input { height: 28px; min-width: 0; padding: 0 6px; font: inherit; color: var(--ink); background: var(--ground); border: 1px solid var(--hairline); border-radius: 3px; }
.grow { flex: 1; }
.values { display: grid; border-top: 1px solid var(--hairline); padding-top: 6px; }
.values button { display: flex; justify-content: space-between; gap: 12px; padding: 2px 4px; min-height: 24px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.values button:hover { background: var(--ground); }
</style>
