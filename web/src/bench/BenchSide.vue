<script setup lang="ts">
/** What stands beside a gate on the bench, whatever its form: findings, a record to try, labels, inputs, versions. */
import type { Example, Gate, Meant } from '@dime-gate/core/gate/document'
import { labelGiven } from '@dime-gate/core/gate/entries'
import { isSame } from '@dime-gate/core/gate/is-same'
import { hasNearness } from '@dime-gate/core/nearest/nearest'
import { editInput } from '@dime-gate/core/gate/edit-outcomes'
import type { Check } from '@dime-gate/contract/expectation'
import type { Table } from '@dime-gate/contract/table'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { COMPUTED, type LabelTray, recordsByLabel, type Tray } from '@dime-gate/core/result/tray'
import type { Remote } from 'comlink'
import { computed, onMounted, ref, watch } from 'vue'
import ExpectDialog from '../expectation/ExpectDialog.vue'
import ExpectationList from '../expectation/ExpectationList.vue'
import { isMissed } from '../expectation/expectation-words'
import { liveCheck } from '../expectation/live-checks'
import { trayOf } from '../expectation/tray-of'
import { useNarrowChecks } from '../expectation/useNarrowChecks'
import { useExpectations } from '../expectation/useExpectations'
import FindingList from '../findings/FindingList.vue'
import type { ToldFinding } from '../findings/told-findings'
import type { useFindings } from '../findings/useFindings'
import { useCommands } from '../finder/commands'
import HighlightLegend from '../highlight/HighlightLegend.vue'
import type { HighlightSession, useHighlights } from '../highlight/useHighlights'
import LabelsPanel from '../gives/LabelsPanel.vue'
import ToLookAt from '../records/ToLookAt.vue'
import type { RecordsWorker } from '../records/records-worker'
import type { Asked, ToldMoves } from '../records/session'
import { askBytes } from '../shared/api'
import { stopFor } from '../rules/course'
import SideTabs from '../shared/SideTabs.vue'
import { useThrottled } from '../shared/useThrottled'
import { useSteady } from '../shared/useSteady'
import ExampleList from './ExampleList.vue'
import InputsPanel from './InputsPanel.vue'
import TrialPanel from './TrialPanel.vue'
import type { Trying } from './useTrial'
import VersionsPanel from './VersionsPanel.vue'

export type Side = 'findings' | 'try' | 'labels' | 'inputs' | 'versions'

/** @property tried what follows a drag a few times a second */
const props = defineProps<{
  id: number
  gate: Gate
  table: Pick<Table, 'id' | 'name' | 'columns' | 'version'>
  tried: Asked | null
  counts: Counts | null
  further: FurtherCounts | null
  labels: readonly LabelTray[]
  findings: ReturnType<typeof useFindings>['findings']['value']
  fix: ReturnType<typeof useFindings>['fix']
  trying: Trying
  tick: number
  compare: (gate: Gate) => Promise<ToldMoves | null>
  alsoIn: (gate: Gate) => string[]
  pointing: ReturnType<typeof useHighlights>
  session: HighlightSession & Pick<Remote<RecordsWorker>, 'countsWithin'>
}>()
const emit = defineEmits<{ change: [gate: Gate] }>()
const tray = defineModel<Tray>('tray', { required: true })
const side = defineModel<Side>('side', { required: true })
const { highlights, told } = props.pointing
const { typed, from, coin, examples, takeExample, takeForRule } = props.trying

useCommands(
  ([['findings', 'Look at the findings'], ['try', 'Try a record'], ['labels', 'Labels: names, colours, order'], ['inputs', 'Inputs: blanks, rounding, what is expected'], ['versions', 'Versions, and what differs']] as const)
    .map(([name, words]) => ({ words, act: () => (side.value = name) })),
)

const { kept: expected, load, add, remove } = useExpectations(() => props.id)
onMounted(load)
const isExpecting = ref(false)
useCommands([{ words: 'Expect something of the counts', key: 'x', act: () => (isExpecting.value = true) }])
const onThis = computed(() => expected.value.filter(({ tableId }) => tableId === null || tableId === props.table.id))
// Of a large gate it takes a moment, at every change: only where there is something that could be mended.
const canBeNear = computed(() => onThis.value.length > 0 && hasNearness([...(props.tried?.feeding ?? []).map(({ gate }) => gate), props.gate]))
const byLabel = computed(() => (props.counts ? recordsByLabel(props.labels, props.counts, props.gate.otherwise ? labelGiven(props.gate.otherwise) : null) : new Map<string, number>()))
const labelsGiven = computed(() => [...byLabel.value.keys()].filter((label) => label !== COMPUTED))
/** Groups and single records follow a drag a few times a second. */
const followed = ref(props.tick)
watch(() => props.tick, useThrottled(() => (followed.value = props.tick), 250))
const narrow = useNarrowChecks(
  () => ({ expected: onThis.value.filter(({ expectation }) => expectation.kind === 'record' || expectation.within !== null), columns: props.table.columns, version: props.table.version, labels: labelsGiven.value, tick: props.counts ? followed.value : 0 }),
  { list: async (filters) => new Int32Array(await askBytes(`/tables/${props.table.id}/listings`, { filters, sorts: [] })), countsWithin: (within, trays) => props.session.countsWithin(within, trays) },
)
const checks = computed(() => (props.counts ? onThis.value.flatMap((one) => liveCheck(one, { counts: props.counts!, further: props.further, byLabel: byLabel.value }) ?? narrow.value.filter(({ id }) => id === one.id)) : []))
const later = computed(() => onThis.value.filter(({ id }) => !checks.value.some((check) => check.id === id)).map((one): Check => ({ ...one, got: 0, of: 0, off: 0, label: null, problem: null })))

async function expect(expectations: Parameters<typeof add>[0], isForTable: boolean): Promise<void> {
  if (await add(expectations, isForTable ? props.table.id : null)) isExpecting.value = false
}

/** The records that an expectation counts. */
function showExpected({ expectation }: Check): void {
  if (expectation.kind === 'count') tray.value = trayOf(expectation.of)
}

const meant = computed(() => props.gate.meant ?? [])
const tabs = computed(() => {
  const keys = new Set(meant.value.map(({ key }) => key))
  const open = (props.findings?.told ?? []).filter(({ key }) => !keys.has(key))
  const broken = examples.value.filter(({ isMet }) => !isMet).length
  return [
    { name: 'findings' as const, words: 'Findings', count: open.length + checks.value.filter(isMissed).length, isTrouble: open.some(({ severity }) => severity === 'error') || checks.value.some(isMissed) },
    { name: 'try' as const, words: 'Try', count: broken || examples.value.length, isTrouble: broken > 0 },
    { name: 'labels' as const, words: 'Labels' }, { name: 'inputs' as const, words: 'Inputs' }, { name: 'versions' as const, words: 'Versions' },
  ]
})
const edges = useSteady(() => (props.counts?.edges ?? []).map(({ of, at }) => ({ of, at })))

/** Where a finding lies: in the gate, and on the records. */
function point({ where, rules: [rule] }: ToldFinding): void {
  tray.value = where !== '' ? { kind: 'where', condition: where, rule: rule ?? null } : rule !== undefined ? { kind: 'rule', rule } : { kind: 'all' }
}

function setMeant(next: Meant[]): void {
  const { meant: _, ...rest } = props.gate
  emit('change', next.length === 0 ? rest : { ...rest, meant: next })
}

function setExamples(next: Example[]): void {
  const { examples: _, ...rest } = props.gate
  emit('change', next.length === 0 ? rest : { ...rest, examples: next })
}

const kept = computed(() => props.gate.examples ?? [])
function keepExample(example: Example): void {
  if (!kept.value.some((one) => isSame(one.values, example.values))) setExamples([...kept.value, example])
}
</script>

<template>
  <SideTabs v-model="side" label="Beside the gate" :tabs="tabs" />
  <template v-if="side === 'findings'">
    <p v-if="!findings && !counts" class="second">Findings follow once the records are counted.</p>
    <FindingList :findings="findings" :fix="fix" :meant="meant" is-titled @mend="emit('change', $event)" @point="point" @mean="setMeant" />
    <ExpectationList :checks="checks" :later="later" :columns="table.columns" :tray="tray" :has-nearness="canBeNear" @add="isExpecting = true" @remove="remove" @show="showExpected" @list="tray = $event" />
    <ToLookAt :gate="gate" :counts="counts" :further="further" :tray="tray" @show="tray = $event" />
    <HighlightLegend :gate="gate" :highlights="highlights" :told="told" :labels="labels" :all="counts?.records ?? 0" :tray="tray" :session="session" :change="pointing.change" @show="tray = $event" />
  </template>
  <template v-else-if="side === 'try'">
    <TrialPanel v-if="tried" v-model="typed" :question="tried" :labels="[...labels]" :as-of="tried.asOf" :cuts="edges" has-records :from="from" @record="takeForRule" @stops="coin = $event && stopFor($event)" @keep="keepExample" />
    <ExampleList :checked="examples" :labels="[...labels]" @try="takeExample" @drop="setExamples(kept.toSpliced($event, 1))" @take="(at, label) => setExamples(kept.with(at, { ...kept[at]!, label }))" />
  </template>
  <LabelsPanel v-else-if="side === 'labels'" :gate="gate" :records="byLabel" @change="emit('change', $event)" @show="tray = { kind: 'label', label: $event }" />
  <VersionsPanel v-else-if="side === 'versions'" :id="id" :gate="gate" :labels="[...labels]" :tick="tick" :compare="compare" :also-in="alsoIn" @show="tray = $event" @back="emit('change', $event)" />
  <InputsPanel v-else :inputs="gate.inputs" :counts="counts?.inputs ?? []" @change="(name, next) => emit('change', editInput(gate, name, next))" />
  <ExpectDialog v-if="isExpecting" :labels="labelsGiven" :columns="table.columns" :table-name="table.name" :proposed="[]" @add="expect" @close="isExpecting = false" />
</template>
