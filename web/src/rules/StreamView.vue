<script setup lang="ts">
/** The records that flow down beside the rules: as wide as what is still undecided, with a branch to each rule as wide as what it takes. */
import { computed } from 'vue'
import { count } from '../shared/format'
import { branchesByFill, type Placed, streamOf } from './course'

/** @property colours by stop; @property coin the stop where a record that is tried falls; null for none */
const props = defineProps<{ stops: Placed[]; records: number; colours: ReadonlyMap<Placed['at'], string>; chosen: Placed['at'] | null; coin: Placed['at'] | null; width: number }>()

const full = computed(() => props.width - 26)
const stream = computed(() => streamOf(props.stops, props.records, full.value, props.width))
/** Of hundreds of branches those that look alike are one path. */
const drawn = computed(() => branchesByFill(stream.value.branches.filter(({ at }) => at !== props.chosen), (at) => props.colours.get(at) ?? UNGIVEN))
const chosenBranch = computed(() => stream.value.branches.find(({ at }) => at === props.chosen))
const height = computed(() => Math.max(0, ...props.stops.map(({ top, height }) => top + height)))
const coinAt = computed(() => {
  const stop = props.stops.find(({ at }) => at === props.coin)
  return stop ? stop.top + stop.height / 2 : null
})
/** The coin rolls down the stream and drops out where it is caught. */
const coinPath = computed(() => (coinAt.value === null ? '' : `M3 6 V${coinAt.value} H${props.width - 6}`))
</script>

<template>
  <svg class="stream" :width="width" :height="height" aria-hidden="true">
    <path class="body" :d="stream.body" />
    <path class="branch closed" :d="drawn.closed" />
    <path v-for="[fill, path] in drawn.open" :key="fill" class="branch" :d="path" :style="{ fill }" />
    <path v-if="chosenBranch" class="branch" :class="chosenBranch.takes === 0 ? 'closed' : 'chosen'" :d="chosenBranch.path" :style="chosenBranch.takes === 0 ? undefined : { fill: colours.get(chosenBranch.at) ?? UNGIVEN }" />
    <text v-for="stop in stops.slice(1, -1)" :key="stop.at" v-memo="[stop.top, stop.arrives]" class="figure" x="9" :y="stop.top + 13">{{ count(stop.arrives) }}</text>
    <template v-if="coinAt !== null">
      <path class="way" :d="coinPath" />
      <circle class="coin" r="6" :cx="width - 8" :cy="coinAt" />
    </template>
  </svg>
</template>

<script lang="ts">
/** Of a branch to a rule that gives no label of its own. */
const UNGIVEN = 'color-mix(in srgb, var(--second) 45%, var(--ground))'
</script>

<style scoped>
.stream { position: absolute; top: 0; left: 0; overflow: visible; pointer-events: none; }
.body { fill: color-mix(in srgb, var(--pine) 24%, var(--ground)); }
.branch { stroke: var(--ground); stroke-width: 0.75; }
.branch.closed { fill: none; stroke: var(--second); stroke-width: 1; stroke-dasharray: 2 3; opacity: 0.6; }
.branch.chosen { stroke: var(--ink); stroke-width: 1.2; }
text { font-size: 11.5px; font-weight: 600; fill: var(--ink); }
.way { fill: none; stroke: var(--brass); stroke-width: 2; stroke-dasharray: 1 4; stroke-linecap: round; }
.coin { fill: var(--brass); stroke: var(--ground); stroke-width: 1.5; }
</style>
