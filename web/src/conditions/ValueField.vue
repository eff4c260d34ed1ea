<script setup lang="ts">
/** A value of a test that is typed: a number, a date, or any other value on a line. A number shows where it falls among the values. */
import { plain, Decimal } from '@dime-gate/core/value/number'
import { readCell } from '@dime-gate/core/value/read-cell'
import type { ValueKind } from '@dime-gate/core/value/value'
import { valueFromText } from '@dime-gate/core/value/value-text'
import { computed, ref, shallowRef, useId, useTemplateRef } from 'vue'
import type { Spread } from '../records/session'
import { count, number, share, typedNumber } from '../shared/format'
import { literalWords } from './sentence-words'

/** @property spread fetches how the values are spread that this one is compared with; null where they are not on a line */
const props = defineProps<{ text: string; kind: ValueKind; label: string; unit: string; spread: (() => Promise<Spread | null>) | null }>()
const emit = defineEmits<{ take: [text: string]; leave: [] }>()

const id = useId()
const field = useTemplateRef<HTMLInputElement>('field')
const typed = ref<string | null>(null)
const isWrong = ref(false)
const values = shallowRef<Spread | null>(null)
const isHere = ref(false)

async function enter(event: FocusEvent): Promise<void> {
  isHere.value = true
  ;(event.target as HTMLInputElement).select()
  values.value = (await props.spread?.()) ?? null
}

/** In canonical text; null where it is no value of the kind. */
function read(text: string): string | null {
  if (props.kind === 'number') return typedNumber(text)
  if (props.kind === 'date') {
    const reading = readCell(text, { type: 'date', decimalMark: 'point', dateOrder: 'day', fraction: false })
    return reading.state === 'readable' ? reading.value : null
  }
  return valueFromText(text, props.kind) === null ? null : text
}

function take(): boolean {
  if (typed.value === null) return true
  const value = read(typed.value.trim().replace(props.unit, ''))
  isWrong.value = value === null
  if (value === null) return false
  typed.value = null
  if (value !== props.text) emit('take', value)
  return true
}

function leave(): void {
  if (!take()) typed.value = null
  isWrong.value = false
  isHere.value = false
  emit('leave')
}

/** By one of the last place; ten of them with Shift. */
function nudge(event: KeyboardEvent, by: number): void {
  if (props.kind !== 'number' || !take()) return
  const places = Math.max(new Decimal(props.text).decimalPlaces(), Math.min(2, values.value?.places ?? 0))
  const next = plain(new Decimal(props.text).plus(new Decimal(by * (event.shiftKey ? 10 : 1)).times(new Decimal(10).pow(-places))))
  // A field that has the focus is laid out anew at once where its value is set: before all else is drawn that costs nothing.
  field.value!.value = literalWords(next, props.kind)
  emit('take', next)
}

function key(event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    // Enter that takes nothing new belongs to whoever is around.
    if (typed.value === null || !take()) return
  } else if (event.key === 'ArrowUp' && !event.altKey) nudge(event, 1)
  else if (event.key === 'ArrowDown' && !event.altKey) nudge(event, -1)
  else if (event.key === 'Escape' && typed.value !== null) {
    typed.value = null
    isWrong.value = false
  } else return
  event.preventDefault()
  event.stopPropagation()
}

const WIDTH = 240
const HEIGHT = 44
const strip = computed(() => {
  const histogram = values.value?.histogram
  if (!histogram || props.kind !== 'number') return null
  const { from, to, bins } = histogram
  const most = Math.max(1, ...bins)
  const wide = WIDTH / bins.length
  const at = to === from ? 0.5 : (Number(props.text) - from) / (to - from)
  const below = bins.reduce((sum, records, bin) => sum + (from + ((bin + 1) / bins.length) * (to - from) <= Number(props.text) ? records : 0), 0)
  const all = bins.reduce((sum, records) => sum + records, 0)
  return { bars: bins.map((records, bin) => ({ x: bin * wide, wide: Math.max(1, wide - 0.6), high: records === 0 ? 0 : Math.max(1, (records / most) * HEIGHT) })), x: Math.min(WIDTH, Math.max(0, at * WIDTH)), isOff: at < 0 || at > 1, from, to, below, all }
})

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <span class="value">
    <input :id="id" ref="field" class="word figure" :class="{ wrong: isWrong }" :value="typed ?? literalWords(text, kind)" :size="Math.max(2, (typed ?? literalWords(text, kind)).length)" :aria-label="label" :aria-invalid="isWrong" :inputmode="kind === 'number' ? 'decimal' : 'text'" maxlength="60" autocomplete="off" @input="typed = ($event.target as HTMLInputElement).value" @focus="enter" @blur="leave" @keydown="key">
    <span v-if="unit" class="unit">{{ unit }}</span>
    <v-menu v-if="strip" content-class="told-only" :model-value="isHere" :activator="`#${id}`" :open-on-click="false" :scrim="false" :retain-focus="false" :capture-focus="false" persistent location="bottom start" offset="4" :transition="false" disable-initial-focus>
      <figure class="strip" aria-hidden="true">
        <svg :width="WIDTH" :height="HEIGHT + 6">
          <rect v-for="(bar, at) in strip.bars" :key="at" :x="bar.x" :y="HEIGHT - bar.high" :width="bar.wide" :height="bar.high" />
          <path :d="`M${strip.x} 0 V${HEIGHT + 6}`" />
        </svg>
        <figcaption class="second figure"><span>{{ number(String(+strip.from.toPrecision(6))) }}</span><span v-if="strip.isOff">beyond all values</span><span v-else>about {{ share(strip.below, strip.all) }} of {{ count(strip.all) }} below</span><span>{{ number(String(+strip.to.toPrecision(6))) }}</span></figcaption>
      </figure>
    </v-menu>
  </span>
</template>

<style scoped>
.value { display: inline-flex; align-items: baseline; gap: 3px; white-space: nowrap; }
.word { field-sizing: content; width: auto; min-width: 22px; height: 26px; padding: 0 3px; font: inherit; font-family: var(--figures); font-weight: 600; color: var(--pine); background: none; border: 0; border-bottom: 1.5px dotted var(--pine); text-align: right; }
.word:hover { background: var(--tint); }
.word:focus { background: var(--sheet); border-bottom: 2px solid var(--brass); }
.word.wrong { color: var(--brick); border-bottom-color: var(--brick); }
.unit { font-weight: 600; }
.strip { margin: 0; padding: 8px 10px 6px; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; }
.strip svg { display: block; }
.strip rect { fill: var(--pine); opacity: 0.5; }
.strip path { stroke: var(--brass); stroke-width: 2; }
figcaption { display: flex; justify-content: space-between; gap: 10px; font-size: 11.5px; }
</style>
