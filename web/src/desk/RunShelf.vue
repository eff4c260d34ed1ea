<script setup lang="ts">
/** All runs, with what became of their records. */
import type { Desk } from '@dime-gate/contract/desk'
import type { RunSummary } from '@dime-gate/contract/run'
import { count, counted, date, moment } from '../shared/format'
import { freshWords } from '../run/fresh-words'
import { runTitle } from '../shared/words'
import ItemActions from './ItemActions.vue'

/** @property isManaged whether the shelf stands by itself, with what can be done with its things */
const props = defineProps<{ runs: RunSummary[]; expected: Desk['expected']; fresh: Desk['fresh']; isManaged: boolean }>()
const emit = defineEmits<{ rename: [run: RunSummary, name: string]; remove: [run: RunSummary] }>()

/** Only what somebody should look at is told here. */
function staleWords(id: number): string {
  const one = props.fresh[id] && freshWords(props.fresh[id])
  return one?.isStale ? `${one.words}: ${one.why.join('; ') || 'what it is drawn from has changed'}` : ''
}

function withoutLabel({ counts }: RunSummary): number {
  return counts ? counts.held + counts.unplaced + counts.contested : 0
}
</script>

<template>
  <section id="runs" aria-labelledby="runs-title">
    <h2 id="runs-title">Runs <span class="figure">{{ runs.length }}</span></h2>
    <p v-if="runs.length === 0" class="second empty">No run kept yet. On a gate's bench, set a version and keep a run of it; or <router-link to="/run-gates">run gates over tables</router-link>.</p>
    <div v-for="run in runs" :key="run.id" class="managed">
      <router-link class="item" :to="`/runs/${run.id}`" :data-run="`${run.gateName} ${run.number}`">
      <span class="name">{{ runTitle(run) }}</span>
      <span class="second">{{ moment(run.keptAt) }}</span>
      <span v-if="run.counts" class="shares wide" aria-hidden="true"><span v-for="label in run.labels" :key="label.label" :style="{ flexGrow: label.records, background: label.colour }" /><span :style="{ flexGrow: run.counts.otherwise, background: run.otherwise?.colour }" /><span class="none" :style="{ flexGrow: withoutLabel(run) }" /></span>
      <span class="second wide"><template v-if="run.name">{{ run.gateName }}, run {{ run.number }}, </template>version {{ run.gateVersion }} on {{ run.tableName }}, as of {{ date(run.asOf) }}</span>
      <span v-if="run.state === 'under way'" class="wide second">{{ run.isWaiting ? 'waits for another run to end' : `under way: ${count(run.progress ?? 0)} of ${count(run.records)} records decided` }}</span>
        <span v-else-if="!run.counts" class="wide trouble">failed: {{ run.problem }}</span>
        <span v-else class="wide"><b>{{ count(run.counts.records) }}</b> <span class="second">records,</span> <b :class="{ trouble: run.counts.exceptions > 0 }">{{ count(run.counts.exceptions) }}</b> <span class="second">to look at</span><template v-if="expected[run.id]"><span class="second">, </span><b v-if="expected[run.id]!.missed > 0" class="trouble">{{ counted(expected[run.id]!.missed, 'expectation') }} missed</b><span v-else class="second">{{ expected[run.id]!.of === 1 ? 'as expected' : `all ${count(expected[run.id]!.of)} expectations met` }}</span></template></span>
    </router-link>
      <p v-if="staleWords(run.id)" class="second wide stale" :data-stale="run.id">{{ staleWords(run.id) }}</p>
      <ItemActions v-if="isManaged" :name="runTitle(run)" can-rename @rename="emit('rename', run, $event)" @remove="emit('remove', run)" />
    </div>
  </section>
</template>

<style scoped src="./shelf.css"></style>
<style scoped>
.stale { border-left: 3px solid var(--brass); padding-left: 8px; margin: 0 0 8px; font-size: 13px; }
</style>
