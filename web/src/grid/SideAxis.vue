<script setup lang="ts">
/** A side of a grid that is a scale: its values along a line, with posts whose feet lead to the borders of the lines. */
import type { Scale } from '@dime-gate/core/gate/document'
import type { DecimalText } from '@dime-gate/core/value/number'
import { computed, ref } from 'vue'
import type { Spread } from '../records/session'
import CutValue from '../scale/CutValue.vue'
import { lineScale } from '../scale/line-geometry'
import { useCutPosts } from '../scale/useCutPosts'
import { type AxisWords, axisWords } from '../scale/axis-words'

/** @property way where it stands: values rise downwards, or to the right @property borders where the lines between the cells end, from the first to the last, in pixels along it @property length in pixels */
const props = withDefaults(defineProps<{ side: Scale; words?: AxisWords; way: 'down' | 'across'; spread: Spread | null; borders: readonly number[]; length: number }>(), { words: () => axisWords('number') })
const emit = defineEmits<{ move: [cut: number, at: DecimalText, step: string]; moved: []; add: [at: DecimalText]; owner: [cut: number]; remove: [cut: number] }>()

/** Depths, from outside to the cells: the bars, the line, and where the feet end. */
const BARS = 40
const FEET = 62
const MARGIN = 7
const isDown = computed(() => props.way === 'down')
const frame = ref<HTMLElement | null>(null)

const along = computed(() => lineScale(props.side, props.spread?.histogram ?? null, Math.max(40, props.length - 2 * MARGIN)))
const at = (value: DecimalText | number) => MARGIN + along.value(Number(value))
const point = (a: number, depth: number) => (isDown.value ? `${depth} ${a}` : `${a} ${depth}`)

const bars = computed(() => {
  const histogram = props.spread?.histogram
  if (!histogram) return ''
  const most = Math.max(1, ...histogram.bins)
  const step = (histogram.to - histogram.from) / histogram.bins.length
  return histogram.bins.map((records, bin) => {
    if (records === 0) return ''
    const [from, to] = [at(histogram.from + bin * step), Math.max(at(histogram.from + bin * step) + 1, at(histogram.from + (bin + 1) * step) - 0.5)]
    const depth = BARS - Math.max(1.5, (records / most) * (BARS - 3))
    return `M${point(from, BARS)}L${point(from, depth)}L${point(to, depth)}L${point(to, BARS)}Z`
  }).join('')
})
const posts = computed(() => props.side.cuts.map((cut, index) => {
  const [from, to] = [at(cut.at), props.borders[index + 1] ?? 0]
  return { ...cut, from, to, path: `M${point(from, BARS - 30)}L${point(from, BARS)}L${point(to, FEET)}` }
}))
const ends = computed(() => [props.side.floor, props.side.ceiling].flatMap((end) => (end ? [`M${point(at(end.at), BARS - 16)}L${point(at(end.at), BARS + 4)}`] : [])))

const { dragged, press, drag, release, key, valueUnder } = useCutPosts({
  cuts: () => props.side.cuts, along: () => along.value, places: () => props.spread?.places ?? 0, round: props.words.round, stepped: props.words.moved, pointer: (event) => (isDown.value ? event.clientY : event.clientX),
  begins: () => { const { top, left } = frame.value!.getBoundingClientRect(); return (isDown.value ? top : left) + MARGIN },
  // Values rise downwards, or to the right.
  steps: { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1, PageUp: -10, PageDown: 10 }, name: `${props.way} `,
}, {
  move: (cut, at, step) => emit('move', cut, at, step), moved: () => emit('moved'), owner: (cut) => emit('owner', cut), remove: (cut) => emit('remove', cut),
  type: (cut) => frame.value!.querySelector<HTMLInputElement>(`[data-cut="${cut}"] input`)?.focus(),
})

/** Filled on the side that the cut's own value belongs to. */
function half(owner: 'below' | 'above'): string {
  const isFirst = owner === 'below'
  return isDown.value ? `M-6 0A6 6 0 0 ${isFirst ? 1 : 0} 6 0Z` : `M0-6A6 6 0 0 ${isFirst ? 0 : 1} 0 6Z`
}
const box = (post: { to: number }) => (isDown.value ? { left: `${FEET + 9}px`, top: `${post.to - 11}px` } : { left: `${post.to}px`, top: `${FEET + 7}px` })
</script>

<template>
  <div ref="frame" class="axis" :class="way">
    <svg :width="isDown ? FEET + 10 : length" :height="isDown ? length : FEET + 10" role="group" :aria-label="`${side.on}, cut into ${side.cuts.length + 1} lines`">
      <path class="bars" :d="bars" />
      <path class="line" :d="`M${point(0, BARS)}L${point(length, BARS)}`" />
      <path v-for="(end, index) in ends" :key="`end-${index}`" class="end" :d="end" />
      <rect class="strip" :x="isDown ? BARS - 6 : 0" :y="isDown ? 0 : BARS - 6" :width="isDown ? 12 : length" :height="isDown ? length : 12" @click="emit('add', valueUnder($event))"><title>Click to cut here</title></rect>
      <g
        v-for="(post, index) in posts" :key="index" class="post" :class="{ dragged: dragged === index }" role="slider" tabindex="0" :data-post="`${way} ${index}`" :aria-label="`${side.on}, cut ${index + 1} of ${posts.length}`"
        :aria-valuenow="Number(post.at)" :aria-valuetext="`${words.say(post.at)}, belongs to the line ${post.owner} it`" :aria-orientation="isDown ? 'vertical' : 'horizontal'"
        @pointerdown="press($event, index)" @pointermove="drag" @pointerup="release" @pointercancel="release" @keydown="key($event, index)"
      >
        <path class="grip" :d="post.path" />
        <path class="pole" :d="post.path" />
        <g :transform="`translate(${point(post.to, FEET)})`" class="owner" @click.stop="emit('owner', index)"><circle r="11" class="grip" /><circle r="6" class="foot" /><path :d="half(post.owner)" class="owned" /><title>Its own value belongs to the filled side; click to change</title></g>
      </g>
    </svg>
    <div v-for="(post, index) in posts" :key="index" class="value" :data-cut="index" :style="box(post)"><CutValue :words="words" :at="post.at" :selected="dragged === index" :label="`${side.on}, value of cut ${index + 1}`" @change="emit('move', index, $event, `type ${way} ${index} ${$event}`)" /></div>
  </div>
</template>

<style scoped>
.axis { position: absolute; inset: 0; pointer-events: none; user-select: none; }
svg { position: absolute; inset: 0; overflow: visible; }
.bars { fill: color-mix(in srgb, var(--pine) 32%, var(--ground)); }
.line { stroke: var(--second); stroke-width: 1; }
.end { stroke: var(--ink); stroke-width: 2; stroke-dasharray: 3 3; }
.strip { fill: transparent; cursor: copy; pointer-events: all; }
.post { pointer-events: all; touch-action: none; outline: none; }
.down .post { cursor: ns-resize; }
.across .post { cursor: ew-resize; }
.grip { fill: none; stroke: transparent; stroke-width: 16; }
circle.grip { fill: transparent; stroke: none; }
.pole { fill: none; stroke: var(--ink); stroke-width: 1.5; }
.owner { cursor: pointer; }
.foot { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.5; }
.owned { fill: var(--ink); }
.dragged .pole, .post:focus-visible .pole { stroke: var(--brass); stroke-width: 2.4; }
.post:focus-visible .foot { stroke: var(--brass); stroke-width: 3.5; }
.value { position: absolute; pointer-events: all; }
.value :deep(input) { height: 22px; font-size: 12.5px; }
.across .value { transform: translateX(-50%); }
</style>
