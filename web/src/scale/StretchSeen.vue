<script setup lang="ts">
/** Where the stretch lies that is looked at more closely, in all of it, and the way back. */
import type { Scale } from '@dime-gate/core/gate/document'
import type { Histogram } from '@dime-gate/core/table/histogram'
import { computed } from 'vue'
import type { AxisWords } from './axis-words'
import { lineScale } from './line-geometry'

/** @property gate its cuts as numbers */
const props = defineProps<{ gate: Scale; whole: Histogram; seen: readonly [from: number, to: number]; words: AxisWords; places: number }>()
const emit = defineEmits<{ all: [] }>()

const WIDTH = 62
const HEIGHT = 22
const drawn = computed(() => {
  const { whole, seen } = props
  const along = lineScale(props.gate, whole, WIDTH)
  const most = Math.max(1, ...whole.bins)
  const step = (whole.to - whole.from) / whole.bins.length
  const path = whole.bins.map((records, bin) => (records === 0 ? '' : `M${along(whole.from + bin * step)} ${HEIGHT}v${-Math.max(1, (records / most) * (HEIGHT - 4))}H${along(whole.from + (bin + 1) * step)}V${HEIGHT}Z`)).join('')
  return { path, from: along(seen[0]), to: along(seen[1]) }
})
const ends = computed(() => props.seen.map((end) => props.words.say(end.toFixed(Math.min(6, props.places)))))
</script>

<template>
  <button class="plain-button seen" type="button" :title="`Looking at ${ends[0]} to ${ends[1]}; see all of it (Z)`" @click="emit('all')">
    <svg :width="WIDTH" :height="HEIGHT" aria-hidden="true"><path :d="drawn.path" /><rect :x="drawn.from" y="1" :width="Math.max(2, drawn.to - drawn.from)" :height="HEIGHT - 2" /></svg>
    See all
  </button>
</template>

<style scoped>
.seen { display: inline-flex; gap: 7px; align-items: center; min-height: 26px; color: var(--pine); font-weight: 600; }
path { fill: var(--second); opacity: 0.45; }
rect { fill: none; stroke: var(--brass); stroke-width: 2; }
</style>
