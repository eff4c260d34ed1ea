<script setup lang="ts">
/** The cut line: the real values along a number line, and the posts that cut them into bands. */
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { Counts } from '@dime-gate/core/result/counts'
import type { Histogram } from '@dime-gate/core/table/histogram'
import type { DecimalText } from '@dime-gate/core/value/number'
import { computed, onBeforeUnmount, onMounted, ref, useId } from 'vue'
import { count, share } from '../shared/format'
import CutValue from './CutValue.vue'
import { lineScale, outlinePath, stagger, stretchScale } from './line-geometry'
import { type AxisWords, axisWords } from './axis-words'
import { useCutPosts } from './useCutPosts'

const props = withDefaults(defineProps<{
  /** Its cuts and ends as numbers. */
  gate: ScaleGate
  counts: Counts | null
  spread: Histogram | null
  /** Decimal places to which the column was measured. */
  places: number
  selected: number | null
  /** The stretch that is looked at; null for all of it. */
  seen?: readonly [from: number, to: number] | null
  /** How another table's values are spread, drawn as an outline. */
  other?: Histogram | null
  /** Lines are moved on the bench; on a run they stand. */
  fixed?: boolean
  words?: AxisWords
}>(), { words: () => axisWords('number'), seen: null, other: null })
const emit = defineEmits<{
  select: [cut: number]
  move: [cut: number, at: DecimalText, step: string]
  moved: []
  add: [at: DecimalText]
  owner: [cut: number]
  remove: [cut: number]
  onCut: [cut: number]
  look: [stretch: [from: number, to: number]]
}>()

const TOP = 28
const BARS = 104
const STRIP = { top: TOP + BARS, height: 14 }
const AXIS = STRIP.top + STRIP.height
const VALUES = AXIS + 26
const VALUE_ROW = 32
const MARGIN = 20

const frame = ref<HTMLElement | null>(null)
const width = ref(800)
const id = useId()
const observer = new ResizeObserver(([entry]) => (width.value = Math.max(240, entry!.contentRect.width)))
onMounted(() => observer.observe(frame.value!))
onBeforeUnmount(() => observer.disconnect())

const x = computed(() => (props.seen ? stretchScale(props.seen, width.value - 2 * MARGIN) : lineScale(props.gate, props.spread, width.value - 2 * MARGIN)))
const at = (value: DecimalText | number) => x.value(Number(value))
const lineWidth = computed(() => width.value - 2 * MARGIN)

const bandEdges = computed(() => {
  const start = props.gate.floor ? at(props.gate.floor.at) : 0
  const end = props.gate.ceiling ? at(props.gate.ceiling.at) : lineWidth.value
  return [start, ...props.gate.cuts.map((cut) => at(cut.at)), end]
})
const bands = computed(() =>
  bandsOf(props.gate).map((band, index) => {
    const [from, to] = [bandEdges.value[index]!, bandEdges.value[index + 1]!]
    const records = props.counts?.caught[index]
    return { ...band, from, width: Math.max(0, to - from), records, share: records === undefined ? '' : share(records, props.counts!.records), room: to - from }
  }))

const bars = computed(() => {
  const { spread } = props
  if (!spread) return ''
  const most = Math.max(1, ...spread.bins)
  const step = (spread.to - spread.from) / spread.bins.length
  return spread.bins.map((records, bin) => {
    if (records === 0) return ''
    const [left, right] = [at(spread.from + bin * step), at(spread.from + (bin + 1) * step)]
    if (props.seen && right - left < 0.5) return ''
    // A bin with one record in it must still be seen.
    const height = Math.max(1.5, (records / most) * (BARS - 4))
    return `M${left + 0.5} ${STRIP.top}v${-height}H${Math.max(left + 1, right - 0.5)}v${height}Z`
  }).join('')
})

/** Of each table as parts of its own records: the same height is the same part of a unit of the line. */
const outline = computed(() => (props.spread && props.other ? outlinePath(props.other, props.spread, at, STRIP.top, BARS - 4) : ''))

const ticks = computed(() => props.words.ticks(x.value, Math.max(3, Math.floor(width.value / 90))))
/** So many cuts that only the chosen one says how many records lie on it. */
const isCrowded = computed(() => props.gate.cuts.length > 8)
const isSeen = (value: string) => !props.seen || (Number(value) >= props.seen[0] && Number(value) <= props.seen[1])
/** Values that would take more rows than this are told of the chosen cut alone, in a row of its own. */
const MOST_ROWS = 3
const posts = computed(() => {
  const centres = props.gate.cuts.map((cut) => at(cut.at))
  const rows = stagger(centres, props.words.width + (props.fixed ? -8 : isCrowded.value ? 6 : 76))
  return props.gate.cuts.map((cut, index) => ({ ...cut, x: centres[index]!, row: Math.min(MOST_ROWS, rows[index]!), isSeen: isSeen(cut.at), hasValue: rows[index]! < MOST_ROWS || props.selected === index, on: props.counts?.edges[index]?.on ?? 0 }))
})
const height = computed(() => VALUES + VALUE_ROW * (1 + Math.max(0, ...posts.value.filter(({ isSeen, hasValue }) => isSeen && hasValue).map(({ row }) => row))))
/** Among many cuts the values are for marking a stretch; posts are taken at their feet. */
const gripTop = computed(() => (isCrowded.value ? STRIP.top - 4 : TOP - 4))
const beyond = computed(() => {
  const { floor, ceiling } = props.gate
  return [floor && { from: 0, to: at(floor.at) }, ceiling && { from: at(ceiling.at), to: lineWidth.value }].filter((stretch) => stretch !== null)
})

const { dragged, press: take, drag, release, key, valueUnder } = useCutPosts({
  cuts: () => props.gate.cuts, along: () => x.value, places: () => props.places, round: props.words.round, stepped: props.words.moved, pointer: (event) => event.clientX, begins: () => frame.value!.getBoundingClientRect().left + MARGIN,
  steps: { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageUp: 10, PageDown: -10 }, name: '',
}, {
  move: (cut, at, step) => emit('move', cut, at, step), moved: () => emit('moved'), owner: (cut) => emit('owner', cut), remove: (cut) => emit('remove', cut),
  type: (cut) => frame.value!.querySelector<HTMLInputElement>(`[data-cut="${cut}"] input`)?.focus(),
})

/** A stretch that is marked by dragging over the values, to be looked at more closely. In pixels along the line. */
const marked = ref<{ from: number; to: number } | null>(null)
function mark(event: PointerEvent): void {
  if (event.button !== 0 || props.fixed) return
  ;(event.currentTarget as SVGElement).setPointerCapture(event.pointerId)
  const from = alongLine(event)
  marked.value = { from, to: from }
}
const alongLine = (event: PointerEvent) => Math.min(lineWidth.value, Math.max(0, event.clientX - frame.value!.getBoundingClientRect().left - MARGIN))
function widen(event: PointerEvent): void {
  if (marked.value) marked.value = { ...marked.value, to: alongLine(event) }
}
function look(): void {
  const ends = marked.value && [marked.value.from, marked.value.to].sort((a, b) => a - b)
  marked.value = null
  if (ends && ends[1]! - ends[0]! > 12) emit('look', [x.value.invert(ends[0]!), x.value.invert(ends[1]!)])
}

function press(event: PointerEvent, cut: number): void {
  take(event, cut)
  if (dragged.value === cut) emit('select', cut)
}

function sideWords(cut: number): string {
  const { owner } = props.gate.cuts[cut]!
  return `belongs to ${bandsOf(props.gate)[owner === 'above' ? cut + 1 : cut]!.label}`
}

defineExpose({ scale: x })
</script>

<template>
  <div ref="frame" class="cut-line" :style="{ height: `${height}px` }">
    <svg :width="width" :height="height" role="group" :aria-label="`${gate.on}, cut into ${gate.bands.length} bands`">
      <defs>
        <pattern :id="`${id}-beyond`" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--second)" stroke-width="1.2" />
        </pattern>
        <clipPath v-for="(band, index) in bands" :id="`${id}-band-${index}`" :key="index">
          <rect :x="band.from" y="0" :width="band.width" :height="STRIP.top" />
        </clipPath>
        <clipPath v-for="(stretch, index) in beyond" :id="`${id}-end-${index}`" :key="`end-${index}`">
          <rect :x="stretch.from" y="0" :width="Math.max(0, stretch.to - stretch.from)" :height="STRIP.top" />
        </clipPath>
      </defs>
      <g :transform="`translate(${MARGIN} 0)`">
        <rect v-if="!fixed" class="values" x="0" :y="TOP" :width="lineWidth" :height="BARS" @pointerdown="mark" @pointermove="widen" @pointerup="look" @pointercancel="marked = null"><title>Drag over values to look at them more closely</title></rect>
        <g v-for="(band, index) in bands" :key="index">
          <path class="bars" :d="bars" :fill="band.colour" :clip-path="`url(#${id}-band-${index})`" opacity="0.82" />
          <rect class="strip" :x="band.from" :y="STRIP.top" :width="band.width" :height="STRIP.height" :fill="band.colour" @click="!fixed && emit('add', valueUnder($event))">
            <title v-if="!fixed">Click to cut here</title>
          </rect>
          <text v-if="band.room > 7.6 * band.label.length + 8" class="band" :x="band.from + band.width / 2" y="18" text-anchor="middle">{{ band.label }}</text>
        </g>
        <g v-for="(stretch, index) in beyond" :key="`beyond-${index}`">
          <path class="bars" :d="bars" :fill="`url(#${id}-beyond)`" :clip-path="`url(#${id}-end-${index})`" />
          <rect :x="stretch.from" :y="STRIP.top" :width="Math.max(0, stretch.to - stretch.from)" :height="STRIP.height" :fill="`url(#${id}-beyond)`" opacity="0.6" />
        </g>
        <g v-for="side in (['floor', 'ceiling'] as const)" :key="side">
          <path v-if="gate[side] && isSeen(gate[side].at)" class="end" :d="`M${at(gate[side].at)} ${TOP + 40}V${AXIS + 4}`"><title>{{ side }} {{ words.say(gate[side].at) }}</title></path>
        </g>
        <text v-if="spread && spread.below > 0 && !gate.floor" class="small" x="0" :y="TOP + 10">← {{ count(spread.below) }} further down</text>
        <text v-if="spread && spread.above > 0 && !gate.ceiling" class="small" :x="lineWidth" :y="TOP + 10" text-anchor="end">{{ count(spread.above) }} further up →</text>
        <path v-if="outline" class="outline" :d="outline" />
        <rect v-if="marked" class="marked" :x="Math.min(marked.from, marked.to)" :y="TOP" :width="Math.abs(marked.to - marked.from)" :height="BARS" />
        <g
          v-for="(post, index) in posts" v-show="post.isSeen" :key="index" class="post" :class="{ selected: selected === index, dragged: dragged === index, fixed }"
          :transform="`translate(${post.x} 0)`" :role="fixed ? 'img' : 'slider'" :tabindex="fixed ? undefined : 0" :data-post="index"
          :aria-label="`Cut ${index + 1} of ${posts.length}`" :aria-valuenow="fixed ? undefined : Number(post.at)" :aria-valuetext="fixed ? undefined : `${words.say(post.at)}, ${sideWords(index)}`"
          @pointerdown="press($event, index)" @pointermove="drag" @pointerup="release" @pointercancel="release" @focus="emit('select', index)" @keydown="key($event, index)"
        >
          <rect class="grip" x="-9" :y="gripTop" width="18" :height="VALUES - gripTop" />
          <path class="pole" :d="`M0 ${TOP - 4}V${post.hasValue ? VALUES + 2 + VALUE_ROW * post.row : AXIS + 6}`" />
          <g :transform="`translate(0 ${STRIP.top + STRIP.height / 2})`">
            <circle r="7" class="foot" />
            <path class="foot owned" :d="post.owner === 'above' ? 'M0-7A7 7 0 0 1 0 7Z' : 'M0-7A7 7 0 0 0 0 7Z'" />
          </g>
        </g>
        <g class="axis">
          <g v-for="tick in ticks" :key="tick.value" :transform="`translate(${at(tick.value)} ${AXIS})`">
            <path d="M0 0v4" />
            <text v-if="posts.every((post) => Math.abs(post.x - at(tick.value)) > 9)" y="16" text-anchor="middle" class="figure">{{ tick.label }}</text>
          </g>
        </g>
      </g>
    </svg>
    <template v-if="!fixed">
      <div v-for="(post, index) in posts" v-show="post.isSeen && post.hasValue" :key="index" class="value" :data-cut="index" :style="{ left: `${Math.min(MARGIN + post.x, width - 34)}px`, top: `${VALUES + 2 + VALUE_ROW * post.row}px` }">
        <CutValue :words="words" :at="post.at" :selected="selected === index" :label="`Value of cut ${index + 1}`" @focus="emit('select', index)" @change="emit('move', index, $event, `type ${index} ${$event}`)" />
        <button v-if="(!isCrowded || selected === index) && post.x < lineWidth - 60" class="plain-button second on" type="button" :disabled="post.on === 0" @click="emit('onCut', index)">{{ count(post.on) }} on it</button>
      </div>
    </template>
    <template v-else>
      <div v-for="(post, index) in posts" :key="index" class="value standing" :style="{ left: `${MARGIN + post.x}px`, top: `${VALUES + 2 + VALUE_ROW * post.row}px` }">
        <span class="figure">{{ words.say(post.at) }}</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.cut-line { position: relative; min-width: 0; overflow: hidden; user-select: none; }
svg { display: block; position: absolute; inset: 0; }
text { fill: var(--ink); font-size: 13px; }
.band { font-size: 13.5px; font-weight: 600; }
.small { font-size: 12.5px; fill: var(--second); }
.axis { pointer-events: none; }
.axis text { font-size: 12px; fill: var(--second); paint-order: stroke; stroke: var(--ground); stroke-width: 5px; }
.axis path { stroke: var(--second); }
.strip { cursor: copy; }
.end { stroke: var(--ink); stroke-width: 2; stroke-dasharray: 3 3; }
.post { cursor: ew-resize; touch-action: none; outline: none; }
.post.fixed { cursor: default; pointer-events: none; }
.grip { fill: transparent; }
.pole { stroke: var(--ink); stroke-width: 1.6; fill: none; }
.foot { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.6; }
.foot.owned { fill: var(--ink); }
.selected .pole, .selected .foot { stroke: var(--brass); }
.selected .pole { stroke-width: 2.4; }
.selected .owned { fill: var(--brass); }
.post:focus-visible .foot:not(.owned) { stroke-width: 4; }
.value { position: absolute; display: flex; align-items: center; gap: 6px; white-space: nowrap; }
.value > :first-child { margin-left: -28px; }
.standing > :first-child { width: 56px; text-align: center; color: var(--second); }
.on { font-size: 12.5px; padding: 0 3px; margin-left: -3px; background: var(--ground); }
.on:not(:disabled):hover { text-decoration: underline; }
.on:disabled { cursor: default; }
.values { fill: transparent; cursor: zoom-in; touch-action: none; }
.bars { pointer-events: none; }
.outline { fill: none; stroke: var(--ink); stroke-width: 1.6; pointer-events: none; }
.marked { fill: var(--brass); opacity: 0.22; pointer-events: none; }
</style>
