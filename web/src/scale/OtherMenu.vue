<script setup lang="ts">
/** Which other table's values are laid over those on the line, as an outline: each table as parts of its own records. */
import { deskSchema } from '@dime-gate/contract/desk'
import { ref, shallowRef, watch } from 'vue'
import { ask } from '../shared/api'
import { useTelling } from '../shared/useTelling'
import type { OtherTable } from './useOtherTable'

/** @property tableId of the table on the bench */
const props = defineProps<{ tableId: number; other: OtherTable | null }>()
const emit = defineEmits<{ lay: [tableId: number]; clear: [] }>()
const isOpen = ref(false)
const tables = shallowRef<{ id: number; name: string }[]>([])
const { trouble, tell } = useTelling()
watch(isOpen, (now) => now && tell(async () => void (tables.value = (await ask(deskSchema, '/desk')).tables.filter(({ id }) => id !== props.tableId))))

function take(id: number): void {
  isOpen.value = false
  emit('lay', id)
}
</script>

<template>
  <span class="other">
    <template v-if="other"><svg width="18" height="10" aria-hidden="true"><path d="M1 9V5H6V2H12V6H17" /></svg> {{ other.name }} <button class="plain-button second" type="button" :aria-label="`Take ${other.name} off the line`" @click="emit('clear')">×</button></template>
    <template v-else>
      <v-menu v-model="isOpen">
        <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button act" type="button" title="Its values are drawn over these, as an outline">another table over it</button></template>
        <v-list density="compact" max-height="320">
          <v-list-item v-if="trouble" :title="trouble" disabled />
          <v-list-item v-for="{ id, name } in tables" :key="id" :title="name" @click="take(id)" />
        </v-list>
      </v-menu>
    </template>
  </span>
</template>

<style scoped>
.other { display: inline-flex; gap: 6px; align-items: center; }
path { fill: none; stroke: var(--ink); stroke-width: 1.6; }
.act { min-height: 26px; color: var(--pine); font-weight: 600; }
button { min-width: 24px; min-height: 24px; }
</style>
