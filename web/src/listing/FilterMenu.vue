<script setup lang="ts">
/** Opens beside the name of a column, to say what its values have to be to be listed. */
import type { Filter } from '@dime-gate/contract/change'
import type { Column } from '@dime-gate/contract/table'
import { ref } from 'vue'
import FilterFields from './FilterFields.vue'

defineProps<{ column: Column; common: { value: string; records: number }[] }>()
const emit = defineEmits<{ filter: [filter: Filter] }>()
const isOpen = ref(false)

function done(filter: Filter): void {
  isOpen.value = false
  emit('filter', filter)
}
</script>

<template>
  <v-menu v-model="isOpen" :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button opener" type="button" :aria-label="`List by ${column.name}`">⋯</button></template>
    <div class="menu" @keydown.stop><FilterFields :column="column" :common="common" @filter="done" /></div>
  </v-menu>
</template>

<style scoped>
.opener { width: 24px; height: 24px; text-align: center; color: var(--second); border-radius: 3px; }
.opener:hover { color: var(--ink); background: var(--ground); }
.menu { width: 330px; padding: 12px; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; font-size: 13.5px; }
</style>
