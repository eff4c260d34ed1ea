<script setup lang="ts">
/** The exceptions, group by group, one of them in hand; only those in view are fetched and drawn. */
import type { Exception } from '@dime-gate/contract/review'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, watch } from 'vue'
import { labelByHand } from '../run/by-hand'
import { count } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { KIND_WORDS, markWords, whoOf, whyHere } from './exception-words'
import { type ExceptionGroup, type ExceptionPlace, type Grouping, lineAt, lineOf } from './review-groups'
import type { ReviewInHand } from './useReview'

const props = defineProps<{ review: ReviewInHand; by: Grouping; chosen: ExceptionPlace | null }>()
const emit = defineEmits<{ choose: [place: ExceptionPlace] }>()

const { order, groups, rowOf, runs, want } = props.review
const [HEAD, ROW] = [38, 54]
const scroller = ref<HTMLElement | null>(null)
const lines = computed(() => order.value.length + groups.value.length)
const virtual = useVirtualizer(computed(() => ({
  count: lines.value, getScrollElement: () => scroller.value, overscan: 10,
  estimateSize: (index: number) => (lineAt(groups.value, index)?.kind === 'head' ? HEAD : ROW),
})))
const items = computed(() => virtual.value.getVirtualItems().map((item) => ({ item, line: lineAt(groups.value, item.index)! })))
watch(() => [items.value[0]?.item.index, items.value.at(-1)?.item.index, order.value], () => {
  const places = items.value.flatMap(({ line }) => (line?.kind === 'exception' ? [line.place] : []))
  if (places.length > 0) void want(places[0]!, places.at(-1)! + 1)
}, { immediate: true })
watch(groups, () => virtual.value.measure())

/** What is in hand is in view. */
watch(() => [props.chosen, order.value], () => {
  const place = props.chosen ? order.value.placeOf(props.chosen) : -1
  if (place >= 0) virtual.value.scrollToIndex(lineOf(groups.value, place), { align: 'auto' })
}, { flush: 'post' })

function nameOf({ of }: ExceptionGroup): { name: string; remark: string } {
  if (typeof of !== 'number') return KIND_WORDS[of]
  const run = props.review.review.value?.runs.find(({ gateId, tableId }) => (props.by === 'gate' ? gateId : tableId) === of)
  return { name: (props.by === 'gate' ? run?.gateName : run?.tableName) ?? '', remark: '' }
}
const isChosen = (place: number) => props.chosen !== null && order.value.at(place).runId === props.chosen.runId && order.value.at(place).record === props.chosen.record
const isDone = ({ state }: Exception) => state !== 'open' && state !== 'lapsed'

function lookOf({ landing, runId }: Exception) {
  const run = runs.get(runId)
  return landing.kind === 'label' ? [...(run?.labels ?? []), ...(run?.otherwise ? [run.otherwise] : [])].find(({ label }) => label === landing.label) : undefined
}
const landed = ({ landing, mark, state, runId }: Exception) => (state === 'overridden' && mark?.outcomes ? (labelByHand({ outcomes: mark.outcomes }, runs.get(runId)?.gate.outcomes[0]!.name ?? '') ?? 'by hand') : landing.kind === 'label' ? landing.label || 'no value' : landing.kind)
const gateOf = (runId: number) => props.review.review.value?.runs.find(({ id }) => id === runId)
</script>

<template>
  <div ref="scroller" class="scroller" role="listbox" aria-label="Exceptions" tabindex="0" :aria-activedescendant="chosen ? `exception-${chosen.runId}-${chosen.record}` : undefined">
    <div class="body" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="{ item, line } in items" :key="item.index">
        <div v-if="line?.kind === 'head'" class="head" role="presentation" :style="{ transform: `translateY(${item.start}px)` }" :data-group="line.group.of"><b>{{ nameOf(line.group).name }}</b> <span class="figure">{{ count(line.group.records) }}</span><span class="second remark">{{ nameOf(line.group).remark }}</span></div>
        <div v-else-if="line" :id="`exception-${order.at(line.place).runId}-${order.at(line.place).record}`" class="row" role="option" :aria-selected="isChosen(line.place)" :class="{ here: isChosen(line.place), done: rowOf(order.at(line.place)) && isDone(rowOf(order.at(line.place))!) }" :style="{ transform: `translateY(${item.start}px)` }" :data-exception="rowOf(order.at(line.place)) ? whoOf(rowOf(order.at(line.place))!) : ''" :data-state="rowOf(order.at(line.place))?.state" @click="emit('choose', order.at(line.place))">
          <template v-for="one in [rowOf(order.at(line.place))]" :key="one?.record">
            <template v-if="one">
              <span class="who" :title="whoOf(one)">{{ whoOf(one) }}</span>
              <span class="why" :title="whyHere(one, runs.get(one.runId) ?? null)">{{ whyHere(one, runs.get(one.runId) ?? null) }}</span>
              <span class="label" :class="{ second: one.landing.kind !== 'label' }"><MarkCoin v-if="lookOf(one) && one.state !== 'overridden'" :mark="lookOf(one)!.mark" :colour="lookOf(one)!.colour" :size="13" /> {{ landed(one) }}</span>
              <span class="below second">{{ one.mark ? markWords(one) : by === 'gate' ? gateOf(one.runId)?.tableName : gateOf(one.runId)?.gateName }}</span>
            </template>
            <span v-else class="second">…</span>
          </template>
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.scroller { overflow-y: auto; background: var(--sheet); contain: strict; }
.scroller:focus-visible { outline-offset: -2px; }
.body { position: relative; }
.head, .row { position: absolute; top: 0; left: 0; width: 100%; border-bottom: 1px solid var(--hairline); }
.head { display: flex; align-items: end; gap: 10px; height: 38px; padding: 0 20px 6px; background: var(--ground); font-size: 13.5px; }
.remark { margin-left: auto; font-size: 13px; }
.row { display: grid; grid-template-columns: 104px minmax(0, 1fr) minmax(0, auto); grid-template-rows: 1fr 1fr; gap: 0 14px; align-items: center; height: 54px; padding: 4px 20px 5px; line-height: 1.25; cursor: pointer; }
.row:hover { background: color-mix(in srgb, var(--tint) 40%, var(--sheet)); }
.row.here { background: var(--tint); box-shadow: inset 4px 0 0 var(--brass); }
.who { font-weight: 700; font-variant-numeric: tabular-nums; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.why, .below { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.label { font-weight: 600; max-width: 150px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; text-align: right; }
.below { grid-column: 2 / -1; grid-row: 2; font-size: 13px; }
.row.done .who, .row.done .why, .row.done .label { color: var(--second); font-weight: 400; }
.row.done .who { text-decoration: line-through; }
</style>
