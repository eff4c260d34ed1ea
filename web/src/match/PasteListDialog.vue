<script setup lang="ts">
/** A list of two columns, pasted: which value gets which label. What it comes to is told before it is taken. */
import type { MatchGate } from '@dime-gate/core/gate/document'
import { keyOf } from '@dime-gate/core/gate/edit-match'
import { labelGiven } from '@dime-gate/core/gate/entries'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import { computed, ref, watch } from 'vue'
import { count, counted } from '../shared/format'
import { useReturnFocus } from '../shared/useReturnFocus'
import { listed } from '../shared/words'
import { readPastedList, seemsToHaveHead } from './pasted-list'

const props = defineProps<{ gate: MatchGate; values: CommonValues['values'] }>()
const emit = defineEmits<{ take: [pairs: [value: string, label: string][]]; close: [] }>()

useReturnFocus()
const text = ref('')
const hasHead = ref(false)
const present = computed(() => new Map(props.values.map(({ text: value, records }) => [keyOf(props.gate, value), records])))
const isValue = (value: string) => present.value.has(keyOf(props.gate, value))
watch(text, (now) => (hasHead.value = seemsToHaveHead(now, isValue)))
const list = computed(() => readPastedList(text.value, hasHead.value))
const wrong = computed(() => { const kind = props.gate.inputs.find(({ name }) => name === props.gate.on)?.type; return kind === 'number' ? list.value.pairs.filter(([value]) => !/^-?\d+(\.\d+)?$/.test(value)) : [] })
const pairs = computed(() => list.value.pairs.filter((pair) => !wrong.value.includes(pair)))
const labels = computed(() => [...new Set(pairs.value.map(([, label]) => label))])
const fresh = computed(() => labels.value.filter((label) => !props.gate.lines.some(({ entries }) => labelGiven(entries) === label)))
const absent = computed(() => [...new Set(pairs.value.map(([value]) => value))].filter((value) => !isValue(value)))
const records = computed(() => [...new Set(pairs.value.map(([value]) => keyOf(props.gate, value)))].reduce((sum, key) => sum + (present.value.get(key) ?? 0), 0))
const few = (all: readonly string[]) => listed([...all.slice(0, 4).map((one) => `“${one}”`), ...(all.length > 4 ? [`${count(all.length - 4)} more`] : [])])
</script>

<template>
  <v-dialog :model-value="true" max-width="560" aria-label="Sort as a list says" @update:model-value="emit('close')">
    <v-card class="pa-5 paste">
      <h1>Sort as a list says</h1>
      <p class="second">Two columns: a value of {{ gate.on }}, and the label that it gets. Paste them from wherever they stand.</p>
      <textarea v-model="text" rows="9" aria-label="The list" spellcheck="false" :placeholder="'Rowan\tPinnate\nSycamore\tPalmate'" />
      <template v-if="text.trim() !== ''">
        <v-checkbox v-model="hasHead" label="The first line is a head" />
        <p role="status"><b>{{ counted(pairs.length, 'value') }}</b> into {{ counted(labels.length, 'tray') }}<template v-if="fresh.length > 0">, {{ fresh.length === labels.length ? 'all' : count(fresh.length) }} of them new</template>; {{ counted(records, 'record') }}.</p>
        <p v-if="absent.length > 0" class="second">{{ counted(absent.length, 'value is', 'values are') }} in no record: {{ few(absent) }}.</p>
        <p v-if="list.odd.length > 0" class="trouble">{{ counted(list.odd.length, 'line has', 'lines have') }} no two columns, and {{ list.odd.length === 1 ? 'is' : 'are' }} left out: {{ listed(list.odd.slice(0, 3).map(({ line, text: odd }) => `line ${line}, “${odd.slice(0, 40)}”`)) }}.</p>
        <p v-if="wrong.length > 0" class="trouble">{{ counted(wrong.length, 'value is', 'values are') }} no number, and left out: {{ few(wrong.map(([value]) => value)) }}.</p>
      </template>
      <div class="ways"><v-btn class="primary" :disabled="pairs.length === 0" @click="emit('take', pairs)">Sort them so</v-btn><v-btn @click="emit('close')">Cancel</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.paste { display: grid; gap: 8px; }
textarea { padding: 8px 10px; font-family: var(--figures); font-size: 13.5px; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; resize: vertical; }
.ways { display: flex; gap: 10px; }
</style>
