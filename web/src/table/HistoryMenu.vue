<script setup lang="ts">
/** What was changed in a table, the latest first; each change that nothing was changed over can be taken back. */
import { type TableChangeMade, tableHistorySchema } from '@dime-gate/contract/change'
import { ref, watch } from 'vue'
import { ask, messageOf } from '../shared/api'
import { moment } from '../shared/format'
import { changeWords } from './change-words'

const props = defineProps<{ tableId: number; version: number }>()
const emit = defineEmits<{ takeBack: [version: number] }>()

const isOpen = ref(false)
const changes = ref<TableChangeMade[] | null>(null)
const trouble = ref('')

watch(() => [isOpen.value, props.version], async () => {
  if (!isOpen.value) return
  try {
    changes.value = await ask(tableHistorySchema, `/tables/${props.tableId}/changes`)
    trouble.value = ''
  } catch (error) {
    trouble.value = messageOf(error)
  }
})
</script>

<template>
  <v-menu v-model="isOpen" location="bottom end" :close-on-content-click="false">
    <template #activator="{ props: menu }"><v-btn v-bind="menu">History</v-btn></template>
    <div class="history">
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <p v-else-if="changes?.length === 0" class="second">Nothing was changed since the table came in.</p>
      <ol v-else>
        <li v-for="one in changes" :key="one.version">
          <span
            ><b>{{ changeWords(one) }}</b
            ><span class="second">version {{ one.version }}, {{ moment(one.changedAt) }}</span></span
          >
          <button
            class="plain-button"
            type="button"
            :aria-label="`Take back version ${one.version}`"
            @click="emit('takeBack', one.version)"
          >
            Take back
          </button>
        </li>
      </ol>
    </div>
  </v-menu>
</template>

<style scoped>
.history { width: 420px; max-width: 92vw; max-height: 60vh; overflow: auto; padding: 10px 14px; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; font-size: 13.5px; }
ol { margin: 0; padding: 0; list-style: none; }
li { display: flex; justify-content: space-between; align-items: center; gap: 12px; padding: 6px 0; border-bottom: 1px solid var(--hairline); }
li > span { display: grid; min-width: 0; overflow-wrap: anywhere; }
li button { color: var(--pine); font-weight: 600; white-space: nowrap; min-height: 24px; }
</style>
