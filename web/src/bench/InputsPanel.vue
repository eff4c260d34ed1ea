<script setup lang="ts">
/** What the gate looks at: what is expected of each input, how it is rounded, and what a blank does; with how many records each concerns now. */
import type { Expected, Input, Precision } from '@dime-gate/core/gate/document'
import type { InputCounts } from '@dime-gate/core/result/counts'
import { computed, ref } from 'vue'
import { count, number } from '../shared/format'
import { withUnit } from '../shared/words'
import NumberField from '../shared/NumberField.vue'
import ToleranceField from '../shared/ToleranceField.vue'
import { vStands } from '../shared/v-stands'

const props = defineProps<{ inputs: Input[]; counts: readonly InputCounts[] }>()
const emit = defineEmits<{ change: [name: string, change: Partial<Input>] }>()

const open = ref<string | null>(null)
const rows = computed(() => props.inputs.map((input) => ({ input, counts: props.counts.find((one) => one.input === input.name) ?? null })))

const PRECISIONS: { title: string; value: Precision['kind'] }[] = [
  { title: 'as measured', value: 'as measured' }, { title: 'rounded, halves up', value: 'half up' }, { title: 'rounded, halves to even', value: 'half even' }, { title: 'cut off', value: 'truncated' },
]
const BLANKS = [{ title: 'holds the record', value: 'hold' as const }, { title: 'counts as not true', value: 'pass' as const }]
const placesOf = ({ precision }: Input) => (precision.kind === 'as measured' ? 1 : precision.places)

function setPrecision(input: Input, kind: Precision['kind']): void {
  emit('change', input.name, { precision: kind === 'as measured' ? { kind } : { kind, places: placesOf(input) } })
}

function setPlaces(input: Input, places: string): void {
  if (input.precision.kind !== 'as measured' && /^-?\d{1,2}$/.test(places)) emit('change', input.name, { precision: { ...input.precision, places: Number(places) } })
}

const ends = ({ expected }: Input) => (expected?.kind === 'range' ? expected : { low: null, high: null })
function setEnd(input: Input, end: 'low' | 'high', at: string | null): void {
  const range = { kind: 'range' as const, ...ends(input), [end]: at === null ? null : { at, included: true } }
  const expected: Expected | null = range.low === null && range.high === null ? null : { kind: 'range', low: range.low, high: range.high }
  emit('change', input.name, { expected })
}

function concerns({ blank, unreadable, outside }: InputCounts): string {
  const parts = [blank && `${count(blank)} blank`, unreadable && `${count(unreadable)} unreadable`, outside && `${count(outside)} not expected`].filter(Boolean)
  return parts.length === 0 ? 'all as expected' : parts.join(', ')
}

function setListed(input: Input, event: Event): void {
  const values = [...new Set((event.target as HTMLTextAreaElement).value.split('\n').map((line) => line.trim()).filter((line) => line !== ''))]
  emit('change', input.name, { expected: values.length === 0 ? null : { kind: 'list', values } })
}
const listedText = ({ expected }: Input) => (expected?.kind === 'list' ? expected.values.join('\n') : '')
</script>

<template>
  <section>
    <p v-if="rows.length === 0" class="second">Whatever the gate looks at becomes an input of it.</p>
    <div v-for="{ input, counts: seen } in rows" :key="input.name" class="one" :data-input-panel="input.name">
      <button class="plain-button head" type="button" :aria-expanded="open === input.name" @click="open = open === input.name ? null : input.name"><b>{{ withUnit(input.name, input.unit) }}</b><span class="second">{{ seen ? concerns(seen) : '' }}</span></button>
      <div v-if="open === input.name" class="more">
        <v-select label="A blank" :items="BLANKS" :model-value="input.blank ?? 'hold'" @update:model-value="emit('change', input.name, { blank: $event })" />
        <template v-if="input.type === 'number' && !input.isSet">
          <v-select label="Before any test" :items="PRECISIONS" :model-value="input.precision.kind" @update:model-value="setPrecision(input, $event)" />
          <p v-if="input.precision.kind !== 'as measured'" class="line">to <NumberField :value="String(placesOf(input))" label="Places" @change="setPlaces(input, $event)" /> places</p>
          <p v-for="end in (['low', 'high'] as const)" :key="end" class="line">
            <template v-if="ends(input)[end]">expected {{ end === 'low' ? 'from' : 'to' }} <NumberField :value="ends(input)[end]!.at" :label="end === 'low' ? 'Least value that is expected' : 'Greatest value that is expected'" @change="setEnd(input, end, $event)" /> {{ input.unit }}<button class="plain-button second" type="button" :aria-label="`No ${end === 'low' ? 'least' : 'greatest'} value`" @click="setEnd(input, end, null)">×</button></template>
            <button v-else class="plain-button dotted" type="button" @click="setEnd(input, end, end === 'low' ? '0' : '100')">no {{ end === 'low' ? 'least' : 'greatest' }} value</button>
          </p>
          <p class="line"><ToleranceField :tolerance="input.tolerance" :unit="input.unit" :suggestion="number('1')" @change="emit('change', input.name, { tolerance: $event })" /></p>
        </template>
        <label v-else-if="input.type === 'text'" class="listed">Expected values, one a line<textarea v-stands="listedText(input)" rows="4" placeholder="any" @change="setListed(input, $event)" /></label>
      </div>
    </div>
  </section>
</template>

<style scoped>
section { display: grid; }
.one { border-bottom: 1px solid var(--hairline); }
.head { display: flex; flex-wrap: wrap; justify-content: space-between; gap: 0 10px; width: 100%; min-height: 32px; align-items: baseline; padding: 5px 0; }
.head .second { font-size: 13px; }
.head:hover b { text-decoration: underline; }
.more { display: grid; gap: 9px; padding: 6px 0 12px; }
.line { display: flex; align-items: baseline; gap: 6px; min-height: 26px; }
.dotted { color: var(--pine); border-bottom: 1px dotted currentColor; min-height: 24px; }
.line .plain-button { min-width: 24px; min-height: 24px; }
.listed { display: grid; gap: 3px; font-size: 13px; color: var(--second); }
textarea { padding: 5px 7px; font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; resize: vertical; }
</style>
