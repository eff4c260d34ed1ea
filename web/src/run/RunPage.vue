<script setup lang="ts">
/** A run: what one version of a gate gave each record, kept as it was. */
import { API } from '@dime-gate/contract/api'
import { columnsBound } from '@dime-gate/contract/binding'
import type { Filter } from '@dime-gate/contract/change'
import { type Check, checkSchema } from '@dime-gate/contract/expectation'
import { deskSchema } from '@dime-gate/contract/desk'
import { type Override, overrideSchema } from '@dime-gate/contract/review'
import { type Fresh, freshSchema, type Run, runSchema, type RunSummary } from '@dime-gate/contract/run'
import { type Cell, type Column, type TableProfile, tableProfileSchema } from '@dime-gate/contract/table'
import { onNumbers } from '@dime-gate/core/gate/scale-axis'
import { isLineScale } from '@dime-gate/core/gate/scale-gate'
import { hasNearness } from '@dime-gate/core/nearest/nearest'
import { COMPUTED, type Tray, trayName } from '@dime-gate/core/result/tray'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { computed, defineAsyncComponent, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { z } from 'zod'
import ExpectationList from '../expectation/ExpectationList.vue'
import { isMissed } from '../expectation/expectation-words'
import { proposedExpectations } from '../expectation/proposed'
import { trayOf } from '../expectation/tray-of'
import { useExpectations } from '../expectation/useExpectations'
import { useCommands } from '../finder/commands'
import HighlightChips from '../highlight/HighlightChips.vue'
import { columnsBeside, pointedColumns } from '../highlight/pointed-columns'
import HighlightLegend from '../highlight/HighlightLegend.vue'
import { useHighlights } from '../highlight/useHighlights'
import FilterMenu from '../listing/FilterMenu.vue'
import { filteredBy, unfilteredBy, WHOLE } from '../listing/listing'
import ListingTools from '../listing/ListingTools.vue'
import RecordList from '../records/RecordList.vue'
import type { Order } from '../records/order'
import type { ColumnAddress } from '../records/column-address'
import type { Asked, DecidedGate, Spread } from '../records/session'
import type { TableBeside } from '../records/session-highlights'
import ToLookAt from '../records/ToLookAt.vue'
import TrayTabs from '../records/TrayTabs.vue'
import { useSession } from '../records/useSession'
import { whileFetching } from '../records/while-fetching'
import RulesList from '../rules/RulesList.vue'
import CutLine from '../scale/CutLine.vue'
import { lineKindOf, axisWords } from '../scale/axis-words'
import { ask, askBytes, askWith, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { count, counted, date, moment } from '../shared/format'
import { useReviewMoves } from '../shared/moves'
import { useNotices } from '../shared/notices'
import SideTabs from '../shared/SideTabs.vue'
import { useSteady } from '../shared/useSteady'
import { useTitle } from '../shared/useTitle'
import { runTitle, withUnit } from '../shared/words'
import { groupFilter, trayOfPart } from './by-group'
import { byHandWords, countsByHand, handOf } from './by-hand'
import CoinTrays from './CoinTrays.vue'
import { freshWords } from './fresh-words'
import GroupPanel from './GroupPanel.vue'
import { choiceOf, queryOf, type RunChoice } from './run-address'
import RunActions from './RunActions.vue'
import TraysBeside from './TraysBeside.vue'
import { useFirstRecords } from './useFirstRecords'
import { useRun } from './useRun'

const props = defineProps<{ id: number }>()
/** Not before they are asked for: most visits look at the counts. */
const ExpectDialog = defineAsyncComponent(() => import('../expectation/ExpectDialog.vue'))
const RunRecord = defineAsyncComponent(() => import('./RunRecord.vue'))
const session = useSession()
const router = useRouter()
const route = useRoute()
const shown = shallowRef<DecidedGate | null>(null)
const spread = shallowRef<Spread | null>(null)
const fetched = ref<number | null>(null)
const profile = shallowRef<TableProfile>({})
const choice = computed(() => choiceOf(route.query))
const total = ref(0)
const notices = useNotices()
const listTrouble = ref('')
const checks = shallowRef<Check[]>([])
const isExpecting = ref(false)
/** The record that is looked at beside the others. */
const picked = shallowRef<{ record: number; cells: Cell[] } | null>(null)
const fresh = shallowRef<Fresh | null>(null)
const freshness = computed(() => fresh.value && freshWords(fresh.value))
/** What was given by hand, and still holds. */
const overrides = shallowRef<Override[]>([])
const byHand = computed(() => new Map(overrides.value.flatMap((one) => handOf(one, latest.value!.gate.outcomes[0]!.name))))
/** Every column as it was then. */
const addressIn = (run: Run, { id, type }: Pick<Column, 'id' | 'type'>): ColumnAddress => ({ id, kind: kindOfColumn(type), path: `${API}/runs/${run.id}/columns/${id}` })
const besideGate = computed((): TableBeside | null => (shown.value && latest.value ? { columns: latest.value.columns.map((column) => ({ ...column, ...addressIn(latest.value!, column) })), bound: Object.values(latest.value.binding).flatMap(columnsBound) } : null))
/** Moves once what it kept is here. */
const opened = ref(0)
const { highlights, told, tick: pointed, load: loadHighlights, change: changeHighlights } = useHighlights(session, () => latest.value?.gateId ?? null, opened, besideGate)
const firstColumns = useSteady(() => columnsBeside(latest.value?.seen ?? [], highlights.value, latest.value?.binding ?? {}, told.value))
const { add, remove } = useExpectations(() => latest.value!.gateId, check)
const tick = ref(0)

const choose = (change: Partial<RunChoice>) => void router.replace({ query: queryOf({ ...choice.value, ...change }) })
const tray = computed({ get: () => choice.value.tray, set: (next) => choose({ tray: next }) })
/** One column, by which the session sorts where it has it, and the server where not. */
const order = computed<Order>({
  get: () => choice.value.listing.sorts[0] ?? null,
  set: (next) => choose({ listing: { ...choice.value.listing, sorts: next ? [next] : [] } }),
})

const { first, want: wantFirst, show: showFirst, groupsCame } = useFirstRecords(() => props.id)
void wantFirst(choice.value)
watch(first, (now) => {
  if (shown.value || now.length === 0) return
  total.value = now.length
  tick.value++
})

const { run: latest, trouble, follow, leave } = useRun(() => ask(runSchema, `/runs/${props.id}`), async (run) => {
  await showFirst(run, choice.value)
  const asked: Asked = { gate: run.gate, inputs: run.binding, feeding: run.feeding, asOf: run.asOf }
  const addresses = run.seen.map((id) => addressIn(run, run.columns.find((one) => one.id === id)!))
  const answer = await whileFetching(fetched, async (progress) => session.openRun(asked, `${API}/runs/${run.id}/records`, addresses, progress))
  if ('problems' in answer) throw new Error('This run was made by a gate that cannot be read any more.')
  shown.value = answer
  opened.value++
  void loadHighlights()
  void loadOverrides()
  if (isLineScale(run.gate)) spread.value = await session.spread(run.gate.on)
  await check()
  await list()
  void look(run).catch(() => undefined)
  void ask(freshSchema, `/runs/${props.id}/fresh`).then((found) => (fresh.value = found), () => undefined)
  // What the values are of the table as it is now is a help, and no more.
  if (run.records <= MOST_PROFILED) profile.value = await ask(tableProfileSchema, `/tables/${run.tableId}/profile`).catch(() => ({}))
})
/** The run once it is done; before, there is nothing to see of it but how far it is. */
const run = computed(() => (latest.value?.counts ? { ...latest.value, counts: latest.value.counts } : null))
const labels = computed(() => run.value?.labels ?? [])
/** The counts are what everybody comes for: all else is drawn after them. */
const areCountsDrawn = ref(false)
watch(() => run.value !== null, (isThere) => isThere && requestAnimationFrame(() => setTimeout(() => (areCountsDrawn.value = true))))
void follow()
useReturn(() => trouble.value && void follow())

useTitle(() => latest.value && runTitle(latest.value))
useCommands([
  { words: 'Expect something', key: 'x', act: () => (isExpecting.value = true), isOff: () => !run.value },
  { words: 'Show all records', key: 'Escape', act: () => choose({ tray: { kind: 'all' }, listing: WHOLE }), isOff: () => tray.value.kind === 'all' && choice.value.listing.filters.length === 0 },
])

/** Others of its table, those of its gate first. */
const others = shallowRef<RunSummary[]>([])
async function look(run: Run): Promise<void> {
  const { runs } = await ask(deskSchema, '/desk')
  const done = runs.flatMap((one) => (one.counts ? [{ ...one, counts: one.counts }] : []))
  // The last come first.
  const elsewhere = done.filter((one, at) => one.gateId === run.gateId && one.tableId !== run.tableId && done.findIndex((other) => other.gateId === run.gateId && other.tableId === one.tableId) === at)
  beside.value = [...done.filter(({ id }) => id === run.id), ...elsewhere]
  others.value = runs.filter(({ id, tableId, state }) => id !== run.id && tableId === run.tableId && state === 'done').toSorted((one, other) => Number(other.gateId === run.gateId) - Number(one.gateId === run.gateId))
}

/** Keeps another run, and goes to what moved in between. */
async function again(as: 'same' | 'now'): Promise<void> {
  try {
    const { id } = await askWith(runSchema, 'POST', `/runs/${props.id}/again`, { as })
    await router.push(`/runs/${props.id}/against/${id}`)
  } catch (error) {
    notices.warn(messageOf(error))
  }
}

/** What it comes to of what is expected; the page can be read without. */
async function check(): Promise<void> {
  checks.value = await ask(z.array(checkSchema), `/runs/${props.id}/checks`).catch(() => [])
}

/** The page can be read without. */
async function loadOverrides(): Promise<void> {
  overrides.value = await ask(z.array(overrideSchema), `/review/runs/${props.id}/overrides`).catch(() => [])
}
useReviewMoves(loadOverrides)

async function expect(expectations: Parameters<typeof add>[0], isForTable: boolean): Promise<void> {
  if (await add(expectations, isForTable ? run.value!.tableId : null)) isExpecting.value = false
}

/** The records that an expectation counts, or the one that it names. */
function showExpected({ expectation }: Check): void {
  const filters: Filter[] = (expectation.kind === 'record' ? expectation.who : expectation.within ? [expectation.within] : []).flatMap(({ column: id, value }) => {
    const column = run.value!.columns.find((one) => one.id === id)
    return column ? [groupFilter({ value, isUnreadable: false }, column, 'whole')] : []
  })
  choose({ tray: expectation.kind === 'record' ? { kind: 'all' } : trayOf(expectation.of), listing: { filters, sorts: [] } })
}

async function cancel(): Promise<void> {
  const { gateId, tableId } = latest.value!
  leave()
  try {
    await askWith(z.object({}), 'DELETE', `/runs/${props.id}`, {})
    await router.push({ path: `/gates/${gateId}`, query: { on: tableId } })
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

/** The last list that is asked for is the one that is shown. */
let listing = 0
async function list(): Promise<void> {
  const mine = ++listing
  try {
    const { filters, sorts } = choice.value.listing
    const isHere = (id: number) => run.value!.seen.includes(id)
    const within = filters.length === 0 && sorts.every(({ column }) => isHere(column)) ? null : new Int32Array(await askBytes(`/runs/${props.id}/listings`, { filters, sorts }))
    if (mine !== listing) return
    const listed = await session.list({ ...tray.value }, within === null && order.value ? { ...order.value } : null, within)
    if (mine !== listing) return
    total.value = listed
    tick.value++
    listTrouble.value = ''
  } catch (error) {
    if (mine === listing) listTrouble.value = messageOf(error)
  }
}
const canBeNear = computed(() => run.value !== null && hasNearness([...run.value.feeding.map(({ gate }) => gate), run.value.gate]))
const rows = async (from: number, to: number) => (shown.value ? session.window(from, to) : first.value.slice(from, to))
// What is pointed out is drawn anew, and a tray of it may hold others.
watch(pointed, () => shown.value && void list())
watch(() => JSON.stringify([tray.value, choice.value.listing]), () => void (shown.value ? list() : latest.value && showFirst(latest.value, choice.value)))

/** Every value of the tray's label, of a group: to the records, and back. */
function showGroup(filter: Filter, partKey: string | null): void {
  const isShown = choice.value.listing.filters.some((one) => JSON.stringify(one) === JSON.stringify(filter))
  const next = isShown && partKey === null ? unfilteredBy(choice.value.listing, choice.value.listing.filters.find((one) => JSON.stringify(one) === JSON.stringify(filter))!) : filteredBy(choice.value.listing, filter)
  choose({ listing: next, tray: partKey === null ? (tray.value.kind === 'exceptions' ? { kind: 'all' } : tray.value) : trayOfPart(partKey) })
}

const missed = computed(() => checks.value.filter(isMissed).length)
/** Of all records, by tray. */
const expectedByTray = computed(() => {
  const byTray = new Map<string, { low: number | null; high: number | null; isMissed: boolean }[]>()
  for (const check of checks.value) {
    const { expectation } = check
    if (expectation.kind === 'record' || expectation.within || expectation.of.kind === 'to look at') continue
    const { as, low, high } = expectation.bounds
    const records = (end: string | null) => (end === null ? null : as === 'count' ? Number(end) : (Number(end) * check.of) / 100)
    const name = trayName(trayOf(expectation.of))
    byTray.set(name, [...(byTray.get(name) ?? []), { low: records(low), high: records(high), isMissed: isMissed(check) }])
  }
  return byTray
})
/** Of larger tables it takes too long to be of use here. */
const MOST_PROFILED = 200_000
const VIEWS = [{ name: 'groups', words: 'By group' }, { name: 'figures', words: 'In figures' }, { name: 'decided', words: 'As it was decided' }] as const
/** This run, and the last one of its gate on each other table. */
const beside = shallowRef<InstanceType<typeof TraysBeside>['$props']['runs']>([])
const views = computed(() => [...VIEWS, ...(beside.value.length > 1 ? [{ name: 'tables' as const, words: 'Beside other tables' }] : [])])
const commonOf = (id: number) => (profile.value[id]?.spread.kind === 'values' ? profile.value[id].spread.common : [])

/** Columns that stood for inputs under another name. */
const standing = computed(() => Object.entries(run.value?.binding ?? {}).flatMap(([input, bound]) => {
  const [first, ...others] = columnsBound(bound)
  const column = run.value!.columns.find(({ id }) => id === first)
  return column && others.length === 0 && column.name !== input ? [{ input, column: column.name }] : []
}))

const tabs = computed<{ tray: Tray; records: number | null }[]>(() => {
  if (!run.value) return []
  const { exceptions, records } = run.value.counts
  const always: { tray: Tray; records: number }[] = [{ tray: { kind: 'exceptions' }, records: exceptions }, { tray: { kind: 'all' }, records }]
  return always.some((one) => one.tray.kind === tray.value.kind) ? always : [{ tray: tray.value, records: shown.value ? total.value : null }, ...always]
})

function show(next: Tray): void {
  tray.value = trayName(next) === trayName(tray.value) ? { kind: 'all' } : next
}
</script>

<template>
  <section v-if="trouble" class="trouble-page"><p class="notice problem" role="alert">{{ unlessAway(trouble) }}</p><p class="ways"><v-btn @click="follow">Try again</v-btn><router-link to="/">Go to the desk</router-link></p></section>
  <section v-else-if="run" class="run">
    <header>
      <h1>{{ runTitle(run) }}</h1>
      <span class="space" />
      <RunActions v-if="areCountsDrawn" :run="run" :choice="choice" :others="others" @again="again" />
      <div class="states">
        <span v-if="freshness" class="pill fresh" :class="{ stale: freshness.isStale }" role="status" :title="freshness.why.join('; ')">{{ freshness.words }}</span>
        <b v-if="missed > 0" class="trouble missed" role="status">{{ counted(missed, 'expectation') }} missed</b>
        <router-link v-if="overrides.length > 0" class="pill hand" :to="{ path: '/review', query: { gate: run.gateId, table: run.tableId, shows: 'overridden' } }" title="The trays say what the gate gave. Look at what was given by hand">{{ count(overrides.length) }} by hand: {{ byHandWords(countsByHand(labels, overrides, run.gate.outcomes[0]!.name)) }}</router-link>
        <p class="second about"><template v-if="run.name">{{ run.gateName }}, run {{ run.number }}, </template>version {{ run.gateVersion }} on <router-link :to="`/tables/${run.tableId}`"><b>{{ run.tableName }}</b></router-link> (version {{ run.tableVersion }})<template v-for="{ input, column } in standing" :key="input">, where <b>{{ column }}</b> stands for <b>{{ input }}</b></template>, as of <b>{{ date(run.asOf) }}</b> ({{ run.isAsOfAsked ? 'as it was asked for' : 'the date that counted everywhere' }}), kept {{ moment(run.keptAt) }}<template v-if="run.feeding.length">, fed by <template v-for="({ gate, version }, index) in run.feeding" :key="gate.name"><template v-if="index > 0">, </template><b>{{ gate.name }}</b> version {{ version }}</template></template></p>
      </div>
    </header>
    <div class="work">
      <CoinTrays :labels="labels" :otherwise="run.otherwise" :counts="run.counts" :tray="tray" :expected="expectedByTray" :title="runTitle(run)" :about="`${run.tableName}, version ${run.gateVersion} of ${run.gateName}, as of ${date(run.asOf)}`" @show="show" />
      <div class="chart">
        <SideTabs :model-value="choice.shows" label="What is shown of the run" :tabs="views" @update:model-value="choose({ shows: $event })" />
        <TraysBeside v-if="choice.shows === 'tables'" :runs="beside" />
        <GroupPanel v-else-if="choice.shows !== 'decided'" :run="run" :choice="choice" :profile="profile" @here="groupsCame" @choose="choose" @show="showGroup" />
        <template v-else-if="isLineScale(run.gate)">
          <h2>{{ withUnit(run.gate.on, run.gate.inputs.find(({ name }) => name === (run!.gate as { on: string }).on)?.unit ?? '') }}</h2>
          <CutLine v-if="spread" fixed :gate="onNumbers(run.gate, lineKindOf(run.gate, run.gate.on))" :words="axisWords(lineKindOf(run.gate, run.gate.on))" :counts="run.counts" :spread="spread.histogram" :places="spread.places" :selected="null" />
        </template>
        <template v-else>
          <RulesList :gate="run.gate" :counts="run.counts" :further="run.counts" :labels="labels" :tray="tray" @show="tray = $event" />
        </template>
      </div>
      <div class="beside"><template v-if="areCountsDrawn">
        <ExpectationList :checks="checks" :columns="run.columns" :tray="tray" :has-nearness="canBeNear" @add="isExpecting = true" @remove="remove" @show="showExpected" @list="choose({ tray: $event, listing: WHOLE })" />
        <ToLookAt :gate="run.gate" :counts="run.counts" :further="run.counts" :tray="tray" @show="show" />
        <HighlightLegend :gate="run.gate" :highlights="highlights" :told="told" :labels="labels" :all="run.counts.records" :tray="tray" :session="session" :change="changeHighlights" @show="tray = $event" />
      </template></div>
    </div>
    <div class="records" :class="{ opened: picked }"><template v-if="areCountsDrawn">
      <TrayTabs :gate="run.gate" :trays="tabs" :chosen="tray" @choose="tray = $event"><span class="tools">
        <span role="status"><template v-if="choice.listing.filters.length > 0 && shown"><b>{{ count(total) }}</b> of them</template></span>
        <span v-if="listTrouble" class="trouble" role="alert">{{ listTrouble }}</span>
        <ListingTools :listing="choice.listing" :columns="run.columns" @show="choose({ listing: $event })" />
        <span class="escape"><kbd>Esc</kbd> shows all {{ counted(run.counts.records, 'record') }}</span>
      </span></TrayTabs>
      <HighlightChips v-if="highlights.length > 0" v-model="tray" :highlights="highlights" :told="told" />
      <RecordList :table-id="run.tableId" :as="{ run: run.id }" :columns="run.columns" :looked="firstColumns" :inputs="run.gate.inputs" :labels="labels" :highlights="highlights" :by-hand="byHand" :stands-for="(input) => pointedColumns(input, run!.binding, told)" :total="total" :rows="rows" :tick="tick" :order="order" :empty="shown ? 'No record is here.' : `Fetching what it saw: ${count(fetched ?? 0)} of ${count(run.counts.records)} records`" sorts-all @order="order = $event" @pick="(record, cells) => (picked = picked?.record === record ? null : { record, cells })">
        <template #more="{ column }"><FilterMenu :column="column" :common="commonOf(column.id)" @filter="choose({ listing: filteredBy(choice.listing, $event) })" /></template>
      </RecordList>
      <RunRecord v-if="picked" :run="run" :record="picked.record" :cells="picked.cells" @close="picked = null" />
    </template></div>
    <ExpectDialog v-if="isExpecting" :labels="labels.map(({ label }) => label).filter((label) => label !== COMPUTED)" :columns="run.columns" :table-name="run.tableName" :proposed="proposedExpectations(run)" @add="expect" @close="isExpecting = false" />
  </section>
  <section v-else-if="latest && latest.state !== 'done'" class="under-way">
    <h1>{{ runTitle(latest) }}</h1>
    <p class="second">version {{ latest.gateVersion }} on <router-link :to="`/tables/${latest.tableId}`"><b>{{ latest.tableName }}</b></router-link>, as of <b>{{ date(latest.asOf) }}</b></p>
    <template v-if="latest.state === 'under way'">
      <p v-if="latest.isWaiting" role="status">Waits for another run to end, and begins by itself.</p>
      <p v-else role="status"><b class="figure">{{ count(latest.progress ?? 0) }}</b> of {{ counted(latest.records, 'record') }} decided</p>
      <v-progress-linear :model-value="(100 * (latest.progress ?? 0)) / Math.max(1, latest.records)" color="primary" height="4" aria-label="Records decided" />
      <p><v-btn @click="cancel">Cancel this run</v-btn></p>
    </template>
    <template v-else>
      <p class="notice problem" role="alert">{{ latest.problem }}</p>
      <p><router-link :to="{ path: `/gates/${latest.gateId}`, query: { on: latest.tableId } }">To the bench</router-link></p>
    </template>
  </section>
  <p v-else class="second waiting" role="status">Opening the run …</p>
</template>

<style scoped>
.run { display: grid; grid-template-rows: auto auto minmax(200px, 1fr); height: calc(100dvh - 48px); min-height: 640px; }
header { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 10px; padding: 10px 20px 8px; }
h1 { white-space: nowrap; line-height: 32px; }
.states { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 12px; flex-basis: 100%; line-height: 1.35; }
.about a { color: var(--ink); text-decoration: none; }
.about b { color: var(--ink); }
.space { flex: 1; }
.work { display: grid; grid-template-columns: minmax(300px, 1.15fr) minmax(0, 1.25fr) 300px; min-height: 330px; }
.work > * { padding: 8px 18px 12px; min-width: 0; }
.work > * + * { border-left: 1px solid var(--hairline); }
.chart { display: grid; align-content: start; gap: 10px; grid-template-rows: auto minmax(0, 1fr); max-height: 330px; }
/* Tables are there to be compared: as many as there is room for, and enough of the records. */
.work:has([data-beside]) :is(.chart, .beside) { max-height: clamp(330px, 100dvh - 330px, 620px); }
.chart:has(h2) { grid-template-rows: auto auto minmax(0, 1fr); }
.chart :deep(li) { grid-template-columns: 28px minmax(0, 1fr) minmax(80px, auto) 60px; min-height: 34px; }
.chart :deep(:is(.arrives, .alone, .track)) { display: none; }
.chart :deep(.counts) { grid-template-columns: auto; }
.chart :deep(li > span:first-child) { display: none; }
.ways { display: flex; gap: 16px; align-items: center; }
.beside { display: grid; gap: 14px; align-content: start; max-height: 330px; overflow-y: auto; }
.missed { flex: none; }
.hand { color: var(--ink); text-decoration: none; border-color: var(--brass); }
.fresh.stale { border-color: var(--brass); color: var(--ink); }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 12px; }
@media (max-width: 640px) { .escape { display: none; } }
.records { display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-top: 1px solid var(--hairline); background: var(--sheet); }
.records:has(.chips) { grid-template-rows: auto auto minmax(0, 1fr); }
.records.opened { grid-template-columns: minmax(0, 1fr) 340px; }
.records.opened > :is(:first-child, .chips) { grid-column: 1 / -1; }
.under-way { display: grid; gap: 12px; max-width: 560px; padding: 40px 20px; }
.under-way a { color: var(--ink); }
.trouble-page, .waiting { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; }
@media (max-width: 980px) {
  header { flex-wrap: wrap; }
  header .space { display: none; }
  .run { height: auto; grid-template-rows: auto auto 480px; }
  .run:has(.records.opened) { grid-template-rows: auto auto auto; }
  .records:has(.chips) { grid-template-rows: auto auto minmax(0, 1fr); }
.records.opened { grid-template-columns: minmax(0, 1fr); grid-template-rows: auto 360px auto; }
  .work { grid-template-columns: minmax(0, 1fr); }
  .work > * + * { border-left: 0; border-top: 1px solid var(--hairline); }
}
</style>
