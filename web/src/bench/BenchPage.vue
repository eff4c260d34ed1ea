<script setup lang="ts">
/** The bench: one gate on one table, with the counts and the records that follow it. */
import { bindingSchema, type Bound, type BoundInputs, columnsBound, standingInputs } from '@dime-gate/contract/binding'
import { columnsAsked } from '@dime-gate/contract/question'
import { type Cell, isComputed, tableSchema, type Table } from '@dime-gate/contract/table'
import { tableSinceSchema } from '@dime-gate/contract/change'
import { deskSchema } from '@dime-gate/contract/desk'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Gate } from '@dime-gate/core/gate/document'
import { hasLineSides, isLineScale } from '@dime-gate/core/gate/scale-gate'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { conditionsOf } from '@dime-gate/core/gate/named-conditions'
import type { Tray } from '@dime-gate/core/result/tray'
import { parseDate } from '@dime-gate/core/value/temporal'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { z } from 'zod'
import type { Asked, Spread } from '../records/session'
import { useKnownConditions } from '../conditions/useKnownConditions'
import { type ColumnAddress, columnAddress } from '../records/column-address'
import { changedCells } from '../records/changed-cells'
import { useResult } from '../records/useResult'
import type { TableBeside } from '../records/session-highlights'
import { useSession } from '../records/useSession'
import { useHighlights } from '../highlight/useHighlights'
import { findingsWorker, useFindings } from '../findings/useFindings'
import type { LineStyle } from '../conditions/condition-bench'
import GridEditor from '../grid/GridEditor.vue'
import MatchEditor from '../match/MatchEditor.vue'
import RulesEditor from '../rules/RulesEditor.vue'
import RulesList from '../rules/RulesList.vue'
import ScaleEditor from '../scale/ScaleEditor.vue'
import { ask, askWith, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { isSame } from '@dime-gate/core/gate/is-same'
import { useAsOf } from '../shared/useAsOf'
import { useMoves } from '../shared/moves'
import { useNotices } from '../shared/notices'
import { useCommands } from '../finder/commands'
import { useSteady } from '../shared/useSteady'
import { useHelpPlace } from '../help/help-place'
import { useTitle } from '../shared/useTitle'
import { useWorkspace } from '../shared/workspace'
import BenchHeader from './BenchHeader.vue'
import BenchRecords from './BenchRecords.vue'
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import BenchSide, { type Side } from './BenchSide.vue'
import BindingFields from './BindingFields.vue'
import DraftTrouble from './DraftTrouble.vue'
import FetchingNote from './FetchingNote.vue'
import FormMenu from './FormMenu.vue'
import { provideDraft, useGateDraft } from './gate-draft'
import { useTrial } from './useTrial'
import { useTried } from './useTried'

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
/** The editor of scales works on a line. */
const scale = computed(() => (gate.value && isLineScale(gate.value) ? gate.value : null))
const asked = computed((before?: Asked | null): Asked | null => {
  if (!bench.draft || !table.value || asOf.value === null) return null
  // Until what a new label comes from is here, what was asked before stands.
  if (bench.unfed.length > 0) return before ?? null
  const { gate } = bench.draft
  // Whoever is in a set of the table by now stands for it.
  const inputs = standingInputs(bench.draft.inputs, table.value)
  const { feeding } = bench
  // A table whose values alone are others is asked the same.
  const isBefore = before?.gate === gate && before.feeding === feeding && before.asOf === asOf.value && isSame(before.inputs, inputs)
  return isBefore ? before : { gate, inputs, feeding, asOf: asOf.value }
})
const { decided, further, problems, sequence, tick, renewed, fetched, trouble: unread, refresh } = useResult(session, asked, addressOf, () => table.value?.columns.find((column) => !isComputed(column))?.id)
const looked = useSteady(() => Object.values(asked.value?.inputs ?? {}).flatMap(columnsBound))
const besideGate = computed((): TableBeside | null => (table.value && asOf.value !== null ? { columns: table.value.columns.map((column) => ({ ...column, ...addressOf(column.id) })), bound: looked.value } : null))
const pointing = useHighlights(session, () => props.id, tick, besideGate)
const counts = computed(() => decided.value?.counts ?? null)
const labels = useSteady(() => decided.value?.labels ?? [])
const inputs = useSteady(() => gate.value?.inputs ?? [])
const coming = { fetched }
/** Until there are counts of them. */
const isFetching = computed(() => fetched.value !== null && tick.value === 0)
const tried = useTried(asked, tick, isFetching)
useTitle(() => gate.value?.name)
const HELP = { scale: 'a-scale', rules: 'rules', match: 'a-match-list', grid: 'a-grid' }
useHelpPlace(() => gate.value && `using#${HELP[gate.value.form]}`)
useCommands([{ words: 'Side by side with another gate, a version or a column', key: 'b', act: () => router.push({ path: '/compare', query: { on: table.value?.id, a: `gate ${props.id} draft` } }), isOff: () => !table.value }])
useCommands([{ words: 'Show all records', key: 'Escape', act: () => (tray.value = { kind: 'all' }), isOff: () => tray.value.kind === 'all' }])

void setUp()
void pointing.load()
useReturn(() => (trouble.value || unread.value) && tryAgain())
onBeforeUnmount(() => bench.stored && void bench.keep())
window.addEventListener('beforeunload', warnOfLoss)
onBeforeUnmount(() => window.removeEventListener('beforeunload', warnOfLoss))

// Whatever is corrected in the table, here or elsewhere, is in the counts at once.
// One after the other: each is told what was changed since the one before.
let following = Promise.resolve()
useMoves(() => table.value, (version) => (following = following.then(() => follow(version))))

/** @param version that the table has; null where that is not known */
async function follow(version: number | null): Promise<void> {
  const before = table.value
  if (!before || asOf.value === null || (version !== null && version <= before.version)) return
  try {
    const { table: now, changed } = await ask(tableSinceSchema, `/tables/${before.id}/since/${before.version}?as-of=${asOf.value}&figures=${before.figures ?? ''}`)
    if (table.value !== before || (now.version === before.version && now.standsOn.length === 0)) return
    // Columns that a gate looks at cannot go, or become of another kind.
    table.value = now
    await refresh(changedCells(before, now, changed))
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

function addressOf(id: number): ColumnAddress {
  return columnAddress(table.value!, id, asOf.value!)
}
watch(asOf, (_, before) => {
  if (before !== null && table.value?.columns.some((column) => isComputed(column) && asked.value && columnsAsked(asked.value).includes(column.id))) void refresh()
})

watch(() => bench.unfed.join('\n'), (unfed) => {
  if (unfed !== '' && table.value) bench.feedAnew().catch((error: unknown) => notices.warn(messageOf(error)))
})

/** The values that the cuts are on: they change with the inputs, not with the cuts. */
const spread = shallowRef<Spread | null>(null)
const spreadOf = computed(() => scale.value && tick.value > 0 && JSON.stringify([scale.value.on, scale.value.inputs, bench.draft?.inputs, renewed.value]))
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
/** What stands beside the gate. */
const side = ref<Side>('findings')
const isShowing = ref(false)
const { origin } = window.location
/** Not before it is asked for: the languages are of no use on most visits. */
const ShowAsDialog = defineAsyncComponent(() => import('../showing/ShowAsDialog.vue'))
/** Which records another state of the gate gives other labels, as the table is bound now. */
async function compared(other: Gate, inputs = bench.draft!.inputs) {
  if (!asked.value || sequence.value === 0) return null
  const question = { ...asked.value, gate: other, inputs: standingInputs(inputs, table.value!) }
  const known = new Set(columnsAsked(asked.value))
  return session.compare(question, sequence.value, columnsAsked(question).filter((column) => !known.has(column)).map(addressOf))
}

const { known, look: lookAtConditions } = useKnownConditions()
// Others are told of a change once it is kept.
watch(() => bench.stored?.draftVersion, (now) => { if (now !== undefined && rules.value) lookAtConditions().catch((error: unknown) => notices.warn(messageOf(error))) })

/** Other gates in which named conditions would change with another state of this one. */
function alsoIn(other: Gate): string[] {
  const moved = conditionsOf(other).filter((one) => conditionsOf(gate.value!).some((own) => own.id === one.id && !isSame(own, one)))
  const gates = moved.flatMap(({ id }) => known.value.find((one) => one.id === id)?.gates ?? [])
  return [...new Set(gates.flatMap((one) => (one.id === props.id ? [] : [`“${one.name}”`])))]
}

/** The column that the records are sorted by: whatever looks at it is pointed out. */
const sortedBy = ref<number | null>(null)
const pointed = computed(() => Object.entries(asked.value?.inputs ?? {}).find(([, bound]) => sortedBy.value !== null && columnsBound(bound).includes(sortedBy.value))?.[0] ?? null)

async function lookForFeeders(): Promise<void> {
  const on = rules.value && table.value?.id
  if (!on) return
  // What cannot be had now is looked for again when the server is back.
  const desk = await ask(deskSchema, '/desk').catch(() => null)
  if (desk && table.value?.id === on) feeders.value = desk.gates.filter(({ id, latestVersion, tables }) => id !== props.id && latestVersion > 0 && tables.some((one) => one.id === on))
}
watch(() => rules.value && table.value?.id, lookForFeeders, { immediate: true })
useReturn(lookForFeeders)

const analysis = findingsWorker()
const { findings, fix } = useFindings(analysis, tried, session.findings, further)
const trying = useTrial(tried, table, session.firstIn, (question, rule) => analysis.recordFor(question, rule))
watch(side, (now) => now !== 'try' && (trying.coin.value = null))

function takeRecord(record: number, cells: Cell[]): void {
  trying.takeRecord(record, cells)
  side.value = 'try'
}

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

const BringDialog = defineAsyncComponent(() => import('../sources/BringDialog.vue'))
const isBringing = ref(false)
useCommands([{ words: 'Bring in what the gate says: a chart, a formula, SQL, FEEL, DMN', key: 'g', act: () => (isBringing.value = true), isOff: () => !table.value }])

/** What is brought in takes the place of all that the gate says; inputs of the same name stay bound as they are. */
function replace(next: Gate, inputs: BoundInputs): void {
  isBringing.value = false
  tray.value = { kind: 'all' }
  const { inputs: bound, gate: before } = bench.draft!
  const isAlike = (name: string) => next.inputs.find((one) => one.name === name)!.type === before.inputs.find((one) => one.name === name)?.type
  const kept = Object.entries(inputs).map(([name, found]): [string, Bound] => [name, (isAlike(name) && bound[name]) || found])
  bench.change({ gate: next, inputs: Object.fromEntries(kept) })
  bench.endStep()
  notices.say('The gate says now what was brought in.', { label: 'Take it back', run: bench.undo })
}

function reform(next: Gate): void {
  tray.value = { kind: 'all' }
  mend(next)
  notices.say('It stands in another form now; every record has what it had.', { label: 'Take it back', run: bench.undo })
}

/** An address that says no table stands for the one that was bound last, and says so from then on: going back leads to where one was. */
async function setUp(): Promise<void> {
  trouble.value = ''
  unread.value = ''
  try {
    if (workspace.asOf === null) await workspace.load()
    if (props.on !== null) {
      const [found] = await Promise.all([ask(tableSchema, `/tables/${props.on}`), bench.open(props.on)])
      table.value = found
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
    <BenchHeader :table="table" :name="gate.name" @rename="change({ ...gate, name: $event })" @show-as="isShowing = true">
      <template #form><FormMenu :gate="gate" :in-form="analysis.inForm" @change="reform" @bring="isBringing = true" /></template>
    </BenchHeader>
    <ShowAsDialog v-if="isShowing" :shown="{ question: asked, table, today: parseDate(asked.asOf)!, call: { id, version: bench.stored?.latestVersion ?? 0, origin } }" @close="isShowing = false" />
    <BringDialog v-if="isBringing" :gate="gate" :table="table" :as-of="asked.asOf" @take="replace" @close="isBringing = false" />
    <DraftTrouble class="kept" />
    <div class="work">
      <div class="form">
        <p v-if="problems.length" class="notice problem" role="alert">This gate cannot decide. {{ gateProblemWords(problems[0]!) }}</p>
        <FetchingNote v-else-if="isFetching" :coming="coming" :all="table.records" />
        <ScaleEditor v-if="scale" v-model:tray="tray" :gate="scale" :counts="counts" :spread="spread" :session="session" :gate-id="id" :table-id="table.id" :as-of="asked.asOf" @change="change" @changed="bench.endStep">
          <template #inputs><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></template>
        </ScaleEditor>
        <RulesEditor
          v-else-if="gate.form === 'rules'" :id="id" v-model:tray="tray" :known="known" :as-of="asked.asOf" :labels="labels" :compare="compared" :pointed="pointed" :gate="gate" :inputs="bench.draft!.inputs" :table="table" :gates="feeders" :counts="counts" :further="further" :findings="findings" :session="session" :tick="tick" :renewed="renewed" :coin="trying.coin.value" :broken="trying.broken.value"
          @change="(next, inputs, step) => bench.change({ gate: next, inputs }, step)" @changed="bench.endStep" @lines="lines = $event"
        >
          <template #inputs><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></template>
        </RulesEditor>
        <MatchEditor v-else-if="gate.form === 'match'" v-model:tray="tray" :gate="gate" :counts="counts" :labels="labels" :session="session" :tick="tick" :renewed="renewed" :coin="trying.coin.value" @change="mend">
          <template #inputs><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></template>
        </MatchEditor>
        <GridEditor v-else-if="gate.form === 'grid' && hasLineSides(gate)" v-model:tray="tray" :gate="gate" :counts="counts" :labels="labels" :session="session" :tick="tick" :renewed="renewed" :coin="trying.coin.value" @change="change" @changed="bench.endStep">
          <template #inputs><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></template>
        </GridEditor>
        <div v-else class="list">
          <div class="facts second"><BindingFields :table="table" :asked="inputs" :inputs="bench.draft!.inputs" @bind="bind" /></div>
          <RulesList :gate="gate" :counts="counts" :further="further" :labels="labels" :tray="tray" @show="tray = $event" />
        </div>
      </div>
      <aside aria-label="Beside the gate">
        <BenchSide :id="id" :table="table" v-model:tray="tray" v-model:side="side" :gate="gate" :tried="tried" :counts="counts" :further="further" :labels="labels" :findings="findings" :fix="fix" :trying="trying" :tick="tick" :compare="compared" :also-in="alsoIn" :pointing="pointing" :session="session" @change="mend" />
      </aside>
    </div>
    <BenchRecords v-model="tray" class="records" :gate-id="id" :table="table" :asked="asked" :labels="labels" :counts="counts" :session="session" :tick="tick" :lines="lines" :highlights="pointing.highlights.value" :told="pointing.told.value" :pointed="pointing.tick.value" @pick="takeRecord" @sorted="sortedBy = $event" />
  </section>
  <p v-else class="second waiting" role="status">Setting up the bench …</p>
</template>

<style scoped>
.bench { display: grid; grid-template-rows: auto auto auto minmax(180px, 1fr); grid-template-columns: minmax(0, 1fr); height: calc(100dvh - 48px); min-height: 640px; }
.kept { grid-row: 2; }
.work { grid-row: 3; display: grid; grid-template-columns: minmax(0, 1fr) 318px; grid-template-rows: minmax(0, auto); min-height: min(400px, 50dvh); max-height: calc(100dvh - 300px); }
.records { grid-row: 4; }
.form { position: relative; display: grid; min-width: 0; min-height: 0; }
.list { display: grid; grid-template-rows: auto minmax(0, 1fr); padding: 0 16px 0 20px; min-height: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
/* What comes and goes moves nothing that is about to be clicked. */
.form > .notice, .fetching { position: absolute; z-index: 2; top: 36px; right: 14px; }
/* What stands beside the form does not make it taller. */
aside { display: flex; flex-direction: column; gap: 14px; height: 0; min-height: 100%; padding: 4px 20px 10px 18px; border-left: 1px solid var(--hairline); min-width: 0; overflow: auto; }
.trouble-page { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; max-width: 640px; }
.ways { display: flex; gap: 16px; align-items: center; }
.waiting { padding: 40px 20px; }
@media (max-width: 980px) {
  .bench { height: auto; grid-template-rows: auto auto auto 480px; }
  .work { grid-template-columns: minmax(0, 1fr); max-height: none; }
  aside { border-left: 0; padding-left: 20px; height: auto; }
}
</style>
