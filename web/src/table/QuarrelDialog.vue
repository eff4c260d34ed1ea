<script setup lang="ts">
/** Two changed one value: both are shown, and whoever came second says which it is. */
import type { Column } from '@dime-gate/contract/table'
import { computed } from 'vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import { cellWords } from './cell-words'
import type { Quarrel } from './table-edits'

const props = defineProps<{ quarrel: Quarrel; columns: Column[] }>()
const emit = defineEmits<{ settle: [isMine: boolean] }>()
useReturnFocus()

const SHOWN = 8
const all = computed(() => props.quarrel.conflicts.map(({ record, column: id, now }) => {
  const column = props.columns.find((one) => one.id === id)
  const mine = props.quarrel.request.cells.find((cell) => cell.record === record && cell.column === id)!
  return { key: `${record} ${id}`, record, name: column?.name ?? '', mine: mine.text || 'blank', theirs: column ? cellWords(now, column) : '' }
}))
</script>

<template>
  <v-dialog :model-value="true" max-width="520" persistent aria-label="Changed elsewhere meanwhile">
    <v-card class="card">
      <h1>Changed elsewhere meanwhile</h1>
      <p class="second">
        Nothing is stored yet. {{ all.length === 1 ? 'One value is' : `${all.length} values are` }} no longer what you saw.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">Value</th>
            <th scope="col">There now</th>
            <th scope="col">Yours</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in all.slice(0, SHOWN)" :key="one.key">
            <td>{{ one.name }}, record {{ one.record }}</td>
            <td>{{ one.theirs }}</td>
            <td>
              <b>{{ one.mine }}</b>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="all.length > SHOWN" class="second">and {{ all.length - SHOWN }} more</p>
      <footer>
        <v-btn class="primary" @click="emit('settle', true)">Store mine</v-btn>
        <v-btn autofocus @click="emit('settle', false)">Leave what is there</v-btn>
      </footer>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.card { display: grid; gap: 12px; padding: 18px 20px; }
table { border-collapse: collapse; }
th { text-align: left; font-size: 13px; color: var(--second); }
th, td { padding: 4px 12px 4px 0; border-bottom: 1px solid var(--hairline); overflow-wrap: anywhere; }
footer { display: flex; gap: 10px; }
</style>
