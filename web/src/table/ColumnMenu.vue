<script setup lang="ts">
/** What can be done with a column: filtered by, hidden, moved, set, removed. */
import type { Filter } from '@dime-gate/contract/change'
import { type Column, type TableProfile, isComputed } from '@dime-gate/contract/table'
import { computed, ref } from 'vue'
import FilterFields from '../listing/FilterFields.vue'

const props = defineProps<{ column: Column; profile: TableProfile[string] | undefined; canMove: { left: boolean; right: boolean } }>()
const emit = defineEmits<{ filter: [filter: Filter]; hide: []; move: [by: -1 | 1]; widen: [by: number]; settings: []; remove: [] }>()

const isOpen = ref(false)
const common = computed(() => (props.profile?.spread.kind === 'values' ? props.profile.spread.common : []))

function done(filter: Filter): void {
  isOpen.value = false
  emit('filter', filter)
}

function then(act: () => void): void {
  isOpen.value = false
  act()
}
</script>

<template>
  <v-menu v-model="isOpen" :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: menu }">
      <button v-bind="menu" class="plain-button opener" type="button" :aria-label="`More on ${column.name}`">⋯</button>
    </template>
    <div class="menu" @keydown.stop>
      <FilterFields :column="column" :common="common" @filter="done" />
      <div class="acts">
        <button class="plain-button" type="button" @click="then(() => emit('settings'))">{{ isComputed(column) ? 'How it is computed …' : 'Name, type, unit, what is expected …' }}</button>
        <button class="plain-button" type="button" :disabled="!canMove.left" @click="emit('move', -1)">Move to the left</button>
        <button class="plain-button" type="button" :disabled="!canMove.right" @click="emit('move', 1)">Move to the right</button>
        <button class="plain-button" type="button" @click="emit('widen', 40)">Wider</button>
        <button class="plain-button" type="button" @click="emit('widen', -40)">Narrower</button>
        <button class="plain-button" type="button" @click="then(() => emit('hide'))">Hide</button>
        <button class="plain-button" type="button" @click="then(() => emit('remove'))">Remove the {{ column.feel === null ? 'column' : 'figure' }}</button>
      </div>
    </div>
  </v-menu>
</template>

<style scoped>
.opener { width: 24px; height: 24px; text-align: center; color: var(--second); border-radius: 3px; }
.opener:hover { color: var(--ink); background: var(--ground); }
.menu { display: grid; gap: 8px; width: 330px; padding: 12px; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; font-size: 13.5px; }
.acts button:not(:disabled):hover { background: var(--ground); }
.acts { display: grid; border-top: 1px solid var(--hairline); padding-top: 6px; }
.acts button { padding: 3px 4px; min-height: 26px; }
.acts button:disabled { color: var(--second); opacity: 0.6; cursor: default; }
</style>
