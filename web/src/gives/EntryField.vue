<script setup lang="ts">
/** What a rule gives one outcome: one of the labels, a value that is typed, or after “=” an expression. */
import type { Entry, OutcomeColumn } from '@dime-gate/core/gate/document'
import { readCell } from '@dime-gate/core/value/read-cell'
import { valueFromText } from '@dime-gate/core/value/value-text'
import { computed, useTemplateRef } from 'vue'
import { typedNumber } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { valueWords } from '../shared/words'
import PickField, { type Option } from '../conditions/PickField.vue'

/** @property given values that other rules give this outcome */
const props = defineProps<{ entry: Entry; outcome: OutcomeColumn; given: readonly string[]; label: string; placeholder: string }>()
const emit = defineEmits<{ give: [entry: Entry] }>()

const pick = useTemplateRef('pick')
const NOTHING = '\u0000'
const words = computed(() => (!props.entry ? '' : 'is' in props.entry ? valueWords(props.entry.is) : `= ${props.entry.feel}`))
const options = computed((): Option[] => {
  const values = [...new Set([...props.outcome.labels.map(({ value }) => value), ...props.given])]
  return [...values.map((value) => ({ value, words: valueWords(value) })), ...(props.entry ? [{ value: NOTHING, words: 'no value' }] : [])]
})
const looks = computed(() => new Map(props.outcome.labels.map((label) => [label.value, label])))
const look = computed(() => (props.entry && 'is' in props.entry ? looks.value.get(props.entry.is) : undefined))

/** In canonical text; null where it is no value of the outcome's kind. */
function valueOf(typed: string): string | null {
  const { type } = props.outcome
  if (type === 'number') return typedNumber(typed)
  if (type === 'text') return typed.replace(/\s+/g, ' ')
  if (type === 'date' || type === 'boolean') {
    const reading = readCell(typed, { type, decimalMark: 'point', dateOrder: 'day', fraction: false })
    return reading.state === 'readable' ? reading.value : null
  }
  return valueFromText(typed, type) === null ? null : typed
}

function typed(text: string): Option | null {
  if (text.startsWith('=')) return { value: text, words: text }
  const value = valueOf(text)
  return value === null ? null : { value, words: valueWords(value) }
}

function take(value: string): void {
  if (value === NOTHING) emit('give', null)
  else if (value.startsWith('=')) emit('give', { feel: value.slice(1).trim() })
  else emit('give', { is: value })
}

defineExpose({ focus: () => pick.value?.focus() })
</script>

<template>
  <span class="entry">
    <MarkCoin v-if="look" :mark="look.mark" :colour="look.colour" />
    <PickField ref="pick" :words="words" :options="options" :label="label" :placeholder="placeholder" :other="typed" @pick="take">
      <template #sign="{ option }"><MarkCoin v-if="looks.get(option.value)" :mark="looks.get(option.value)!.mark" :colour="looks.get(option.value)!.colour" :size="12" />&nbsp;</template>
    </PickField>
  </span>
</template>

<style scoped>
.entry { display: inline-flex; align-items: center; gap: 6px; min-width: 0; }
</style>
