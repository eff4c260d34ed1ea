<script setup lang="ts">
/** A gate for others to try: they type values of their own and read what comes of it. It is decided in this page, and nothing is sent. */
import { givenInputs } from '@dime-gate/contract/question'
import { linkedGateSchema } from '@dime-gate/contract/slip'
import { computed, ref } from 'vue'
import { date } from '../shared/format'
import { useLinked } from '../shared/useLinked'
import { plainParts } from '../showing/plain-words'
import SlipSheet from '../slip/SlipSheet.vue'
import { triedWords } from './tried-words'

const props = defineProps<{ token: string }>()
const { found, trouble, load } = useLinked(linkedGateSchema, `/tries/${encodeURIComponent(props.token)}`, ({ gate }) => `Try ${gate.name}`)
/** By input, as it was typed. */
const typed = ref<Record<string, string>>({})
const inputs = computed(() => (found.value ? givenInputs(found.value) : []))
const isBegun = computed(() => Object.values(typed.value).some((text) => text.trim() !== ''))
const words = computed(() => (found.value && isBegun.value ? triedWords(found.value, typed.value) : null))
const decided = computed(() => found.value && plainParts(found.value.gate))
const PLACEHOLDERS: Partial<Record<string, string>> = { date: '2026-03-31', boolean: 'yes or no', number: 'a number', text: 'a text' }
</script>

<template>
  <section class="alone">
    <template v-if="trouble"><h1>Nothing is here to try</h1><p role="alert">{{ trouble }}</p><v-btn @click="load">Try again</v-btn></template>
    <template v-else-if="found && decided">
      <header>
        <h1>{{ found.gate.name }}</h1>
        <p class="second">Type values of your own and see what comes of them. They stay in this page: nothing is sent, and nothing is kept.</p>
      </header>
      <div class="both">
        <form @submit.prevent>
          <label v-for="input in inputs" :key="input.name" :data-try="input.name"><span>{{ input.name }}<small v-if="input.isSet" class="second"> several, with ; between</small></span><span class="field"><input v-model="typed[input.name]" :inputmode="input.type === 'number' && !input.isSet ? 'decimal' : 'text'" :placeholder="PLACEHOLDERS[input.type] ?? ''" maxlength="400" autocomplete="off"><span class="unit second">{{ input.unit }}</span></span></label>
        </form>
        <SlipSheet v-if="words" :head="{ gate: found.gate, asOf: found.asOf, tableName: '' }" :words="words" aria-live="polite" />
        <section v-else class="decided" aria-label="How it is decided">
          <p v-for="line in decided.before.slice(1)" :key="line">{{ line }}</p>
          <ol><li v-for="(line, at) in decided.rules" :key="at">{{ line }}</li></ol>
          <p>{{ decided.rest }}</p>
        </section>
      </div>
      <p class="second end">Today counts as {{ date(found.asOf) }}. This page can be used until {{ date(found.endsOn) }}.</p>
    </template>
    <p v-else class="second" role="status">Opening …</p>
  </section>
</template>

<style scoped>
.alone { display: grid; gap: 20px; width: min(100%, 1120px); margin: 0 auto; padding: 32px 16px; justify-items: start; }
.both { display: grid; grid-template-columns: minmax(0, 380px) minmax(0, 1fr); gap: 32px; width: 100%; align-items: start; }
form { display: grid; gap: 14px; }
label { display: grid; gap: 4px; font-weight: 600; overflow-wrap: anywhere; }
.field { display: flex; align-items: baseline; gap: 8px; }
input { flex: 1; min-width: 0; height: 36px; padding: 0 6px; font: inherit; font-size: 17px; font-weight: 400; color: var(--ink); background: var(--sheet); border: 0; border-bottom: 2px solid var(--brass); }
.unit { flex: none; min-width: 36px; font-weight: 400; }
.decided { display: grid; gap: 8px; max-width: 640px; }
ol { margin: 0; padding-left: 22px; }
@media (max-width: 760px) { .both { grid-template-columns: minmax(0, 1fr); gap: 20px; } }
</style>
