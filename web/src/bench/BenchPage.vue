<script setup lang="ts">
/** The bench: one gate on one table, with the counts and the records that follow it. */
import { API } from '@dime-gate/contract/api'
import { bindingSchema, type Bound, columnsBound, standingInputs, type StandingInputs } from '@dime-gate/contract/binding'
import { columnsAsked } from '@dime-gate/contract/question'
import { type Cell, isComputed, tableSchema, type Table } from '@dime-gate/contract/table'
import { deskSchema } from '@dime-gate/contract/desk'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Decision } from '@dime-gate/core/decide/decide-record'
import type { Example, Gate, Meant } from '@dime-gate/core/gate/document'
import { isNumberScale } from '@dime-gate/core/gate/scale-gate'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { editInput, labelGiven } from '@dime-gate/core/gate/edit-rules'
import { recordsByLabel, type Tray } from '@dime-gate/core/result/tray'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { z } from 'zod'
import type { Asked, ColumnAddress, Spread } from '../records/session'
import ToLookAt from '../records/ToLookAt.vue'
import { useResult } from '../records/useResult'
import { useSession } from '../records/useSession'
import { formWords } from '../rules/rule-words'
import FindingList from '../findings/FindingList.vue'
import { findingsWorker, useFindings } from '../findings/useFindings'
import type { LineStyle } from '../rules/condition-bench'
import type { Placed } from '../rules/course'
import InputsPanel from '../rules/InputsPanel.vue'
import LabelsPanel from '../rules/LabelsPanel.vue'
import RulesEditor from '../rules/RulesEditor.vue'
import RulesList from '../rules/RulesList.vue'
import ScaleEditor from '../scale/ScaleEditor.vue'
import { ask, askWith, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { count } from '../shared/format'
import { isSame } from '@dime-gate/core/gate/is-same'
import { useAsOf } from '../shared/useAsOf'
import { useMoves } from '../shared/moves'
import { useNotices } from '../shared/notices'
import { useShortcuts } from '../shared/useShortcuts'
import { useSteady } from '../shared/useSteady'
import { useThrottled } from '../shared/useThrottled'
import { useTitle } from '../shared/useTitle'
import { useWorkspace } from '../shared/workspace'
import BenchHeader from './BenchHeader.vue'
import BenchRecords from './BenchRecords.vue'
import { boundByNames } from './bound-by-names'
import BindingFields from './BindingFields.vue'
import DraftTrouble from './DraftTrouble.vue'
import ExampleList from './ExampleList.vue'
import { provideDraft, useGateDraft } from './gate-draft'
import SideTabs from './SideTabs.vue'
import { checkExamples, typedInputs, typedText } from './trial'
import TrialPanel from './TrialPanel.vue'
import VersionsPanel from './VersionsPanel.vue'

/** @property on the table to look at; null where the address says none */
const props = defineProps<{ id: number; on: number | null }>()
const bench = provideDraft(useGateDraft(props.id))
const router = useRouter()
const session = useSession()
const notices = useNotices()
const route = useRoute()
const workspace = useWorkspace()
const { asOf } = useAsOf()

const table = shallowRef<Table | null>(null)
const trouble = ref('')
const tray = shallowRef<Tray>({ kind: 'all' })

const gate = computed(() => bench.draft?.gate ?? null)
const rules = computed(() => (gate.value?.form === 'rules' ? gate.value : null))
/** The editor of scales works on numbers. */
const scale = computed(() => (gate.value && isNumberScale(gate.value) ? gate.value : null))
const asked = computed((before?: Asked | null): Asked | null => {
  if (!bench.draft || !table.value || asOf.value === null) return null
  // Until what a new label comes from is here, what was asked before stands.
  if (bench.unfed.length > 0) return before ?? null
  const { gate } = bench.draft
  // Whoever is in a set of the table by now stands for it.
  return { gate, inputs: standingInputs(bench.draft.inputs, table.value), feeding: bench.feeding, asOf: asOf.value }
})
const { decided, further, problems, sequence, tick, fetched, trouble: unread, refresh } = useResult(session, asked, addressOf, () => table.value?.columns.find((column) => !isComputed(column))?.id)
const counts = computed(() => decided.value?.counts ?? null)
const labels = useSteady(() => decided.value?.labels ?? [])
const inputs = useSteady(() => gate.value?.inputs ?? [])
/** What follows a drag a few times a second. */
const tried = shallowRef<Asked | null>(null)
watch(asked, useThrottled(async () => void (tried.value = asked.value), 90), { immediate: true })
useTitle(() => gate.value?.name)
useShortcuts({ Escape: () => (tray.value = { kind: 'all' }) })

void setUp()
useReturn(() => (trouble.value || unread.value) && tryAgain())
onBeforeUnmount(() => bench.stored && void bench.keep())
window.addEventListener('beforeunload', warnOfLoss)
onBeforeUnmount(() => window.removeEventListener('beforeunload', warnOfLoss))

// Whatever is corrected in the table, here or elsewhere, is in the counts at once.
useMoves(() => table.value, (version) => {
  if (version === null || version > (table.value?.version ?? Infinity)) void follow()
})

async function follow(): Promise<void> {
  const before = table.value
  if (!before) return
  try {
    const now = await ask(tableSchema, `/tables/${before.id}`)
    if (table.value?.id !== now.id || (now.version === table.value.version && now.standsOn.length === 0)) return
    // Columns that a gate looks at cannot go, or become of another kind.
    table.value = now
    await refresh()
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

/** A figure is what it comes to on the day that counts here. */
function addressOf(id: number): ColumnAddress {
  const column = table.value!.columns.find((one) => one.id === id)!
  const day = !isComputed(column) ? '' : `?as-of=${asOf.value!}`
  return { id, kind: kindOfColumn(column.type), path: `${API}/tables/${table.value!.id}/columns/${id}${day}` }
}
watch(asOf, (_, before) => {
  if (before !== null && table.value?.columns.some((column) => isComputed(column) && asked.value && columnsAsked(asked.value).includes(column.id))) void refresh()
})

watch(() => bench.unfed.join('\n'), (unfed) => {
  if (unfed !== '' && table.value) bench.feedAnew().catch((error: unknown) => notices.warn(messageOf(error)))
})

/** The values that the cuts are on: they change with the inputs, not with the cuts. */
const spread = shallowRef<Spread | null>(null)
const spreadOf = computed(() => scale.value && tick.value > 0 && JSON.stringify([scale.value.on, scale.value.inputs, bench.draft?.inputs]))
watch(spreadOf, async (key) => {
  spread.value = null
  if (!key) return
  const found = await session.spread(scale.value!.on)
  if (spreadOf.value === key) spread.value = found ?? { histogram: null, places: 0 }
})

/** Gates that this one can take labels from. */
const feeders = shallowRef<GateSummary[]>([])
/** What the chosen rule looks at, by the line that points it out. */
const lines = shallowRef<ReadonlyMap<string, LineStyle>>(new Map())
/** Where a record that is tried falls. */
const coin = ref<Placed['at'] | null>(null)

function stopped(decision: Decision | null): void {
  if (!decision) coin.value = null
  else if (decision.status === 'labelled') coin.value = decision.rule
  else coin.value = decision.status === 'held' || decision.status === 'contested' ? decision.status : 'rest'
}
/** What is tried: by input, as it was typed; and who it is, where it was taken from the list. */
const typed = ref<Record<string, string>>({})
const takenFrom = ref<string | null>(null)
const edges = useSteady(() => (counts.value?.edges ?? []).map(({ of, at }) => ({ of, at })))
const kept = computed(() => gate.value?.examples ?? [])
const examples = computed(() => (tried.value ? checkExamples(tried.value, tried.value.asOf) : []))
const brokenRules = computed(() => new Set(examples.value.filter(({ isMet }) => !isMet).map(({ rule }) => rule)))

function takeRecord(record: number, cells: Cell[]): void {
  if (!tried.value) return
  const stands: StandingInputs = Object.assign({}, ...[...tried.value.feeding, tried.value].map((one) => one.inputs))
  const columns = table.value!.columns
  const text = (id: number) => { const [value, written] = cells[columns.findIndex((column) => column.id === id)] ?? [null, null]; return value ?? written ?? '' }
  typed.value = Object.fromEntries(typedInputs(tried.value).map((input) => [input.name, typedText(input, stands[input.name] ? columnsBound(stands[input.name]!).map(text).join(';') : '')]))
  const who = columns.find(({ isIdentity }) => isIdentity)
  takenFrom.value = (who && text(who.id)) || `record ${record}`
  side.value = 'try'
}

function tryExample({ values }: Example): void {
  takenFrom.value = null
  typed.value = Object.fromEntries(typedInputs(tried.value!).map((input) => [input.name, typedText(input, values[input.name] ?? '')]))
}

/** What stands beside the rules. */
const side = ref<'findings' | 'try' | 'labels' | 'inputs' | 'versions'>('findings')
watch(side, (now) => now !== 'try' && (coin.value = null))
const sides = computed(() => {
  const meant = new Set(rules.value?.meant?.map(({ key }) => key))
  const open = (findings.value?.told ?? []).filter(({ key }) => !meant.has(key))
  const broken = examples.value.filter(({ isMet }) => !isMet).length
  return [
    { name: 'findings' as const, words: 'Findings', count: open.length, isTrouble: open.some(({ severity }) => severity === 'error') },
    { name: 'try' as const, words: 'Try', count: broken || examples.value.length, isTrouble: broken > 0 },
    { name: 'labels' as const, words: 'Labels' }, { name: 'inputs' as const, words: 'Inputs' }, { name: 'versions' as const, words: 'Versions' },
  ]
})
const byLabel = computed(() => (counts.value && decided.value ? recordsByLabel(decided.value.labels, counts.value, rules.value?.otherwise ? labelGiven(rules.value.otherwise) : null) : new Map<string, number>()))

/** Which records another state of the gate gives other labels, as the table is bound now. */
async function compared(other: Gate) {
  if (!asked.value || sequence.value === 0) return null
  const question = { ...asked.value, gate: other }
  const known = new Set(columnsAsked(asked.value))
  return session.compare(question, sequence.value, columnsAsked(question).filter((column) => !known.has(column)).map(addressOf))
}

function setMeant(meant: Meant[]): void {
  const { meant: _, ...rest } = gate.value!
  mend(meant.length === 0 ? rest : { ...rest, meant })
}

function setExamples(examples: Example[]): void {
  const { examples: _, ...rest } = gate.value!
  mend(examples.length === 0 ? rest : { ...rest, examples })
}

function keepExample(example: Example): void {
  if (!kept.value.some((one) => isSame(one.values, example.values))) setExamples([...kept.value, example])
}

watch([table, rules], async ([on, gate]) => {
  if (!on || !gate || feeders.value.length > 0) return
  const { gates } = await ask(deskSchema, '/desk')
  feeders.value = gates.filter(({ id, latestVersion, tables }) => id !== props.id && latestVersion > 0 && tables.some((one) => one.id === on.id))
}, { immediate: true })

/** Scales have their own ways to show what is wrong with them. */
const analysed = computed(() => (scale.value ? null : tried.value))
const { findings, fix } = useFindings(findingsWorker(), analysed, session.findings, further)

// A tray may vanish with its band or cut.
watch(gate, (now) => {
  if (!now) return
  const { value: shown } = tray
  const hasGone = (shown.kind === 'rule' && now.form === 'scale' && shown.rule >= now.bands.length) || (shown.kind === 'edge' && now.form === 'scale' && !now.cuts.some(({ at }) => at === shown.at))
  if (hasGone) tray.value = { kind: 'all' }
})

const change = (next: Gate, step: string | null = null) => bench.change({ gate: next }, step)
/** One step, which can be taken back like any other. */
function mend(next: Gate): void {
  change(next)
  bench.endStep()
}

/** An address that says no table stands for the one that was bound last, and says so from then on: going back leads to where one was. */
async function setUp(): Promise<void> {
  trouble.value = ''
  unread.value = ''
  try {
    if (workspace.asOf === null) await workspace.load()
    if (props.on !== null) {
      await bench.open(props.on)
      table.value = await ask(tableSchema, `/tables/${props.on}`)
      return
    }
    const [last] = await ask(z.array(bindingSchema), `/gates/${props.id}/bindings`)
    if (!last) throw new Error('This gate is not bound to any table yet.')
    await router.replace({ query: { ...route.query, on: last.tableId } })
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

function tryAgain(): void {
  table.value = null
  void setUp()
}

/** Another column of this table stands for an input from here on; on another table the gate gets a bench of its own. */
async function bind({ id: tableId, columns, sets }: Table, input: string, chosen: Bound): Promise<void> {
  if (tableId === table.value!.id) return bench.change({ inputs: { ...bench.draft!.inputs, [input]: chosen } })
  try {
    await bench.keep()
    const known = (await ask(z.array(bindingSchema), `/gates/${props.id}/bindings`)).find((one) => one.tableId === tableId)
    await askWith(bindingSchema, 'PUT', `/gates/${props.id}/bindings/${tableId}`, { inputs: { ...(known?.inputs ?? boundByNames(gate.value!.inputs, columns, sets)), [input]: chosen }, seen: known?.version ?? 0 })
    await router.push({ query: { ...route.query, on: tableId } })
  } catch (error) {
    notices.warn(messageOf(error))
  }
}

/** A change of the last moment still goes out; only what cannot be kept holds the page back. */
function warnOfLoss(event: BeforeUnloadEvent): void {
  if (bench.stored && bench.keeping.state === 'keeping') void bench.keep()
  if (bench.keeping.state === 'stale' || bench.keeping.state === 'failed') event.preventDefault()
}
</script>

<template>
  <section v-if="trouble || unread" class="trouble-page"><h1>The bench cannot be set up</h1><p class="notice problem" role="alert">{{ unlessAway(trouble || unread) }}</p><p class="ways"><v-btn @click="tryAgain">Try again</v-btn><router-link to="/">Go to the desk</router-link></p></section>
  <section v-else-if="gate && table && asked" class="bench">
    <BenchHeader :table="table" :name="gate.name" :form="formWords(gate)" @rename="change({ ...gate, name: $event })" />
    <DraftTrouble class="kept" />
    <ScaleEditor v-if="scale" v-model:tray="tray" class="work" :gate="scale" :counts="counts" :spread="spread" :fetched="fetched" :records="table.records" @change="change" @changed="bench.endStep">
      <template #inputs><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></template>
      <template #beside>
        <ToLookAt :gate="gate" :counts="counts" :further="further" :tray="tray" @show="tray = $event" />
        <TrialPanel v-if="tried" :question="tried" :labels="labels" :as-of="tried.asOf" />
      </template>
    </ScaleEditor>
    <RulesEditor
      v-else-if="rules" v-model:tray="tray" class="work ruled" :gate="rules" :inputs="bench.draft!.inputs" :table="table" :gates="feeders" :counts="counts" :further="further" :findings="findings" :session="session" :tick="tick" :coin="coin" :broken="brokenRules"
      @change="(next, inputs, step) => bench.change({ gate: next, inputs }, step)" @changed="bench.endStep" @lines="lines = $event"
    >
      <template #inputs><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></template>
      <template #above>
        <p v-if="problems.length" class="notice problem" role="alert">This gate cannot decide. {{ gateProblemWords(problems[0]!) }}</p>
        <div v-else-if="fetched !== null && tick === 0" class="fetching floating" role="status">
          <p class="second">Fetching what it looks at: <span class="figure">{{ count(fetched) }}</span> of <span class="figure">{{ count(table.records) }}</span> records</p>
          <v-progress-linear :model-value="(100 * fetched) / Math.max(1, table.records)" color="primary" height="3" aria-label="Records fetched" />
        </div>
      </template>
      <template #beside>
        <SideTabs v-model="side" :tabs="sides" />
        <template v-if="side === 'findings'">
          <FindingList :findings="findings" :fix="fix" :meant="rules.meant ?? []" is-titled @mend="mend" @point="tray = { kind: 'rule', rule: $event }" @mean="setMeant" />
          <ToLookAt :gate="rules" :counts="counts" :further="further" :tray="tray" @show="tray = $event" />
        </template>
        <template v-else-if="side === 'try'">
          <TrialPanel v-if="tried" v-model="typed" :question="tried" :labels="labels" :as-of="tried.asOf" :cuts="edges" :from="takenFrom" @stops="stopped" @keep="keepExample" />
          <ExampleList :checked="examples" :labels="labels" @try="tryExample" @drop="setExamples(kept.toSpliced($event, 1))" @take="(at, label) => setExamples(kept.with(at, { ...kept[at]!, label }))" />
        </template>
        <LabelsPanel v-else-if="side === 'labels'" :gate="rules" :records="byLabel" @change="mend" @show="tray = { kind: 'label', label: $event }" />
        <VersionsPanel v-else-if="side === 'versions'" :id="id" :gate="rules" :labels="labels" :tick="tick" :compare="compared" @show="tray = $event" @back="mend" />
        <InputsPanel v-else :inputs="rules.inputs" :counts="counts?.inputs ?? []" @change="(name, next) => mend(editInput(rules!, name, next))" />
      </template>
    </RulesEditor>
    <div v-else class="work listed">
      <div class="list">
        <div class="facts second"><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></div>
        <p v-if="problems.length" class="notice problem" role="alert">This gate cannot decide. {{ gateProblemWords(problems[0]!) }}</p>
        <div v-else-if="fetched !== null" class="fetching" role="status">
          <p class="second">Fetching what it looks at: <span class="figure">{{ count(fetched) }}</span> of <span class="figure">{{ count(table.records) }}</span> records</p>
          <v-progress-linear :model-value="(100 * fetched) / Math.max(1, table.records)" color="primary" height="3" aria-label="Records fetched" />
        </div>
        <RulesList v-else :gate="gate" :counts="counts" :further="further" :labels="labels" :tray="tray" @show="tray = $event" />
      </div>
      <aside aria-label="Beside the rules">
        <ToLookAt :gate="gate" :counts="counts" :further="further" :tray="tray" @show="tray = $event" />
        <TrialPanel v-if="tried" :question="tried" :labels="labels" :as-of="tried.asOf" />
        <FindingList :findings="findings" :fix="fix" :meant="gate.meant ?? []" @mend="mend" @point="tray = { kind: 'rule', rule: $event }" @mean="setMeant" />
      </aside>
    </div>
    <BenchRecords v-model="tray" class="records" :table="table" :asked="asked" :labels="labels" :counts="counts" :session="session" :tick="tick" :lines="lines" @pick="takeRecord" />
  </section>
  <p v-else class="second waiting" role="status">Setting up the bench …</p>
</template>

<style scoped>
.bench { display: grid; grid-template-rows: auto auto auto minmax(180px, 1fr); grid-template-columns: minmax(0, 1fr); height: calc(100dvh - 48px); min-height: 640px; }
.kept { grid-row: 2; }
.work { grid-row: 3; }
.records { grid-row: 4; }
.ruled { min-height: min(400px, 50dvh); max-height: calc(100dvh - 300px); }
.listed { display: grid; grid-template-columns: minmax(0, 1fr) 318px; height: min(46dvh, 420px); }
.list { display: grid; grid-template-rows: auto minmax(0, 1fr); padding: 0 16px 0 20px; min-height: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
.fetching { display: grid; align-content: center; gap: 8px; max-width: 420px; }
aside { display: flex; flex-direction: column; gap: 14px; padding: 4px 20px 10px 18px; border-left: 1px solid var(--hairline); min-width: 0; overflow: auto; }
/* What comes and goes moves nothing that is about to be clicked. */
.floating { position: absolute; z-index: 2; top: 36px; right: 14px; width: 320px; padding: 8px 12px; background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; }
.trouble-page { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; max-width: 640px; }
.ways { display: flex; gap: 16px; align-items: center; }
.waiting { padding: 40px 20px; }
@media (max-width: 980px) {
  .bench { height: auto; grid-template-rows: auto auto auto 480px; }
  .listed { grid-template-columns: minmax(0, 1fr); height: auto; }
  .ruled { max-height: none; }
  aside { border-left: 0; padding-left: 20px; }
}
</style>
