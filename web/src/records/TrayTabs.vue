<script setup lang="ts">
/** Which of the records are listed. */
import type { Gate } from '@dime-gate/core/gate/document'
import { type Tray, trayName } from '@dime-gate/core/result/tray'
import { vMeaning } from '../help/v-meaning'
import { count } from '../shared/format'
import { trayWords } from '../shared/words'

/** @property records null as long as they are not counted */
defineProps<{ gate: Gate; trays: { tray: Tray; records: number | null }[]; chosen: Tray }>()
const emit = defineEmits<{ choose: [tray: Tray] }>()
</script>

<template>
  <div class="tabs" role="group" aria-label="Which records">
    <h2>Records</h2>
    <button v-for="{ tray, records } in trays" :key="trayName(tray)" v-meaning="tray" class="plain-button tab" :class="{ here: trayName(tray) === trayName(chosen) }" type="button" :aria-pressed="trayName(tray) === trayName(chosen)" :data-tab="tray.kind" @click="emit('choose', tray)">{{ trayWords(tray, gate) }} {{ records === null ? '' : count(records) }}</button>
    <span class="space" />
    <span class="second"><slot /></span>
  </div>
</template>

<style scoped>
.tabs { display: flex; flex-wrap: wrap; align-items: baseline; gap: 4px 16px; padding: 8px 20px 4px; }
h2 { color: var(--ink) !important; font-size: 14px !important; font-weight: 700 !important; }
.tab { color: var(--second); padding-bottom: 2px; border-bottom: 2px solid transparent; }
.tab.here { color: var(--ink); font-weight: 700; border-bottom-color: var(--brass); }
.space { flex: 1; }
.tabs :deep(kbd) { margin: 0; }
</style>
