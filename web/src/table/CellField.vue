<script setup lang="ts">
/** The field in which a cell is changed. Whatever else moves on the page, what is typed in it stays. */
import { nextTick, onBeforeUnmount, onMounted, ref } from 'vue'

/** @property isFresh whether it was opened by typing, which goes on behind what is there */
const props = defineProps<{ text: string; isFresh: boolean; label: string }>()
const emit = defineEmits<{ commit: [text: string, then: string | null]; cancel: [] }>()

const LONGEST = 100_000
const text = ref(props.text)
const field = ref<HTMLInputElement | null>(null)
let isOver = false

onMounted(async () => {
  // What was typed before it was here is in it by now.
  await nextTick()
  field.value?.focus()
  if (props.isFresh) field.value?.setSelectionRange(text.value.length, text.value.length)
  else field.value?.select()
})

// Scrolled out of view, it is kept as it was left.
onBeforeUnmount(() => commit(null))

function commit(then: string | null): void {
  if (isOver) return
  isOver = true
  emit('commit', text.value, then)
}

function key(event: KeyboardEvent): void {
  event.stopPropagation()
  const then = { Enter: event.shiftKey ? 'ArrowUp' : 'ArrowDown', Tab: event.shiftKey ? 'ArrowLeft' : 'ArrowRight' }[event.key]
  if (then) commit(then)
  else if (event.key === 'Escape') {
    isOver = true
    emit('cancel')
  } else return
  event.preventDefault()
}

defineExpose({
  /** More of what is typed, from before it had the keyboard. */
  add: (more: string) => (text.value += more),
})
</script>

<template>
  <input
    ref="field"
    v-model="text"
    class="field"
    :aria-label="label"
    :maxlength="LONGEST"
    @keydown="key"
    @pointerdown.stop
    @dblclick.stop
    @blur="commit(null)"
    @paste.stop
    @copy.stop
  />
</template>

<style scoped>
.field { position: absolute; inset: 0; width: 100%; padding: 0 9px; font: inherit; color: var(--ink); background: var(--sheet); border: 2px solid var(--brass); text-align: inherit; user-select: text; }
.field:focus-visible { outline: none; }
</style>
