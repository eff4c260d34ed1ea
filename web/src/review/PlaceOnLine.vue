<script setup lang="ts">
/** Where one value lies among the bands of a scale, and how far it is from the nearest cut. */
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { numberOnLine, onNumbers } from '@dime-gate/core/gate/scale-axis'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { computed } from 'vue'
import { axisWords, lineKindOf } from '../scale/axis-words'
import { stretchOf } from './stretch'

/** @property value in canonical text @property who it is of */
const props = defineProps<{ gate: ScaleGate; value: string; who: string }>()

const kind = computed(() => lineKindOf(props.gate, props.gate.on))
const words = computed(() => axisWords(kind.value))
const scale = computed(() => onNumbers(props.gate, kind.value))
const at = computed(() => Number(numberOnLine(props.value, kind.value)))
const stretch = computed(() => stretchOf(scale.value, at.value))
const bands = computed(() => {
  const looks = bandsOf(props.gate)
  const ends = [stretch.value.from, ...scale.value.cuts.map((cut) => Number(cut.at)), stretch.value.to]
  const [floor, ceiling] = [scale.value.floor, scale.value.ceiling].map((end) => (end ? Number(end.at) : null))
  return looks.map((band, index) => ({ ...band, from: Math.max(ends[index]!, floor ?? -Infinity), to: Math.min(ends[index + 1]!, ceiling ?? Infinity) }))
})
const share = (value: number) => (100 * (value - stretch.value.from)) / (stretch.value.to - stretch.value.from)
</script>

<template>
  <div class="line" role="img" :aria-label="`${words.say(String(at))} on a line with cuts at ${scale.cuts.map((cut) => words.say(cut.at)).join(', ')}`">
    <span v-for="(band, index) in bands" :key="index" class="band" :style="{ left: `${share(band.from)}%`, width: `${Math.max(0, share(band.to) - share(band.from))}%`, background: band.colour }" :title="band.label" />
    <span v-for="cut in scale.cuts" :key="cut.at" class="cut" :style="{ left: `${share(Number(cut.at))}%` }"><span class="figure">{{ words.say(cut.at) }}</span></span>
    <span class="value" :style="{ left: `${share(at)}%` }"><b class="figure" :class="{ left: share(at) > 70 }">{{ words.say(String(at)) }} {{ who }}</b></span>
  </div>
</template>

<style scoped>
.line { position: relative; height: 76px; margin: 0 14px; }
.band { position: absolute; top: 30px; height: 14px; opacity: 0.75; }
.cut { position: absolute; top: 22px; height: 30px; border-left: 2px solid var(--ink); }
.cut > span { position: absolute; top: 32px; left: 0; transform: translateX(-50%); font-size: 13px; }
.value { position: absolute; top: 14px; height: 34px; border-left: 2px solid var(--brass); }
.value::after { content: ''; position: absolute; top: 17px; left: -7px; width: 11px; height: 11px; border: 2px solid var(--brass); border-radius: 50%; background: var(--tint); }
.value b { position: absolute; top: -15px; left: 4px; font-size: 13px; color: var(--brass); white-space: nowrap; }
.value b.left { left: auto; right: 4px; }
</style>
