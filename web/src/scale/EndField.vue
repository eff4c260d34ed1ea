<script setup lang="ts">
/** One end of a scale: open, or a floor or ceiling that is or is not part of it. */
import type { End } from '@dime-gate/core/gate/edit-scale'
import type { Bound } from '@dime-gate/core/gate/interval'
import { nextTick, ref } from 'vue'
import { number, typedNumber } from '../shared/format'

const props = defineProps<{ end: End; bound: Bound | null; suggestion: string }>()
const emit = defineEmits<{ change: [bound: Bound | null] }>()

const input = ref<HTMLInputElement | null>(null)
const isWrong = ref(false)

async function set(): Promise<void> {
  emit('change', { at: props.suggestion, included: true })
  await nextTick()
  input.value?.select()
}

function commit(): void {
  const at = typedNumber(input.value!.value.replace('\u2212', '-'))
  isWrong.value = at === null
  if (at === null) return
  if (at !== props.bound!.at) emit('change', { ...props.bound!, at })
  // A refused value gives way to the one that holds.
  void nextTick(() => input.value && (input.value.value = number(props.bound!.at)))
}
</script>

<template>
  <span class="end">
    <template v-if="bound">
      {{ end }}
      <input ref="input" class="figure" :class="{ wrong: isWrong }" :value="number(bound.at)" :aria-label="end" :aria-invalid="isWrong" inputmode="decimal" maxlength="42" @change="commit" @keydown.enter="commit">
      <button class="plain-button owner" type="button" :aria-pressed="bound.included" :title="`${number(bound.at)} itself is ${bound.included ? 'on' : 'off'} the scale; click to change`" @click="emit('change', { ...bound, included: !bound.included })">{{ bound.included ? 'included' : 'excluded' }}</button>
      <button class="plain-button second remove" type="button" :aria-label="`Remove the ${end}`" @click="emit('change', null)">×</button>
    </template>
    <button v-else class="plain-button add" type="button" @click="set">no {{ end }}</button>
  </span>
</template>

<style scoped>
.end { display: inline-flex; align-items: center; gap: 6px; white-space: nowrap; }
input { width: 54px; height: 22px; padding: 0 4px; font-size: 13px; font-weight: 600; text-align: right; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.remove { width: 24px; height: 24px; text-align: center; margin-left: -4px; }
.wrong { border-color: var(--brick); color: var(--brick); }
.owner, .add { color: var(--pine); border-bottom: 1px dotted currentColor; }
</style>
