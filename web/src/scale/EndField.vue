<script setup lang="ts">
/** One end of a scale: open, or a floor or ceiling that is or is not part of it. */
import type { End } from '@dime-gate/core/gate/edit-cuts'
import type { Bound } from '@dime-gate/core/gate/interval'
import { nextTick, useTemplateRef } from 'vue'
import NumberField from '../shared/NumberField.vue'
import type { AxisWords } from './axis-words'

const props = defineProps<{ end: End; bound: Bound | null; suggestion: string; words: AxisWords }>()
const emit = defineEmits<{ change: [bound: Bound | null] }>()
const field = useTemplateRef('field')

async function set(): Promise<void> {
  emit('change', { at: props.suggestion, included: true })
  await nextTick()
  field.value?.select()
}
</script>

<template>
  <span class="aside" :data-end="end">
    <template v-if="bound">
      {{ end }}
      <NumberField ref="field" :value="bound.at" :label="end" :words="words" @change="emit('change', { ...bound, at: $event })" />
      <button class="plain-button dotted" type="button" :aria-pressed="bound.included" :title="`${words.say(bound.at)} itself is ${bound.included ? 'on' : 'off'} the scale; click to change`" @click="emit('change', { ...bound, included: !bound.included })">{{ bound.included ? 'included' : 'excluded' }}</button>
      <button class="plain-button second remove" type="button" :aria-label="`Remove the ${end}`" @click="emit('change', null)">×</button>
    </template>
    <button v-else class="plain-button dotted" type="button" @click="set">no {{ end }}</button>
  </span>
</template>

<style scoped src="../shared/aside.css"></style>
