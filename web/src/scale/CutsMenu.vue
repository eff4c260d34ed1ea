<script setup lang="ts">
/** Where to cut: a list that is typed, or what the values suggest. What it comes to is told before it is taken. */
import type { Scale, ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { DecimalText } from '@dime-gate/core/value/number'
import type { ProposedCuts, Way } from '@dime-gate/core/table/proposed-cuts'
import { readChart } from '@dime-gate/interchange/chart/read-chart'
import type { Remote } from 'comlink'
import { computed, ref, shallowRef, watch } from 'vue'
import type { RecordsWorker } from '../records/records-worker'
import { count, share } from '../shared/format'
import NumberField from '../shared/NumberField.vue'
import { vFocus } from '../shared/v-focus'
import { readCutList } from './cut-list'
import { type AxisWords, axisWords } from './axis-words'

/** @property side its cuts as numbers */
const props = withDefaults(defineProps<{ side: Scale; places: number; session: Pick<Remote<RecordsWorker>, 'propose'>; words: string; line?: AxisWords; /** Whether bands have labels, so that a chart can be pasted. */ hasLabels?: boolean }>(), { line: () => axisWords('number') })
const emit = defineEmits<{ take: [cuts: DecimalText[]]; chart: [chart: ScaleGate] }>()

const ALL = [
  { value: 'typed', title: 'a list that is typed' }, { value: 'chart', title: 'a chart that is pasted, with its labels' }, { value: 'counts', title: 'as many records in each band' }, { value: 'top', title: 'the highest part apart' },
  { value: 'bottom', title: 'the lowest part apart' }, { value: 'widths', title: 'bands of one width' }, { value: 'gaps', title: 'where values leave gaps' },
] as const
const WAYS = computed(() => ALL.filter(({ value }) => value !== 'chart' || (props.hasLabels && props.line.kind === 'number')))
const isOpen = ref(false)
const kind = ref<(typeof ALL)[number]['value']>('typed')
const list = ref('')
const bands = ref(4)
const percent = ref('10')
const proposed = shallowRef<ProposedCuts | null>(null)
const typed = computed(() => readCutList(list.value, props.line))
const pasted = ref('')
const chart = computed(() => (pasted.value.trim() === '' ? null : readChart(pasted.value, { name: 'Chart', input: props.side.on })))
const bandsOfChart = computed(() => (chart.value?.scale ? bandsOf(chart.value.scale) : null))

const way = computed((): Way | { kind: 'typed'; cuts: string[] } | null => {
  switch (kind.value) {
    case 'typed':
      return 'cuts' in typed.value ? { kind: 'typed', cuts: typed.value.cuts } : null
    case 'chart':
      return chart.value?.scale ? { kind: 'typed', cuts: chart.value.scale.cuts.map(({ at }) => at) } : null
    case 'top':
    case 'bottom':
      return { kind: kind.value, share: Number(percent.value) / 100 }
    default:
      return { kind: kind.value, bands: bands.value }
  }
})
watch(isOpen, (now) => {
  if (!now) return
  list.value = props.side.cuts.map(({ at }) => props.line.say(at)).join(props.line.kind === 'date' ? '; ' : ', ')
  kind.value = 'typed'
})
watch([way, isOpen], async ([now, open]) => {
  if (!open || !now) return void (proposed.value = null)
  // A cut is no finer than the values are.
  const found = await props.session.propose(props.side.on, now, props.places)
  if (way.value === now) proposed.value = found
}, { immediate: true })
const all = computed(() => (proposed.value?.records ?? []).reduce((sum, one) => sum + one, 0))
const most = computed(() => Math.max(1, ...(proposed.value?.records ?? [])))

/** As it stands in the field, whether it has been counted yet or not. */
function take(): void {
  if (kind.value === 'chart' && chart.value?.scale) {
    isOpen.value = false
    return emit('chart', chart.value.scale)
  }
  const cuts = kind.value === 'typed' && 'cuts' in typed.value ? typed.value.cuts : proposed.value?.cuts
  if (!cuts) return
  isOpen.value = false
  emit('take', cuts)
}
</script>

<template>
  <v-menu v-model="isOpen" :close-on-content-click="false">
    <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button act" type="button"><slot>{{ words }}</slot></button></template>
    <v-card class="pa-4 cuts" width="340">
      <h2>Cuts on {{ side.on }}</h2>
      <v-select v-model="kind" :items="WAYS" label="Cut it by" />
      <template v-if="kind === 'typed'">
        <input v-model="list" v-focus class="list figure" aria-label="Cuts in a list" :placeholder="line.kind === 'date' ? '1 Jan 2020; 1 Jan 2024' : '12, 25, 40'" maxlength="2000" @keydown.enter.prevent="take">
        <p v-if="'wrong' in typed" class="trouble" role="alert">{{ typed.wrong }}</p>
      </template>
      <template v-else-if="kind === 'chart'">
        <textarea v-model="pasted" v-focus class="chart figure" aria-label="A chart of thresholds and labels" :placeholder="'90\tcrown\n60\tclimb\n0\tground'" spellcheck="false" maxlength="20000" />
        <ul v-if="chart" class="remarks"><li v-for="one in chart.remarks" :key="one.message" :class="one.severity === 'error' ? 'trouble' : 'second'">{{ one.row === null ? '' : `Line ${one.row}: ` }}{{ one.message }}</li></ul>
      </template>
      <p v-else-if="kind === 'top' || kind === 'bottom'" class="line">the {{ kind === 'top' ? 'highest' : 'lowest' }} <NumberField :value="percent" label="Percent of all records" :is-fine="(value) => Number(value) > 0 && Number(value) < 100" @change="percent = $event" /> % of all records</p>
      <p v-else class="line"><NumberField :value="String(bands)" label="How many bands" :is-fine="(value) => /^\d{1,2}$/.test(value) && Number(value) > 1" @change="bands = Number($event)" /> bands</p>
      <ol v-if="proposed" aria-label="What it comes to, lowest first">
        <li v-for="(records, at) in proposed.records" :key="at"><span class="figure at"><b v-if="kind === 'chart' && bandsOfChart" class="label">{{ bandsOfChart[at]?.label }}</b>{{ at === 0 ? (proposed.cuts.length === 0 ? 'all' : `under ${line.say(proposed.cuts[0]!)}`) : `from ${line.say(proposed.cuts[at - 1]!)}` }}</span><span class="track"><span class="part" :style="{ width: `${(100 * records) / most}%` }" /></span><span class="figure">{{ count(records) }}</span><span class="figure second">{{ share(records, all) }}</span></li>
      </ol>
      <p v-if="proposed && proposed.cuts.length === 0 && kind !== 'typed' && kind !== 'chart'" class="second">The values leave no room for a cut.</p>
      <v-btn class="primary" :disabled="!proposed || (proposed.cuts.length === 0 && kind !== 'typed' && kind !== 'chart')" @click="take">Cut so</v-btn>
    </v-card>
  </v-menu>
</template>

<style scoped>
.act { color: var(--pine); font-weight: 600; min-height: 26px; }
.cuts { display: grid; gap: 9px; }
.list { width: 100%; height: 30px; padding: 0 6px; color: var(--ink); background: var(--sheet); border: 0; border-bottom: 2px solid var(--brass); }
.chart { width: 100%; min-height: 104px; padding: 6px 8px; font-size: 13px; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; resize: vertical; }
.remarks { list-style: none; margin: 0; padding: 0; font-size: 13px; }
.label { margin-right: 8px; font-family: var(--text); }
.line { display: flex; align-items: baseline; gap: 6px; }
ol { list-style: none; margin: 0; padding: 0; max-height: 220px; overflow: auto; font-size: 13px; }
li { display: grid; grid-template-columns: minmax(92px, auto) 1fr 58px 58px; gap: 8px; align-items: center; min-height: 22px; text-align: right; }
.at { text-align: left; }
.track { height: 9px; }
.part { display: block; height: 100%; min-width: 1px; background: var(--pine); opacity: 0.55; }
</style>
