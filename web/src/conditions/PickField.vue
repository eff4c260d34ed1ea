<script setup lang="ts">
/** A word that is changed in place: a field that lists what could stand there, and narrows as one types. */
import { computed, nextTick, ref, useId, useTemplateRef, watch } from 'vue'

export interface Option {
  value: string
  words: string
  detail?: string
}

/**
 * @property words what stands there now
 * @property other what a text that is not among the options comes to; null where it can be nothing
 * @property wrong says of such a text what is wrong with it
 */
const props = defineProps<{ words: string; options: readonly Option[]; label: string; placeholder?: string; other?: (typed: string) => { value: string; words: string } | null; wrong?: (typed: string) => string; wide?: boolean }>()
const emit = defineEmits<{ pick: [value: string]; open: []; leave: [] }>()

const MOST = 200
const field = useTemplateRef<HTMLInputElement>('field')
const id = useId()
const isOpen = ref(false)
/** Null until something is typed. */
const typed = ref<string | null>(null)
const at = ref(0)

const found = computed((): Option[] => {
  const wanted = typed.value?.trim().toLowerCase() ?? ''
  if (wanted === '') return props.options.slice(0, MOST)
  const begins = props.options.filter(({ words }) => words.toLowerCase().startsWith(wanted))
  const has = props.options.filter(({ words }) => !words.toLowerCase().startsWith(wanted) && words.toLowerCase().includes(wanted))
  const other = props.options.some(({ words }) => words.toLowerCase() === wanted) ? null : (props.other?.(typed.value!.trim()) ?? null)
  return [...(other ? [{ value: other.value, words: other.words, detail: 'as typed' }] : []), ...begins, ...has].slice(0, MOST)
})
/** What a bare Enter takes: what was typed whole, then what begins so, and only then what was typed where nothing does. */
const trouble = computed(() => (typed.value?.trim() && found.value.length === 0 ? (props.wrong?.(typed.value.trim()) ?? 'Nothing is called so.') : ''))
const best = computed(() => {
  const wanted = typed.value?.trim().toLowerCase() ?? ''
  const whole = found.value.findIndex(({ words }) => words.toLowerCase() === wanted)
  return whole === -1 ? 0 : whole
})
watch(typed, (now) => {
  if (now !== null) at.value = best.value
})

function open(): void {
  if (isOpen.value) return
  emit('open')
  at.value = Math.max(0, props.options.findIndex(({ words }) => words === props.words))
  isOpen.value = true
}

/** Where nothing stands yet, what could is shown at once. */
function enter(event: FocusEvent): void {
  ;(event.target as HTMLInputElement).select()
  if (props.words === '') open()
}

function pick(option: Option | undefined): void {
  isOpen.value = false
  typed.value = null
  if (option) emit('pick', option.value)
}

function close(): void {
  isOpen.value = false
  typed.value = null
}

function left(): void {
  // What was typed whole is meant, also by whoever goes on with Tab.
  const wanted = typed.value?.trim() ?? ''
  const meant = wanted === '' ? undefined : (found.value.find(({ words }) => words.toLowerCase() === wanted.toLowerCase()) ?? found.value[0])
  if (meant && meant.words !== props.words) pick(meant)
  else if (wanted === '' || meant) close()
  // What is wrong stays as it was typed, to be put right.
  else isOpen.value = false
  emit('leave')
}

function key(event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step && !event.altKey) {
    if (isOpen.value) at.value = (at.value + step + found.value.length) % Math.max(1, found.value.length)
    else open()
    void nextTick(() => document.getElementById(`${id}-${at.value}`)?.scrollIntoView({ block: 'nearest' }))
  } else if (event.key === 'Enter') {
    if (!isOpen.value) return
    pick(found.value[at.value])
  } else if (event.key === 'Escape' && isOpen.value) {
    const hasBegun = typed.value !== null || props.words !== ''
    close()
    // With nothing to take back it means what it means around.
    if (!hasBegun) return
  } else return
  event.preventDefault()
  event.stopPropagation()
}

function type(event: Event): void {
  typed.value = (event.target as HTMLInputElement).value.trimStart() === '' ? '' : (event.target as HTMLInputElement).value
  isOpen.value = true
}

defineExpose({
  focus() {
    field.value?.focus()
    field.value?.select()
  },
})
</script>

<template>
  <span class="pick">
    <input
      :id="id"
      ref="field"
      class="word"
      :class="{ wide, wrong: trouble !== '' && !isOpen }"
      :aria-invalid="trouble !== ''"
      :title="isOpen ? undefined : trouble || undefined"
      role="combobox"
      autocomplete="off"
      spellcheck="false"
      :aria-label="label"
      :aria-expanded="isOpen"
      :aria-controls="`${id}-list`"
      :aria-activedescendant="isOpen && found.length > 0 ? `${id}-${at}` : undefined"
      aria-autocomplete="list"
      :value="typed ?? words"
      :placeholder="placeholder"
      :size="Math.max(3, (typed ?? words).length || (placeholder?.length ?? 0))"
      maxlength="2000"
      @input="type"
      @focus="enter"
      @click="open"
      @keydown="key"
      @blur="left"
    >
    <v-menu :model-value="isOpen" :activator="`#${id}`" :open-on-click="false" :close-on-content-click="false" :scrim="false" :retain-focus="false" persistent :capture-focus="false" location="bottom start" offset="3" max-height="280" :transition="false" disable-initial-focus @update:model-value="$event || close()">
      <ul :id="`${id}-list`" class="options" role="listbox" :aria-label="label">
        <li v-for="(option, index) in found" :id="`${id}-${index}`" :key="option.value" role="option" :aria-selected="index === at" :class="{ here: index === at }" @pointerdown.prevent @pointerenter="at = index" @click="pick(option)">
          <span class="words"><slot name="sign" :option="option" />{{ option.words }}</span><span v-if="option.detail" class="second figure">{{ option.detail }}</span>
        </li>
        <li v-if="found.length === 0" class="none" :class="trouble ? 'trouble' : 'second'" role="option" aria-disabled="true" aria-selected="false">{{ trouble || 'There is nothing to choose from.' }}</li>
      </ul>
    </v-menu>
  </span>
</template>

<style scoped>
.pick { display: inline-flex; min-width: 0; }
.word { field-sizing: content; width: auto; min-width: 34px; max-width: 100%; height: 26px; padding: 0 3px; font: inherit; font-weight: 600; color: var(--pine); background: none; border: 0; border-bottom: 1.5px dotted var(--pine); text-overflow: ellipsis; cursor: pointer; }
.word.wide { min-width: 150px; }
.word::placeholder { color: var(--second); font-weight: 400; opacity: 1; }
.word:hover { background: var(--tint); }
.word:focus { cursor: text; background: var(--sheet); }
.options { list-style: none; margin: 0; padding: 3px; min-width: 190px; max-width: 420px; max-height: 280px; overflow: auto; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; font-size: 14px; }
li { display: flex; justify-content: space-between; gap: 18px; align-items: baseline; padding: 4px 9px; border-radius: 3px; cursor: pointer; }
.words { overflow-wrap: anywhere; }
li .second { font-size: 12.5px; white-space: nowrap; }
li.here { background: var(--tint); }
.none { cursor: default; }
.wrong { color: var(--brick); border-bottom-color: var(--brick); }
</style>
