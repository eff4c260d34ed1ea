<script setup lang="ts">
/** A gate on a table that is to be run: how far it is, and what stands for what it looks at. */
import type { Bound } from '@dime-gate/contract/binding'
import { withUnit } from '../shared/words'
import { choicesFor, type PlannedInput } from './plan'
import type { Plan } from './usePlans'

defineProps<{ plan: Plan; state: string; isTrouble: boolean }>()
const emit = defineEmits<{ stand: [input: PlannedInput, bound: Bound] }>()

const HOW_WORDS = { bound: 'as before', chosen: 'as you chose', named: 'named so', near: 'look whether it is the right one', nothing: 'choose what stands for it' }
const isSameBound = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other)
</script>

<template>
  <div class="plan" :data-plan="`${plan.gateName} on ${plan.table.name}`">
    <p><b>{{ plan.gateName }}</b> on <b>{{ plan.table.name }}</b></p>
    <p class="state" :class="{ trouble: isTrouble }" role="status">{{ state }}</p>
    <div class="inputs">
      <div v-for="input in plan.inputs" :key="`${input.gateId} ${input.input.name}`" class="input" :data-how="input.how">
        <v-select
          :model-value="input.bound" :items="choicesFor(input.input, plan.table)" :label="`${withUnit(input.input.name, input.input.unit)}${input.gateId === plan.gateId ? '' : ` of ${input.gateName}`}`" :hint="HOW_WORDS[input.how]" persistent-hint density="compact" variant="outlined"
          no-data-text="No column of this table is of that kind." :value-comparator="isSameBound" @update:model-value="emit('stand', input, $event)"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.plan { display: grid; grid-template-columns: minmax(180px, 260px) minmax(140px, 240px) minmax(0, 1fr); gap: 4px 20px; align-items: start; padding: 10px 0; border-top: 1px solid var(--hairline); }
.plan > p { padding-top: 6px; overflow-wrap: anywhere; }
.inputs { display: flex; flex-wrap: wrap; gap: 8px 12px; }
.input { width: 220px; }
.input[data-how='nothing'] :deep(.v-messages) { color: var(--brick); opacity: 1; }
@media (max-width: 760px) { .plan { grid-template-columns: minmax(0, 1fr); } }
</style>
