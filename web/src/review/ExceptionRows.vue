<script setup lang="ts">
/** The exceptions, group by group, one of them in hand; only those in view are fetched and drawn. */
import { NOBODY } from '@dime-gate/contract/review'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, watch } from 'vue'
import { count } from '../shared/format'
import { KIND_WORDS, toleranceWords } from './exception-words'
import ExceptionRow from './ExceptionRow.vue'
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

/** The runs that have any beside a cut, as far as they are here. */
const withNear = computed(() => (props.review.review.value?.counts ?? []).flatMap(({ kind, runId }) => (kind === 'near an edge' && runs.has(runId) ? [runs.get(runId)!] : [])))

function nameOf({ of }: ExceptionGroup): { name: string; remark: string } {
  if (of === 'near an edge') return { ...KIND_WORDS[of], remark: toleranceWords(withNear.value) || KIND_WORDS[of].remark }
  if (typeof of !== 'number') return KIND_WORDS[of]
  if (props.by === 'person') return { name: of === NOBODY ? 'Nobody yet' : (props.review.review.value?.people.find(({ id }) => id === of)?.name ?? ''), remark: of === NOBODY ? 'handed to nobody in particular' : '' }
  const run = props.review.review.value?.runs.find(({ gateId, tableId }) => (props.by === 'gate' ? gateId : tableId) === of)
  return { name: (props.by === 'gate' ? run?.gateName : run?.tableName) ?? '', remark: '' }
}
const isChosen = (place: number) => props.chosen !== null && order.value.at(place).runId === props.chosen.runId && order.value.at(place).record === props.chosen.record
const gateOf = (runId: number) => props.review.review.value?.runs.find(({ id }) => id === runId)
</script>

<template>
  <div ref="scroller" class="scroller" role="listbox" aria-label="Exceptions" tabindex="0" :aria-activedescendant="chosen ? `exception-${chosen.runId}-${chosen.record}` : undefined">
    <div class="body" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="{ item, line } in items" :key="item.index">
        <div v-if="line?.kind === 'head'" class="head" role="presentation" :style="{ transform: `translateY(${item.start}px)` }" :data-group="line.group.of"><b>{{ nameOf(line.group).name }}</b> <span class="figure">{{ count(line.group.records) }}</span><span class="second remark">{{ nameOf(line.group).remark }}</span></div>
        <ExceptionRow v-else-if="line" :id="`exception-${order.at(line.place).runId}-${order.at(line.place).record}`" :one="rowOf(order.at(line.place))" :run="runs.get(order.at(line.place).runId) ?? null" :of="gateOf(order.at(line.place).runId) ?? null" :is-told="by === 'gate'" :is-here="isChosen(line.place)" :style="{ transform: `translateY(${item.start}px)` }" @click="emit('choose', order.at(line.place))" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.scroller { overflow-y: auto; background: var(--sheet); contain: strict; }
.scroller:focus-visible { outline-offset: -2px; }
.body { position: relative; }
.head { position: absolute; top: 0; left: 0; width: 100%; border-bottom: 1px solid var(--hairline); display: flex; align-items: end; gap: 10px; height: 38px; padding: 0 20px 6px; background: var(--ground); font-size: 13.5px; }
.remark { margin-left: auto; font-size: 13px; }
</style>
