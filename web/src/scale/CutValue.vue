<script setup lang="ts">
/** A cut's value, to be typed. What cannot be read stays as typed and says so. */
import type { DecimalText } from '@dime-gate/core/value/number'
import { nextTick, ref, watch } from 'vue'
import { type AxisWords, axisWords } from './axis-words'

const props = withDefaults(defineProps<{ at: DecimalText; selected: boolean; label: string; words?: AxisWords }>(), { words: () => axisWords('number') })
const emit = defineEmits<{ change: [at: DecimalText]; focus: [] }>()

const typed = ref(props.words.say(props.at))
const isWrong = ref(false)
watch(() => props.at, (at) => {
  typed.value = props.words.say(at)
  isWrong.value = false
})

function commit(): void {
  const value = typed.value === props.words.say(props.at) ? props.at : props.words.read(typed.value)
  isWrong.value = value === null
  if (value === null) return
  if (value !== props.at) emit('change', value)
  // A refused value gives way to the one that holds.
  void nextTick(() => (typed.value = props.words.say(props.at)))
}

function reset(): void {
  typed.value = props.words.say(props.at)
  isWrong.value = false
}
</script>

<template>
  <input
    v-model="typed" class="figure" :class="{ selected, wrong: isWrong }" :aria-label="label" :aria-invalid="isWrong" :inputmode="words.kind === 'number' ? 'decimal' : 'text'" maxlength="42" :style="{ width: `${words.width}px` }"
    :title="isWrong ? `This ${words.wrong}. Type one, such as ${words.say(at)}, or press Escape.` : undefined"
    @focus="emit('focus')" @keydown.enter="commit" @blur="commit" @keydown.escape.stop="reset"
  >
</template>

<style scoped>
input { width: 56px; height: 24px; padding: 0 4px; text-align: center; font-size: 13.5px; font-weight: 600; color: var(--ink); background: var(--sheet); border: 1.4px solid var(--ink); border-radius: 4px; }
.selected { background: var(--brass); border-color: var(--brass); color: var(--on-brass); }
.wrong { border-color: var(--brick); color: var(--brick); background: var(--sheet); outline: 1.400px solid var(--brick); }
</style>
