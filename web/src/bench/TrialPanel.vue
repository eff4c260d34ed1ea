<script setup lang="ts">
/** One record to try: its values, typed or taken from the list, what it would get, and why, test by test. */
import { givenInputs, type Question } from '@dime-gate/contract/question'
import type { Decision } from '@dime-gate/core/decide/decide-record'
import type { Example } from '@dime-gate/core/gate/document'
import type { EdgeCounts } from '@dime-gate/core/result/counts'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { computed, watch } from 'vue'
import MarkCoin from '../shared/MarkCoin.vue'
import { valueWords } from '../shared/words'
import { keptExample, proposals, tryOut, typedText } from './trial'
import { trialWords } from './trial-words'
import WhyWalk from './WhyWalk.vue'

/** @property cuts values to try are proposed at these; @property from who the record is that was taken from the list @property hasRecords whether a record can be asked for that a rule takes */
const props = defineProps<{ question: Pick<Question, 'gate' | 'feeding'>; labels: LabelLook[]; asOf: string; cuts?: readonly Pick<EdgeCounts, 'of' | 'at'>[]; from?: string | null; hasRecords?: boolean }>()
const emit = defineEmits<{ stops: [decision: Decision | null]; keep: [example: Example]; record: [takenBy: number | 'rest'] }>()
/** By input, as it was typed. */
const typed = defineModel<Record<string, string>>({ default: () => ({}) })
const inputs = computed(() => givenInputs(props.question))
const trial = computed(() => tryOut(props.question, typed.value, props.asOf))
/** Nobody has tried anything as long as nothing is typed. */
const isBegun = computed(() => inputs.value.some(({ name }) => (typed.value[name] ?? '') !== ''))
watch([trial, isBegun], ([now, begun]) => emit('stops', now && begun ? now.why.decision : null), { immediate: true })
const look = computed(() => props.labels.find(({ label }) => label === trial.value?.label) ?? null)
const words = computed(() => (trial.value ? trialWords(trial.value, props.question.gate) : ''))
const offered = computed(() => proposals(props.question, props.cuts ?? []))
const PLACEHOLDERS: Partial<Record<string, string>> = { date: '2026-03-31', boolean: 'yes or no' }

const set = (name: string, text: string) => (typed.value = { ...typed.value, [name]: text })
const take = (name: string, value: string) => set(name, typedText(inputs.value.find((input) => input.name === name)!, value))
</script>

<template>
  <section>
    <h2>Try one {{ inputs.length === 1 ? 'value' : 'record' }}<span v-if="from" class="from">as {{ from }}</span></h2>
    <div class="trial" :class="{ many: inputs.length > 1 }">
      <label v-for="input in inputs" :key="input.name" :data-try="input.name"><span class="of">{{ input.name }}</span> <input :value="typed[input.name] ?? ''" :class="{ figure: input.type === 'number' }" :inputmode="input.type === 'number' ? 'decimal' : 'text'" :placeholder="PLACEHOLDERS[input.type] ?? 'blank'" maxlength="200" @input="set(input.name, ($event.target as HTMLInputElement).value)"> {{ input.unit }}</label>
      <span class="gets"><span class="second" aria-hidden="true">→</span>
        <output>
          <template v-if="trial && trial.label !== null"><MarkCoin v-if="look" :mark="look.mark" :colour="look.colour" /> <b>{{ trial.label === '' ? 'no value' : trial.label }}</b></template>
          <b v-else class="second">{{ trial?.why.decision.status ?? 'cannot decide' }}</b>
        </output>
      </span>
    </div>
    <p class="second small">{{ words || '\u00a0' }}</p>
    <WhyWalk v-if="trial && isBegun" :why="trial.why" :gate="question.gate" />
    <p v-if="isBegun && trial" class="keeps"><button class="plain-button link" type="button" @click="emit('keep', keptExample(question, typed, trial.label))">Keep as an example that gets {{ trial.label === null ? 'no label' : `“${trial.label}”` }}</button></p>
    <div v-if="hasRecords && question.gate.form === 'rules' && question.gate.rules.length > 0" class="offers" role="group" aria-label="A record for each rule">
      <span class="offer"><span class="second">a record for rule</span><button v-for="(_, rule) in question.gate.rules" :key="rule" class="plain-button figure chip" type="button" :aria-label="`Try a record that rule ${rule + 1} takes`" @click="emit('record', rule)">{{ rule + 1 }}</button><button class="plain-button chip" type="button" aria-label="Try a record that no rule takes: none" @click="emit('record', 'rest')">none</button></span>
    </div>
    <div v-if="offered.length > 0" class="offers" role="group" aria-label="Values at the cuts">
      <span v-for="offer in offered.slice(0, 12)" :key="`${offer.input} ${offer.values[1]}`" class="offer"><span v-if="inputs.length > 1" class="second">{{ offer.input }}</span><button v-for="value in offer.values" :key="value" class="plain-button figure chip" type="button" :aria-label="`Try ${offer.input} ${valueWords(value)}`" @click="take(offer.input, value)">{{ valueWords(value) }}</button></span>
    </div>
  </section>
</template>

<style scoped>
section { display: grid; gap: 5px; }
.from { font-weight: 400; margin-left: 6px; }
.trial { display: flex; gap: 10px; align-items: center; }
.trial.many { display: grid; gap: 4px; }
.many label { display: grid; grid-template-columns: 1fr 108px 40px; align-items: baseline; }
.of { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
input { width: 92px; height: 26px; margin: 0 4px; padding: 0 4px; font: inherit; color: var(--ink); background: none; border: 0; border-bottom: 2px solid var(--brass); border-radius: 0; }
.many input { width: 100px; }
.gets { display: inline-flex; gap: 10px; align-items: center; min-width: 0; }
.small { font-size: 13px; }
.link { color: var(--pine); font-weight: 600; min-height: 24px; font-size: 13px; }
.offers { display: flex; flex-wrap: wrap; gap: 3px 14px; font-size: 12.5px; }
.offer { display: inline-flex; flex-wrap: wrap; align-items: baseline; gap: 2px 5px; }
.chip { min-height: 24px; min-width: 24px; padding: 0 6px; text-align: center; border: 1px solid var(--hairline); border-radius: 12px; background: var(--sheet); }
.chip:hover { background: var(--tint); }
</style>
