<script setup lang="ts">
/** One record to try: its values, typed, and what it would get. */
import type { Question } from '@dime-gate/contract/question'
import type { LabelLook } from '@dime-gate/core/result/tray'
import type { Decision } from '@dime-gate/core/decide/decide-record'
import { computed, ref, watch } from 'vue'
import { number } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { reasonWords } from '../shared/words'
import { tryOut, typedInputs } from './trial'

const props = defineProps<{ question: Pick<Question, 'gate' | 'feeding'>; labels: LabelLook[]; asOf: string }>()
const emit = defineEmits<{ stops: [decision: Decision | null] }>()
const typed = ref<Record<string, string>>({})
const inputs = computed(() => typedInputs(props.question))
const trial = computed(() => tryOut(props.question, typed.value, props.asOf))
/** Nobody has tried anything as long as nothing is typed. */
watch(trial, (now) => emit('stops', now && Object.values(typed.value).some((text) => text !== '') ? now.why.decision : null))
const look = computed(() => props.labels.find(({ label }) => label === trial.value?.label) ?? null)
const words = computed(() => {
  if (!trial.value) return ''
  const { reasons: [reason], nearest, label } = trial.value
  if (reason) return reasonWords(reason, props.question.gate, label)
  if (!nearest) return ''
  const isShort = nearest.distance.startsWith('-')
  return `${number(nearest.distance.replace('-', ''))} ${isShort ? 'short of' : 'past'} the cut at ${number(nearest.at)}`
})
const PLACEHOLDERS: Partial<Record<string, string>> = { date: '2026-03-31', boolean: 'yes or no' }
</script>

<template>
  <section>
    <h2>Try one {{ inputs.length === 1 ? 'value' : 'record' }}</h2>
    <div class="trial" :class="{ many: inputs.length > 1 }">
      <label v-for="input in inputs" :key="input.name" :data-try="input.name"><span class="of">{{ input.name }}</span> <input v-model="typed[input.name]" :class="{ figure: input.type === 'number' }" :inputmode="input.type === 'number' ? 'decimal' : 'text'" :placeholder="PLACEHOLDERS[input.type] ?? 'blank'" maxlength="200"> {{ input.unit }}</label>
      <span class="gets"><span class="second" aria-hidden="true">→</span>
        <output>
          <template v-if="trial && trial.label !== null"><MarkCoin v-if="look" :mark="look.mark" :colour="look.colour" /> <b>{{ trial.label === '' ? 'no value' : trial.label }}</b></template>
          <b v-else class="second">{{ trial?.why.decision.status ?? 'cannot decide' }}</b>
        </output>
      </span>
    </div>
    <p class="second small">{{ words || '\u00a0' }}</p>
  </section>
</template>

<style scoped>
section { display: grid; gap: 5px; }
.trial { display: flex; gap: 10px; align-items: center; }
.trial.many { display: grid; gap: 4px; }
.many label { display: grid; grid-template-columns: 1fr 108px 40px; align-items: baseline; }
.of { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
input { width: 92px; height: 26px; margin: 0 4px; padding: 0 4px; font: inherit; color: var(--ink); background: none; border: 0; border-bottom: 2px solid var(--brass); border-radius: 0; }
.many input { width: 100px; }
.gets { display: inline-flex; gap: 10px; align-items: center; min-width: 0; }
.small { font-size: 13px; }
</style>
