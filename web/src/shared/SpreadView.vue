<script setup lang="ts">
/** How values are spread: along a line, or those that there are most of. */
import { computed } from 'vue'
import { count } from './format'

/** @property bins null where the values lie on no line */
const props = defineProps<{ bins: { from: string; to: string; bins: number[] } | null; common: { words: string; records: number }[] }>()

const WIDTH = 356
const HEIGHT = 64
const bars = computed(() => {
  const bins = props.bins?.bins ?? []
  const most = Math.max(1, ...bins)
  const width = WIDTH / bins.length
  return bins.map((records, at) => ({ x: at * width, width: Math.max(1, width - 1.5), height: records === 0 ? 0 : Math.max(1.5, (records / most) * HEIGHT) }))
})
</script>

<template>
  <figure v-if="bins" class="spread">
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" :height="HEIGHT" width="100%" preserveAspectRatio="none" aria-hidden="true">
      <rect v-for="(bar, at) in bars" :key="at" :x="bar.x" :y="HEIGHT - bar.height" :width="bar.width" :height="bar.height" />
    </svg>
    <figcaption class="second figure">
      <span>{{ bins.from }}</span
      ><span v-if="bins.to !== bins.from">{{ bins.to }}</span>
    </figcaption>
  </figure>
  <ul v-else class="common">
    <li v-for="one in common" :key="one.words">
      <span>{{ one.words }}</span
      ><b class="figure">{{ count(one.records) }}</b>
    </li>
  </ul>
</template>

<style scoped>
.spread { margin: 4px 0 0; }
.spread svg { display: block; border-bottom: 1.5px solid var(--second); }
rect { fill: var(--pine); opacity: 0.55; }
figcaption { display: flex; justify-content: space-between; font-size: 12px; padding-top: 2px; }
.common { list-style: none; margin: 0; padding: 0; }
.common li { display: flex; justify-content: space-between; padding: 3px 0; border-bottom: 1px solid var(--hairline); }
</style>
