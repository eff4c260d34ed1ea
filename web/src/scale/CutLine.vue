<script setup lang="ts">
/** The cut line: the real values along a number line, and the posts that cut them into bands. */
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { Counts } from '@dime-gate/core/result/counts'
import type { Histogram } from '@dime-gate/core/table/histogram'
import type { DecimalText } from '@dime-gate/core/value/number'
import { computed, onBeforeUnmount, onMounted, ref, useId } from 'vue'
import { count, number, share } from '../shared/format'
import CutValue from './CutValue.vue'
import { keyStep, lineScale, nudged, stagger, valueAtPixel } from './line-geometry'

const props = defineProps<{
  gate: ScaleGate
  counts: Counts | null
  spread: Histogram | null
  /** Decimal places to which the column was measured. */
  places: number
  selected: number | null
  /** Lines are moved on the bench; on a run they stand. */
  fixed?: boolean
}>()
const emit = defineEmits<{
  select: [cut: number]
  move: [cut: number, at: DecimalText, step: string]
  moved: []
  add: [at: DecimalText]
  owner: [cut: number]
  remove: [cut: number]
  onCut: [cut: number]
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
const dragged = ref<number | null>(null)
/** Where the line would begin for the hand that drags, found once a drag: asking again would lay the page out at every move. */
let draggedFrom = 0
/** Where the post stood before it was dragged. */
let draggedAt: DecimalText = ''
const observer = new ResizeObserver(([entry]) => (width.value = Math.max(240, entry!.contentRect.width)))
onMounted(() => observer.observe(frame.value!))
onBeforeUnmount(() => observer.disconnect())

const x = computed(() => lineScale(props.gate, props.spread, width.value - 2 * MARGIN))
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
    // A bin with one record in it must still be seen.
    const height = Math.max(1.5, (records / most) * (BARS - 4))
    return `M${left + 0.5} ${STRIP.top}v${-height}H${Math.max(left + 1, right - 0.5)}v${height}Z`
  }).join('')
})

const ticks = computed(() => x.value.ticks(Math.max(3, Math.floor(width.value / 90))).map((value) => ({ value, label: number(x.value.tickFormat(10)(value).replaceAll(',', '').replace('\u2212', '-')) })))
/** So many cuts that only the chosen one says how many records lie on it. */
const isCrowded = computed(() => props.gate.cuts.length > 8)
const posts = computed(() => {
  const centres = props.gate.cuts.map((cut) => at(cut.at))
  const rows = stagger(centres, props.fixed ? 48 : isCrowded.value ? 62 : 132)
  return props.gate.cuts.map((cut, index) => ({ ...cut, x: centres[index]!, row: rows[index]!, on: props.counts?.edges[index]?.on ?? 0 }))
})
const height = computed(() => VALUES + VALUE_ROW * (1 + Math.max(0, ...posts.value.map(({ row }) => row))))
const beyond = computed(() => {
  const { floor, ceiling } = props.gate
  return [floor && { from: 0, to: at(floor.at) }, ceiling && { from: at(ceiling.at), to: lineWidth.value }].filter((stretch) => stretch !== null)
})

/** @param left where the line begins on the screen */
function valueUnder(event: MouseEvent, left = lineLeft()): DecimalText {
  return valueAtPixel(x.value, Math.min(lineWidth.value, Math.max(0, event.clientX - left)), props.places)
}

function lineLeft(): number {
  return frame.value!.getBoundingClientRect().left + MARGIN
}

function press(event: PointerEvent, cut: number): void {
  if (props.fixed || event.button !== 0) return
  const target = event.currentTarget as Element
  target.setPointerCapture(event.pointerId)
  dragged.value = cut
  // A post is seldom taken at its very middle; it moves as the hand does, from where it stands.
  draggedFrom = event.clientX - at(props.gate.cuts[cut]!.at)
  draggedAt = props.gate.cuts[cut]!.at
  ;(target as SVGElement).focus()
  emit('select', cut)
}

function drag(event: PointerEvent): void {
  if (dragged.value === null) return
  const value = valueUnder(event, draggedFrom)
  if (value !== props.gate.cuts[dragged.value]!.at) emit('move', dragged.value, value, `drag ${dragged.value}`)
}

function release(): void {
  if (dragged.value === null) return
  dragged.value = null
  emit('moved')
}

/** The post goes back to where it was. */
function giveUp(cut: number): void {
  emit('move', cut, draggedAt, `drag ${cut}`)
  release()
}

const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageUp: 10, PageDown: -10 }

function key(event: KeyboardEvent, cut: number): void {
  if (props.fixed || event.ctrlKey || event.metaKey) return
  const steps = STEPS[event.key]
  if (event.key === 'Escape' && dragged.value === cut) giveUp(cut)
  else if (steps !== undefined) emit('move', cut, nudged(props.gate.cuts[cut]!.at, steps * (event.shiftKey ? 10 : 1), keyStep(x.value, props.places, event.altKey)), `nudge ${cut}`)
  else if (event.key === 'Delete' || event.key === 'Backspace') emit('remove', cut)
  else if (event.key.toLowerCase() === 'o') emit('owner', cut)
  else if (event.key === 'Enter') frame.value!.querySelector<HTMLInputElement>(`[data-cut="${cut}"] input`)?.focus()
  else return
  event.preventDefault()
  event.stopPropagation()
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
        <g v-for="(band, index) in bands" :key="index">
          <path :d="bars" :fill="band.colour" :clip-path="`url(#${id}-band-${index})`" opacity="0.82" />
          <rect class="strip" :x="band.from" :y="STRIP.top" :width="band.width" :height="STRIP.height" :fill="band.colour" @click="!fixed && emit('add', valueUnder($event))">
            <title v-if="!fixed">Click to cut here</title>
          </rect>
          <text v-if="band.room > 7.6 * band.label.length + 8" class="band" :x="band.from + band.width / 2" y="18" text-anchor="middle">{{ band.label }}</text>
        </g>
        <g v-for="(stretch, index) in beyond" :key="`beyond-${index}`">
          <path :d="bars" :fill="`url(#${id}-beyond)`" :clip-path="`url(#${id}-end-${index})`" />
          <rect :x="stretch.from" :y="STRIP.top" :width="Math.max(0, stretch.to - stretch.from)" :height="STRIP.height" :fill="`url(#${id}-beyond)`" opacity="0.6" />
        </g>
        <g v-for="side in (['floor', 'ceiling'] as const)" :key="side">
          <path v-if="gate[side]" class="end" :d="`M${at(gate[side]!.at)} ${TOP + 40}V${AXIS + 4}`"><title>{{ side }} {{ gate[side]!.at }}</title></path>
        </g>
        <text v-if="spread && spread.below > 0 && !gate.floor" class="small" x="0" :y="TOP + 10">← {{ count(spread.below) }} further down</text>
        <text v-if="spread && spread.above > 0 && !gate.ceiling" class="small" :x="lineWidth" :y="TOP + 10" text-anchor="end">{{ count(spread.above) }} further up →</text>
        <g
          v-for="(post, index) in posts" :key="index" class="post" :class="{ selected: selected === index, dragged: dragged === index, fixed }"
          :transform="`translate(${post.x} 0)`" :role="fixed ? 'img' : 'slider'" :tabindex="fixed ? undefined : 0" :data-post="index"
          :aria-label="`Cut ${index + 1} of ${posts.length}`" :aria-valuenow="fixed ? undefined : Number(post.at)" :aria-valuetext="fixed ? undefined : `${number(post.at)}, ${sideWords(index)}`"
          @pointerdown="press($event, index)" @pointermove="drag" @pointerup="release" @pointercancel="release" @focus="emit('select', index)" @keydown="key($event, index)"
        >
          <rect class="grip" x="-9" :y="TOP - 4" width="18" :height="VALUES - TOP + 4" />
          <path class="pole" :d="`M0 ${TOP - 4}V${VALUES + 2 + VALUE_ROW * post.row}`" />
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
      <div v-for="(post, index) in posts" :key="index" class="value" :data-cut="index" :style="{ left: `${Math.min(MARGIN + post.x, width - 34)}px`, top: `${VALUES + 2 + VALUE_ROW * post.row}px` }">
        <CutValue :at="post.at" :selected="selected === index" :label="`Value of cut ${index + 1}`" @focus="emit('select', index)" @change="emit('move', index, $event, `type ${index} ${$event}`)" />
        <button v-if="(!isCrowded || selected === index) && post.x < lineWidth - 60" class="plain-button second on" type="button" :disabled="post.on === 0" @click="emit('onCut', index)">{{ count(post.on) }} on it</button>
      </div>
    </template>
    <template v-else>
      <div v-for="(post, index) in posts" :key="index" class="value standing" :style="{ left: `${MARGIN + post.x}px`, top: `${VALUES + 2 + VALUE_ROW * post.row}px` }">
        <span class="figure">{{ number(post.at) }}</span>
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
</style>
