<script setup lang="ts">
/** A tray found by its name: with more of them than there are figures on the keyboard. */
import { computed, ref } from 'vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import { vFocus } from '../shared/v-focus'

const props = defineProps<{ labels: readonly string[] }>()
const emit = defineEmits<{ pick: [at: number]; close: [] }>()

useReturnFocus()
const wanted = ref('')
const at = ref(0)
const found = computed(() => props.labels.map((label, place) => ({ label, place })).filter(({ label }) => label.toLowerCase().includes(wanted.value.trim().toLowerCase())))

function key(event: KeyboardEvent): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by) at.value = Math.min(Math.max(0, at.value + by), found.value.length - 1)
  else if (event.key === 'Enter' && found.value[at.value]) emit('pick', found.value[at.value]!.place)
  else return
  event.preventDefault()
}
</script>

<template>
  <v-dialog :model-value="true" max-width="360" aria-label="Drop into a tray" @update:model-value="emit('close')">
    <v-card class="pa-3">
      <input v-model="wanted" v-focus class="wanted" aria-label="Name of the tray" placeholder="which tray?" maxlength="200" role="combobox" aria-expanded="true" aria-controls="trays-found" :aria-activedescendant="`tray-${found[at]?.place}`" @input="at = 0" @keydown="key">
      <ul id="trays-found" role="listbox" aria-label="Trays">
        <li v-for="({ label, place }, index) in found" :id="`tray-${place}`" :key="place" role="option" :aria-selected="index === at" @click="emit('pick', place)">{{ label }}</li>
      </ul>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.wanted { width: 100%; height: 32px; padding: 0 8px; font: inherit; color: var(--ink); background: var(--sheet); border: 0; border-bottom: 2px solid var(--brass); }
ul { list-style: none; margin: 6px 0 0; padding: 0; max-height: 320px; overflow: auto; }
li { padding: 5px 8px; cursor: pointer; }
li[aria-selected='true'] { background: var(--tint); font-weight: 600; }
</style>
