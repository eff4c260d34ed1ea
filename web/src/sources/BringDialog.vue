<script setup lang="ts">
/** What people already have, in place of what the gate on the bench says: a step like any other. */
import type { BoundInputs } from '@dime-gate/contract/binding'
import type { Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { onMounted, shallowRef, useTemplateRef } from 'vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import SourceSides from './SourceSides.vue'

const props = defineProps<{ gate: Gate; table: Table; asOf: string }>()
const emit = defineEmits<{ take: [gate: Gate, inputs: BoundInputs]; close: [] }>()
useReturnFocus()
const became = shallowRef<{ gate: Gate; inputs: BoundInputs }[]>([])
const sides = useTemplateRef('sides')
onMounted(() => sides.value?.focus())

/** It keeps its name: others may know it by that. */
function take(): void {
  const [one] = became.value
  if (one) emit('take', { ...one.gate, name: props.gate.name }, one.inputs)
}
</script>

<template>
  <v-dialog :model-value="true" max-width="1180" aria-label="Bring in" @update:model-value="emit('close')">
    <v-card class="pa-5 bring">
      <h1>Bring in<span class="second">, in place of what “{{ gate.name }}” says now</span></h1>
      <SourceSides ref="sides" v-model="became" :table="table" :taken="[]" :called="gate.name" :as-of="asOf">
        <template #ways>
          <p v-if="became.length > 1" class="second">These are several gates that feed each other. <router-link :to="{ path: '/bring-in-gate', query: { on: table.id } }">Make them gates of their own.</router-link></p>
          <div class="ways"><v-btn class="primary" :disabled="became.length !== 1" @click="take">Put it here</v-btn><v-btn @click="emit('close')">Cancel</v-btn></div>
        </template>
      </SourceSides>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.bring { display: grid; gap: 12px; align-content: start; }
h1 .second { font-weight: 400; font-size: 16px; }
.ways { display: flex; gap: 12px; }
</style>
