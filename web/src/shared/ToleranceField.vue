<script setup lang="ts">
/** How near to a cut a value still asks for a look; without one only values on a cut do. */
import { nextTick, useTemplateRef } from 'vue'
import NumberField from './NumberField.vue'

const props = defineProps<{ tolerance: string | null; unit: string; suggestion: string }>()
const emit = defineEmits<{ change: [tolerance: string | null] }>()
const field = useTemplateRef('field')

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
      <NumberField ref="field" :value="tolerance" label="tolerance" :is-fine="(value) => !value.startsWith('-') && /[1-9]/.test(value)" @change="emit('change', $event)" />
      <template v-if="unit">{{ unit }}</template>
      <button class="plain-button second remove" type="button" aria-label="Remove the tolerance" @click="emit('change', null)">×</button>
    </template>
    <button v-else class="plain-button dotted" type="button" @click="set">no tolerance</button>
  </span>
</template>

<style scoped src="./aside.css"></style>
