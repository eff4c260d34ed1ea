<script setup lang="ts">
/** Where records were, where they are, and what moved in between; each band can be chosen. */
import type { Comparison, KeptMove } from '@dime-gate/contract/comparison'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import { count } from '../shared/format'
import FlowName from './FlowName.vue'
import { placeWords, wayOf } from './comparison-words'
import { type FlowBand, flowsOf, type Place, placeKey } from './flows'

const props = defineProps<{ comparison: Comparison; labels: LabelLook[]; chosen: Pick<KeptMove, 'from' | 'to'> | null }>()
const emit = defineEmits<{ choose: [move: Pick<KeptMove, 'from' | 'to'> | null] }>()

const [WIDTH, LEFT, RIGHT, BLOCK, HEIGHT] = [760, 190, 560, 12, 400]
const flows = computed(() => flowsOf(props.comparison, props.labels.map(({ label }) => label), HEIGHT))
const before = computed(() => new Map(flows.value.left.map(({ key, records }) => [key, records])))
const keyOf = ({ from, to }: Pick<KeptMove, 'from' | 'to'>) => `${placeKey(from)} → ${placeKey(to)}`
const isChosen = (band: FlowBand) => props.chosen !== null && band.key === keyOf(props.chosen)
/** What is chosen lies over the others. */
const ordered = computed(() => flows.value.bands.toSorted((a, b) => Number(b.isStay) - Number(a.isStay) || Number(isChosen(a)) - Number(isChosen(b))))

const colourOf = (place: Place) => (place?.kind === 'label' ? (props.labels.find(({ label }) => label === place.label)?.colour ?? 'var(--second)') : 'color-mix(in srgb, var(--second) 42%, var(--ground))')
function bandColour(band: FlowBand): string {
  if (band.isStay) return 'var(--hairline)'
  if (isChosen(band)) return 'var(--brass)'
  const way = wayOf(band.move, props.comparison.ranks)
  return way === 'up' ? 'var(--pine)' : way === 'down' ? 'var(--brick)' : 'var(--second)'
}
const path = ({ from, to }: FlowBand) => `M${LEFT + BLOCK} ${from}C${(LEFT + RIGHT) / 2} ${from} ${(LEFT + RIGHT) / 2} ${to} ${RIGHT} ${to}`
const words = (band: FlowBand) => `${count(band.move.records)} ${band.isStay ? 'stayed' : 'moved'}: ${placeWords(band.move.from, false)} → ${placeWords(band.move.to, true)}`

function differenceOf(key: string, records: number): string {
  const by = records - (before.value.get(key) ?? 0)
  return by === 0 ? '' : by > 0 ? `+${count(by)}` : `−${count(-by)}`
}

function choose(band: FlowBand): void {
  if (!band.isStay) emit('choose', isChosen(band) ? null : { from: band.move.from, to: band.move.to })
}
</script>

<template>
  <svg class="flows" :viewBox="`0 -4 ${WIDTH} ${flows.height + 8}`" role="group" aria-label="What moved from which label to which">
    <path
      v-for="band in ordered" :key="band.key" :d="path(band)" fill="none" :stroke="bandColour(band)" :stroke-width="band.thickness" :class="{ stay: band.isStay, chosen: isChosen(band) }" :data-band="band.isStay ? undefined : band.key"
      :tabindex="band.isStay ? undefined : 0" :role="band.isStay ? 'img' : 'button'" :aria-label="words(band)" :aria-pressed="band.isStay ? undefined : isChosen(band)" @click="choose(band)" @keydown.enter="choose(band)" @keydown.space.prevent="choose(band)"
    ><title>{{ words(band) }}</title></path>
    <g v-for="node in flows.left" :key="`left ${node.key}`">
      <rect :x="LEFT" :y="node.top" :width="BLOCK" :height="node.height" :fill="colourOf(node.place)" />
      <FlowName :x="LEFT - 10" :top="node.top" anchor="end" :name="placeWords(node.place, false)" :records="node.records" :is-narrow="flows.isNarrow" />
    </g>
    <g v-for="node in flows.right" :key="`right ${node.key}`">
      <rect :x="RIGHT" :y="node.top" :width="BLOCK" :height="node.height" :fill="colourOf(node.place)" />
      <FlowName :x="RIGHT + BLOCK + 10" :top="node.top" anchor="start" :name="placeWords(node.place, true)" :records="node.records" :by="node.place === null ? '' : differenceOf(node.key, node.records)" :is-narrow="flows.isNarrow" />
    </g>
  </svg>
</template>

<style scoped>
.flows { width: 100%; max-width: 900px; min-width: 560px; }
path { stroke-opacity: 0.62; }
path.stay { stroke-opacity: 0.45; }
path.chosen { stroke-opacity: 1; }
path[tabindex] { cursor: pointer; }
path[tabindex]:hover { stroke-opacity: 0.9; }
path[tabindex]:focus-visible { outline: none; stroke: var(--brass); stroke-opacity: 1; }
</style>
