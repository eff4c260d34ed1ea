<script setup lang="ts">
/** A number that stands in a line of text. What is refused gives way to what holds. */
import { nextTick, ref } from 'vue'
import { number, typedNumber } from './format'

/** @property isFine whether a number will do */
const props = withDefaults(defineProps<{ value: string; label: string; isFine?: (value: string) => boolean }>(), { isFine: () => true })
const emit = defineEmits<{ change: [value: string] }>()

const input = ref<HTMLInputElement | null>(null)
const isWrong = ref(false)
defineExpose({ select: () => input.value?.select() })

function commit(): void {
  const at = typedNumber(input.value!.value.replace('\u2212', '-'))
  isWrong.value = at === null || !props.isFine(at)
  if (at === null || isWrong.value) return
  if (at !== props.value) emit('change', at)
  void nextTick(() => input.value && (input.value.value = number(props.value)))
}
</script>

<template>
  <input ref="input" class="figure" :class="{ wrong: isWrong }" :value="number(value)" :aria-label="label" :aria-invalid="isWrong" inputmode="decimal" maxlength="42" @change="commit" @keydown.enter="commit">
</template>

<style scoped>
input { width: 54px; height: 22px; padding: 0 4px; font-size: 13px; font-weight: 600; text-align: right; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.wrong { border-color: var(--brick); color: var(--brick); }
</style>
