<script setup lang="ts">
/** What can be done to a line of a grid's side that is a list of values. */
import type { GridGate, GridSide } from '@dime-gate/core/gate/document'
import { moveLine, removeLine, type SideName, sortIntoLine } from '@dime-gate/core/gate/edit-grid'
import { computed } from 'vue'
import { valueWords } from '../shared/words'

const props = defineProps<{ gate: GridGate; side: SideName; line: number; words: string }>()
const emit = defineEmits<{ change: [gate: GridGate] }>()
const list = computed(() => props.gate[props.side] as GridSide & { kind: 'list' })
const values = computed(() => list.value.lines[props.line]!)
const others = computed(() => list.value.lines.map((of, at) => ({ at, words: of.map(valueWords).join(', ') })).filter(({ at }) => at !== props.line))
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button second more" type="button" :aria-label="`What to do with the line ${words}`">⋯</button></template>
    <v-list density="compact" max-height="360">
      <v-list-item title="One place earlier" :disabled="line === 0" @click="emit('change', moveLine(gate, side, line, line - 1))" />
      <v-list-item title="One place later" :disabled="line === list.lines.length - 1" @click="emit('change', moveLine(gate, side, line, line + 1))" />
      <template v-if="values.length > 1"><v-list-item v-for="value in values" :key="value" :title="`${valueWords(value)} gets a line of its own`" @click="emit('change', sortIntoLine(gate, side, [value], null))" /></template>
      <v-list-item v-for="other in others" :key="other.at" :title="`Join with ${other.words}`" @click="emit('change', sortIntoLine(gate, side, values, other.at))" />
      <v-list-item title="Remove the line" @click="emit('change', removeLine(gate, side, line))" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.more { min-width: 24px; min-height: 24px; text-align: center; }
</style>
