<script setup lang="ts">
/** One record of a run: what it got and why, its values then and now, and what it got in other runs. */
import type { Run } from '@dime-gate/contract/run'
import type { Cell } from '@dime-gate/contract/table'
import { computed } from 'vue'
import { tryOut, typedRecord } from '../bench/trial'
import { trialWords } from '../bench/trial-words'
import WhyWalk from '../bench/WhyWalk.vue'
import { placeWords } from '../comparison/comparison-words'
import type { Place } from '../comparison/flows'
import { date } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { withUnit } from '../shared/words'
import { cellWords, listedWords } from '../table/cell-words'
import { useRecordInRun } from './useRecordInRun'

/** @property cells as the run saw them, by its columns */
const props = defineProps<{ run: Run; record: number; cells: Cell[] }>()
const emit = defineEmits<{ close: [] }>()

const { now, history, trouble } = useRecordInRun(() => ({ run: props.run, record: props.record }))
const question = computed(() => ({ gate: props.run.gate, inputs: props.run.binding, feeding: props.run.feeding }))
const trial = computed(() => tryOut(question.value, typedRecord(question.value, props.run.columns, props.cells), props.run.asOf))
const labels = computed(() => [...props.run.labels, ...(props.run.otherwise ? [props.run.otherwise] : [])])
const lookOf = (label: string | null) => labels.value.find((one) => one.label === label)
const lookAt = (place: Place) => (place?.kind === 'label' ? lookOf(place.label) : undefined)
const who = computed(() => {
  const identity = props.run.columns.filter(({ isIdentity }) => isIdentity)
  return (identity.length > 0 ? identity : props.run.columns.slice(0, 1)).map((column) => cellWords(props.cells[props.run.columns.indexOf(column)], column)).join(', ')
})
/** What the gate looked at comes first; of the rest what is another now. */
const values = computed(() => {
  const all = props.run.columns.map((column, at) => {
    const then = listedWords(props.cells[at], column)
    const today = now.value?.get(column.id)
    const words = now.value && today ? listedWords(today, column) : null
    return { id: column.id, name: withUnit(column.name, column.unit), then, now: words !== null && words !== then ? words : null, isLooked: props.run.seen.includes(column.id) }
  })
  return [...all.filter(({ isLooked }) => isLooked), ...all.filter(({ isLooked, now: another }) => !isLooked && another !== null)]
})
</script>

<template>
  <aside class="record" aria-label="The record">
    <header><h2>{{ who }}</h2><v-btn class="plain" @click="emit('close')">Close</v-btn></header>
    <template v-if="trial">
      <p class="gets"><MarkCoin v-if="lookOf(trial.label)" :mark="lookOf(trial.label)!.mark" :colour="lookOf(trial.label)!.colour" /> <b>{{ trial.label ?? trial.why.decision.status }}</b></p>
      <p v-if="trialWords(trial, run.gate)" class="second">{{ trialWords(trial, run.gate) }}</p>
      <WhyWalk :why="trial.why" :gate="run.gate" />
    </template>
    <dl>
      <div v-for="value in values" :key="value.id" :data-value="value.name">
        <dt class="second">{{ value.name }}</dt><dd>{{ value.then }}<span v-if="value.now !== null" class="now">now {{ value.now }}</span></dd>
      </div>
    </dl>
    <p v-if="now === null" class="second">It is not in the table any more.</p>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <h2 v-if="history.length > 1">In the runs of {{ run.gateName }}</h2>
    <ol v-if="history.length > 1">
      <li v-for="one in history" :key="one.runId" :class="{ here: one.runId === run.id }" :data-in-run="one.number">
        <router-link :to="`/runs/${one.runId}`">{{ one.name ?? `run ${one.number}` }}</router-link><span class="second">version {{ one.gateVersion }}, {{ date(one.asOf) }}</span>
        <span class="landing"><MarkCoin v-if="lookAt(one.landing)" :mark="lookAt(one.landing)!.mark" :colour="lookAt(one.landing)!.colour" :size="12" /> {{ one.landing === null ? 'not there' : placeWords(one.landing, true) }}</span>
      </li>
    </ol>
  </aside>
</template>

<style scoped>
.record { display: grid; gap: 8px; align-content: start; overflow-y: auto; padding: 10px 16px; border-left: 1px solid var(--hairline); background: var(--ground); }
header { display: flex; justify-content: space-between; align-items: start; gap: 8px; }
header h2 { font-size: 16px; font-weight: 700; color: var(--ink); overflow-wrap: anywhere; }
.gets { font-size: 16px; }
dl { margin: 0; }
dl > div { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 12px; padding: 3px 0; border-bottom: 1px solid var(--hairline); }
dd { margin: 0; font-weight: 600; text-align: right; overflow-wrap: anywhere; max-width: 200px; }
.now { display: block; font-weight: 400; color: var(--brass); }
ol { list-style: none; margin: 0; padding: 0; font-size: 13px; }
li { display: grid; grid-template-columns: auto minmax(0, 1fr) auto; gap: 8px; padding: 4px 0; border-bottom: 1px solid var(--hairline); }
li.here { font-weight: 700; }
li a { color: var(--ink); }
.landing { font-weight: 600; }
</style>
