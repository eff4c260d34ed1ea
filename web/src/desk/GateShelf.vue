<script setup lang="ts">
/** All gates, with what they give. */
import type { Desk } from '@dime-gate/contract/desk'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { RunSummary } from '@dime-gate/contract/run'
import { computed } from 'vue'
import { freshWords } from '../run/fresh-words'
import { counted } from '../shared/format'
import { inFeedingOrder } from '../shared/feeding-order'
import MarkCoin from '../shared/MarkCoin.vue'
import { FORM_WORDS, listed } from '../shared/words'
import ItemActions from './ItemActions.vue'

/** @property runs the last first @property isManaged whether the shelf stands by itself, with what can be done with its things */
const props = defineProps<{ gates: GateSummary[]; runs: RunSummary[]; expected: Desk['expected']; fresh: Desk['fresh']; isManaged: boolean }>()
const emit = defineEmits<{ copy: [gate: GateSummary]; remove: [gate: GateSummary] }>()

const inOrder = computed(() => {
  const byName = new Map(props.gates.map((gate) => [gate.name, gate]))
  return inFeedingOrder([...byName.keys()], (name) => byName.get(name)!.fedBy).map((name) => byName.get(name)!)
})
const lastOf = (gate: GateSummary) => props.runs.find(({ gateId, counts }) => gateId === gate.id && counts !== null)
/** What should be known of its last run, the worst first. */
function stateOf(gate: GateSummary): { words: string; is: 'trouble' | 'stale' | 'second' } {
  const run = lastOf(gate)
  if (!run) return { words: gate.latestVersion === 0 ? 'no version set' : `version ${gate.latestVersion}, not run yet`, is: 'second' }
  const missed = props.expected[run.id]?.missed ?? 0
  if (missed > 0) return { words: `${counted(missed, 'expectation')} missed`, is: 'trouble' }
  const fresh = props.fresh[run.id] && freshWords(props.fresh[run.id]!)
  return fresh?.isStale ? { words: fresh.words, is: 'stale' } : { words: `version ${run.gateVersion}, run ${run.number}`, is: 'second' }
}
const withoutLabel = ({ counts }: RunSummary) => counts!.held + counts!.unplaced + counts!.contested
</script>

<template>
  <section id="gates" aria-labelledby="gates-title">
    <h2 id="gates-title">Gates <span class="figure">{{ gates.length }}</span></h2>
    <p v-if="gates.length === 0" class="second empty">No gate yet. Choose “New gate” beside a table to write its rules, or to cut one of its columns.</p>
    <div v-for="gate in inOrder" :key="gate.id" class="managed">
      <router-link class="item" :to="`/gates/${gate.id}`" :data-gate="gate.name">
      <span class="name">{{ gate.name }}</span>
      <span :class="stateOf(gate).is">{{ stateOf(gate).words }}</span>
      <span v-if="lastOf(gate)" class="shares wide" role="img" :aria-label="`Its last run: ${lastOf(gate)!.labels.map(({ label, records }) => `${label} ${records}`).join(', ')}`"><span v-for="label in lastOf(gate)!.labels" :key="label.label" :style="{ flexGrow: label.records, background: label.colour }" /><span :style="{ flexGrow: lastOf(gate)!.counts!.otherwise, background: lastOf(gate)!.otherwise?.colour }" /><span class="none" :style="{ flexGrow: withoutLabel(lastOf(gate)!) }" /></span>
      <span class="second wide">{{ FORM_WORDS[gate.form] }}{{ gate.fedBy.length > 0 ? ` fed by ${listed(gate.fedBy)}` : '' }}, {{ gate.tables.length === 0 ? 'on no table yet' : `on ${gate.tables.map(({ name }) => name).join(', ')}` }}</span>
      <span class="wide labels">
        <span v-for="(band, index) in gate.labels.slice(0, 8)" :key="index"><MarkCoin :mark="band.mark" :colour="band.colour" :size="13" /> {{ band.label }}</span>
        <span v-if="gate.labels.length > 8" class="second">and {{ gate.labels.length - 8 }} more</span>
      </span>
    </router-link>
      <ItemActions v-if="isManaged" :name="gate.name" can-copy @copy="emit('copy', gate)" @remove="emit('remove', gate)" />
    </div>
  </section>
</template>

<style scoped src="./shelf.css"></style>
<style scoped>
.stale { color: var(--brass); font-weight: 600; }
</style>
