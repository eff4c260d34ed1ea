<script setup lang="ts">
/** A condition that is being changed: as sentences, or typed as an expression; two views of one thing. */
import type { RulesGate } from '@dime-gate/core/gate/document'
import { ALWAYS } from '@dime-gate/core/rule/condition'
import { isEverything } from '@dime-gate/core/rule/edit-condition'
import { readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import ExpressionField from '../figure/ExpressionField.vue'
import ConditionEditor from './ConditionEditor.vue'
import { useConditionBench } from './condition-bench'
import { type OnTable, writtenCondition } from './subjects'

const props = defineProps<{
  gate: RulesGate
  /** What the gate has of it. */
  condition: string
  label: string
  /** By way, how many records its parts hold for. */
  parts: ReadonlyMap<string, number>
  shownPart: string | null
  /** A text that is no condition yet, as it was left. */
  unfinished: string | null
}>()
const emit = defineEmits<{
  /** @param step what belongs to one run of keys is undone at once */
  change: [text: string, on: OnTable, step: string | null]
  unfinished: [text: string | null]
  show: [way: number[]]
  /** A whole condition was typed in place of a test. */
  written: []
  name: [way: number[]]
}>()

const bench = useConditionBench()
const host = useTemplateRef<HTMLElement>('host')
const editor = useTemplateRef('editor')

const read = computed(() => readCondition(props.condition, typesIn(props.gate)))
const tree = computed(() => ('condition' in read.value && !isEverything(read.value.condition) ? read.value.condition : ALWAYS))
const isTyped = ref(props.unfinished !== null || 'problem' in read.value)
const text = ref(props.unfinished ?? props.condition)
const written = computed(() => writtenCondition(bench.on.value, text.value, bench.subjects.value))
const trouble = computed(() => ('trouble' in written.value ? written.value.trouble : null))
const names = computed(() => bench.subjects.value.map(({ name, detail }) => ({ name, detail })))

watch(text, () => {
  if (!isTyped.value) return
  const now = written.value
  emit('unfinished', 'trouble' in now ? text.value : null)
  if (!('trouble' in now) && now.text !== props.condition) emit('change', now.text, now, `typing ${props.label}`)
})
// Undone, or changed by the other view, it is what it is now.
watch(() => props.condition, (now) => {
  if (isTyped.value && !('trouble' in written.value) && written.value.text !== now) text.value = now
})

/** The other view. */
async function turn(): Promise<void> {
  if (isTyped.value) emit('unfinished', null)
  isTyped.value = !isTyped.value
  text.value = props.condition
  await nextTick()
  if (isTyped.value) host.value?.querySelector<HTMLElement>('.cm-content')?.focus()
}

defineExpose({ focus: (way: string, part: string) => editor.value?.focus(way, part) })
</script>

<template>
  <div ref="host" class="field">
    <template v-if="isTyped">
      <ExpressionField v-model="text" :label="label" :names="names" :trouble="trouble" />
      <p v-if="trouble && text.trim() !== ''" class="trouble" role="alert">{{ trouble.words }}</p>
    </template>
    <ConditionEditor v-else ref="editor" :condition="tree" :alone="parts" :shown="shownPart" @change="(next, on) => emit('change', next, on, null)" @show="emit('show', $event)" @written="emit('written')" @name="emit('name', $event)" />
    <div class="foot">
      <slot />
      <button class="plain-button way" type="button" @click="turn">{{ isTyped ? 'As sentences' : 'As an expression' }}</button>
      <slot name="acts" />
    </div>
  </div>
</template>

<style scoped>
.field { display: grid; gap: 4px; min-width: 0; }
.foot { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 14px; padding: 2px 4px 0; }
.way { min-height: 26px; color: var(--pine); font-weight: 600; font-size: 13px; }
</style>
