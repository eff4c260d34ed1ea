<script setup lang="ts">
/** Where one value lies among the bands of a scale, and how far it is from the nearest cut. */
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { numberOnLine, onNumbers } from '@dime-gate/core/gate/scale-axis'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { computed } from 'vue'
import { axisWords, lineKindOf } from '../scale/axis-words'
import { stretchOf } from './stretch'
import { useRunSpread } from './useRunSpread'

/** @property value in canonical text @property who it is of @property seen the run that saw it, and in which of its columns; null where it was computed */
const props = defineProps<{ gate: ScaleGate; value: string; who: string; seen: { runId: number; column: number } | null }>()

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
const spread = useRunSpread(() => (props.seen && kind.value === 'number' ? { ...props.seen, ...stretch.value } : null))
const strokes = computed(() => {
  const most = Math.max(1, ...spread.value)
  const { from, to } = stretch.value
  return spread.value.map((records, at) => {
    const middle = from + ((at + 0.5) * (to - from)) / spread.value.length
    // A few are told from none.
    return { height: records === 0 ? 0 : 2 + (34 * records) / most, colour: bands.value.find((band) => middle >= band.from && middle < band.to)?.colour ?? 'var(--hairline)' }
  })
})
const share = (value: number) => (100 * (value - stretch.value.from)) / (stretch.value.to - stretch.value.from)
</script>

<template>
  <div class="line" :class="{ spread: spread.length > 0 }" role="img" :aria-label="`${words.say(String(at))} on a line with cuts at ${scale.cuts.map((cut) => words.say(cut.at)).join(', ')}`">
    <span v-for="(stroke, index) in strokes" :key="`stroke ${index}`" class="stroke" :style="{ left: `${(100 * index) / strokes.length}%`, width: `${100 / strokes.length}%`, height: `${stroke.height}px`, background: stroke.colour }" />
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
.line.spread { height: 106px; }
.line.spread > :not(.stroke) { margin-top: 30px; }
.stroke { position: absolute; bottom: 46px; border-right: 1px solid var(--ground); opacity: 0.55; }
.line.spread .value { top: -16px; height: 64px; }
.line.spread .value::after { top: 47px; }
</style>
