<script setup lang="ts">
/** One highlight: what it is called, how it looks, and the condition that records meet, counted while it is written. */
import type { RulesGate } from '@dime-gate/core/gate/document'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import ConditionField from '../conditions/ConditionField.vue'
import { provideConditionBench } from '../conditions/condition-bench'
import { type Subject, subjectsOf } from '../conditions/subjects'
import { counted } from '../shared/format'
import LookMenu from '../shared/LookMenu.vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import { useThrottled } from '../shared/useThrottled'
import { partsOf } from './condition-parts'
import type { HighlightSession } from './useHighlights'

/** @property gate that has all that a highlight can look at for inputs @property others which of these are columns that the gate itself does not look at @property taken names of the other highlights */
const props = defineProps<{ highlight: Highlight; isNew: boolean; gate: RulesGate; others: readonly string[]; taken: readonly string[]; session: HighlightSession }>()
const emit = defineEmits<{ keep: [highlight: Highlight]; close: [] }>()

useReturnFocus()
const typed = reactive({ ...props.highlight })
const unfinished = ref<string | null>(null)
/** Undefined before it is counted; null where it cannot be read. */
const records = ref<number | null | undefined>()

/** By part of the condition, how many records it holds for. */
const parts = shallowRef<ReadonlyMap<string, number>>(new Map())
/** Milliseconds between two counts. */
const PAUSE = 150

/** Figures of the gate that is looked through are distances alone. */
const detailOf = ({ name, detail }: Subject) => (props.others.includes(name) ? `column, ${detail}` : detail.replace(/^figure/, 'distance'))

const on = computed(() => ({ gate: props.gate, inputs: {} }))
provideConditionBench({
  on, subjects: computed(() => subjectsOf(on.value, { columns: [], sets: [] }, [], []).map((subject) => ({ ...subject, detail: detailOf(subject) }))),
  choices: (input) => props.session.highlightChoices(input), spread: () => Promise.resolve(null), tick: computed(() => 0), renewed: computed(() => 0), lines: computed(() => new Map()), showsRecords: false, openNamed: null,
})

const follow = useThrottled(async () => {
  const { condition } = typed
  const tests = partsOf(condition, props.gate)
  const told = await props.session.toldHighlights([condition, ...tests.map(({ text }) => text)].map((one) => ({ ...typed, condition: one }))).catch(() => undefined)
  // A column that cannot be fetched now says nothing of the condition.
  if (told === undefined || typed.condition !== condition) return
  records.value = condition === '' ? undefined : (told?.records[0] ?? null)
  parts.value = new Map(tests.flatMap(({ way }, at) => { const found = told?.records[at + 1]; return typeof found === 'number' ? [[way, found] as const] : [] }))
}, PAUSE)
watch(() => typed.condition, follow, { immediate: true })

const columns = computed(() => [{ value: null, title: 'the record' }, ...props.gate.inputs.map(({ name }) => ({ value: name, title: name }))])
const nameWrong = computed(() => (props.taken.includes(typed.name.trim()) ? 'There is a highlight of that name.' : ''))
const isReady = computed(() => typed.name.trim() !== '' && nameWrong.value === '' && typed.condition.trim() !== '' && unfinished.value === null && typeof records.value === 'number')

function keep(): void {
  if (isReady.value) emit('keep', { ...typed, name: typed.name.trim() })
}
</script>

<template>
  <v-dialog :model-value="true" max-width="720" :aria-label="isNew ? 'Highlight records' : `Highlight ${highlight.name}`" @update:model-value="emit('close')">
    <v-card class="pa-5">
      <form class="highlight" @submit.prevent="keep">
        <h1>{{ isNew ? 'Highlight records' : highlight.name }}</h1>
        <div class="line">
          <LookMenu :band="{ label: typed.name || 'the highlight', colour: typed.colour, mark: typed.mark }" @change="Object.assign(typed, $event)" />
          <v-text-field v-model="typed.name" label="Name" density="compact" variant="outlined" maxlength="120" :error-messages="nameWrong" hide-details="auto" autofocus />
          <v-autocomplete v-model="typed.on" :items="columns" auto-select-first label="Point out" density="compact" variant="outlined" hide-details class="on" />
        </div>
        <div class="condition">
          <h2>Where</h2>
          <ConditionField :gate="gate" :condition="typed.condition" label="What is highlighted" :parts="parts" :shown-part="null" :unfinished="unfinished" @change="(text) => (typed.condition = text)" @unfinished="unfinished = $event" />
        </div>
        <p role="status" class="told"><template v-if="records === undefined"><span class="second">Say what the records are, by their values, their label, their status, how far they are from a cut, or any other column.</span></template><b v-else-if="records !== null">{{ counted(records, 'record') }} here</b><span v-else class="trouble">Neither the gate nor this table has what the condition names.</span></p>
        <v-checkbox v-model="typed.isException" label="These are exceptions: they wait in Review until somebody has settled them" density="compact" hide-details />
        <div class="ways"><v-btn class="primary" type="submit" :disabled="!isReady">{{ isNew ? 'Highlight them' : 'Keep it so' }}</v-btn><v-btn @click="emit('close')">Cancel</v-btn></div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.highlight { display: grid; gap: 12px; }
.line { display: flex; align-items: start; gap: 10px; }
.line > :first-child { margin-top: 8px; }
.on { max-width: 240px; }
.condition { display: grid; gap: 4px; min-height: 76px; max-height: 46vh; overflow-y: auto; padding: 8px 10px; border: 1px solid var(--hairline); border-radius: 4px; }
.told { min-height: 22px; }
.ways { display: flex; gap: 10px; }
@media (max-width: 560px) { .line { flex-wrap: wrap; } .on { max-width: none; } }
</style>
