<script setup lang="ts">
/** How near to a cut a value still asks for a look, in the unit or in parts of the cut; without one only values on a cut do. */
import type { Input } from '@dime-gate/core/gate/document'
import { computed, nextTick, useTemplateRef } from 'vue'
import NumberField from './NumberField.vue'

const props = defineProps<{ tolerance: Input['tolerance']; unit: string; suggestion: string }>()
const emit = defineEmits<{ change: [tolerance: Input['tolerance']] }>()
const field = useTemplateRef('field')
const isPart = computed(() => props.tolerance?.endsWith('%') ?? false)
const number = computed(() => props.tolerance?.replace('%', '') ?? '')
const UNIT_OF_PARTS = '% of the cut'

async function set(): Promise<void> {
  emit('change', props.suggestion)
  await nextTick()
  field.value?.select()
}
</script>

<template>
  <span class="aside">
    <template v-if="tolerance !== null">
      near a cut within
      <NumberField ref="field" :value="number" label="tolerance" :is-fine="(value) => !value.startsWith('-') && /[1-9]/.test(value)" @change="emit('change', isPart ? `${$event}%` : $event)" />
      <button class="plain-button dotted" type="button" :aria-label="`${isPart ? UNIT_OF_PARTS : unit || 'as measured'}. Tell it in ${isPart ? unit || 'the values’ own measure' : UNIT_OF_PARTS}`" @click="emit('change', isPart ? number : `${number}%`)">{{ isPart ? UNIT_OF_PARTS : unit || 'as measured' }}</button>
      <button class="plain-button second remove" type="button" aria-label="Remove the tolerance" @click="emit('change', null)">×</button>
    </template>
    <button v-else class="plain-button dotted" type="button" @click="set">no tolerance</button>
  </span>
</template>

<style scoped src="./aside.css"></style>
