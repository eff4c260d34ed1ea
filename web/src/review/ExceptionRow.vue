<script setup lang="ts">
/** One line of the list of exceptions: who, why it is here, what it got, what became of it. */
import type { Exception, ReviewRun } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import { computed } from 'vue'
import { labelByHand } from '../run/by-hand'
import MarkCoin from '../shared/MarkCoin.vue'
import { markWords, whoOf, whyHere } from './exception-words'

/** @property one undefined as long as it is fetched @property of what it is of, as far as that is known @property isTold whether the table is told and not the gate @property isHere whether it is the one in hand */
const props = defineProps<{ one: Exception | undefined; run: Run | null; of: ReviewRun | null; isTold: boolean; isHere: boolean }>()

const why = computed(() => (props.one ? whyHere(props.one, props.run) : ''))
const isDone = computed(() => props.one !== undefined && props.one.state !== 'open' && props.one.state !== 'lapsed')
const look = computed(() => {
  if (!props.one) return undefined
  const { one: { landing, state }, run } = props
  return landing.kind === 'label' && state !== 'overridden' ? [...(run?.labels ?? []), ...(run?.otherwise ? [run.otherwise] : [])].find(({ label }) => label === landing.label) : undefined
})
const landed = computed(() => {
  if (!props.one) return ''
  const { one: { landing, mark, state }, run } = props
  if (state === 'overridden' && mark?.outcomes) return labelByHand({ outcomes: mark.outcomes }, run?.gate.outcomes[0]!.name ?? '') ?? 'by hand'
  return landing.kind === 'label' ? landing.label || 'no value' : landing.kind
})
</script>

<template>
  <div class="row" role="option" :aria-selected="isHere" :class="{ here: isHere, done: isDone }" :data-exception="one ? whoOf(one) : ''" :data-state="one?.state">
    <template v-if="one">
      <span class="who" :title="whoOf(one)">{{ whoOf(one) }}</span>
      <span class="why" :title="why">{{ why }}</span>
      <span class="label" :class="{ second: one.landing.kind !== 'label' }"><MarkCoin v-if="look" :mark="look.mark" :colour="look.colour" :size="13" /> {{ landed }}</span>
      <span class="below second">{{ one.mark ? markWords(one) : isTold ? of?.tableName : of?.gateName }}<template v-if="one.waitsFor"> · for {{ one.waitsFor }}</template></span>
    </template>
    <span v-else class="second">…</span>
  </div>
</template>

<style scoped>
.row { position: absolute; top: 0; left: 0; width: 100%; border-bottom: 1px solid var(--hairline); display: grid; grid-template-columns: 104px minmax(0, 1fr) minmax(0, auto); grid-template-rows: 1fr 1fr; gap: 0 14px; align-items: center; height: 54px; padding: 4px 20px 5px; line-height: 1.25; cursor: pointer; }
.row:hover { background: color-mix(in srgb, var(--tint) 40%, var(--sheet)); }
.row.here { background: var(--tint); box-shadow: inset 4px 0 0 var(--brass); }
.who { font-weight: 700; font-variant-numeric: tabular-nums; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.why, .below { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.label { font-weight: 600; max-width: 150px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; text-align: right; }
.below { grid-column: 2 / -1; grid-row: 2; font-size: 13px; }
.row.done .who, .row.done .why, .row.done .label { color: var(--second); font-weight: 400; }
.row.done .who { text-decoration: line-through; }
</style>
