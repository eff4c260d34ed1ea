<script setup lang="ts">
/** A number, or what else lies along a line, that stands in a line of text. What is refused gives way to what holds. */
import { nextTick, ref } from 'vue'
import { NUMBER_WORDS } from './format'
import { put, vStands } from './v-stands'

/** @property isFine whether a number will do */
const props = withDefaults(defineProps<{ value: string; label: string; isFine?: (value: string) => boolean; words?: typeof NUMBER_WORDS }>(), { isFine: () => true, words: () => NUMBER_WORDS })
const emit = defineEmits<{ change: [value: string] }>()

const input = ref<HTMLInputElement | null>(null)
const isWrong = ref(false)
defineExpose({ select: () => input.value?.select() })

/** The field itself says what was typed: it may be on its way out already. */
function commit({ currentTarget }: Event): void {
  const typed = (currentTarget as HTMLInputElement).value
  const at = typed === props.words.say(props.value) ? props.value : props.words.read(typed)
  isWrong.value = at === null || !props.isFine(at)
  if (at === null || isWrong.value) return
  if (at !== props.value) emit('change', at)
  void nextTick(() => input.value && put(input.value, props.words.say(props.value)))
}
</script>

<template>
  <input ref="input" class="figure" :class="{ wrong: isWrong }" v-stands="words.say(value)" :aria-label="label" :aria-invalid="isWrong" :inputmode="words === NUMBER_WORDS ? 'decimal' : undefined" maxlength="42" :style="{ width: `${words.width}px` }" @change="commit" @keydown.enter="commit">
</template>

<style scoped>
input { height: 22px; padding: 0 4px; font-size: 13px; font-weight: 600; text-align: right; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.wrong { border-color: var(--brick); color: var(--brick); }
</style>
