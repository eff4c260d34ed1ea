<script setup lang="ts">
/** A table: its columns with their quality, and its records, to be found, put in order and corrected. */
import { deskSchema } from '@dime-gate/contract/desk'
import type { Filter, Listing, Reading } from '@dime-gate/contract/change'
import type { Drawn } from '@dime-gate/contract/drawn'
import { type Column, isComputed } from '@dime-gate/contract/table'
import { membersOfSet } from '@dime-gate/contract/table-figures'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import NewGateDialog from '../desk/NewGateDialog.vue'
import DrawnAside from '../drawn/DrawnAside.vue'
import { groupListing } from '../drawn/group-listing'
import RollUpDialog from '../drawn/RollUpDialog.vue'
import TotalsLine from '../drawn/TotalsLine.vue'
import FigureAside from '../figure/FigureAside.vue'
import { widthOf } from '../records/column-widths'
import { useRecordCells } from '../records/useRecordCells'
import { ask } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { count, counted, DECIMAL_MARK, moment } from '../shared/format'
import { useNotices } from '../shared/notices'
import TakeOut from '../shared/TakeOut.vue'
import { useCommands } from '../finder/commands'
import { useTitle } from '../shared/useTitle'
import { useWorkspace } from '../shared/workspace'
import { cellWords, listedWords } from './cell-words'
import { hiddenToo, movedColumn, rememberChoice, rememberedChoice, shownAgain, shownColumns, widened } from './column-choice'
import ColumnDialog, { type ColumnSettings } from './ColumnDialog.vue'
import ColumnHead from './ColumnHead.vue'
import type { SetCell } from './grid-cells'
import HistoryMenu from './HistoryMenu.vue'
import { filteredBy, listingOf, listingText, sortedBy, WHOLE } from '../listing/listing'
import ListingTools from '../listing/ListingTools.vue'
import QuarrelDialog from './QuarrelDialog.vue'
import RecordAside from './RecordAside.vue'
import { handOf, type HandsOf } from '../run/by-hand'
import { useByHand } from '../run/useByHand'
import TableGrid from './TableGrid.vue'
import { useLooks } from './useLooks'
import { tableSteps, useTable } from './useTable'

const props = defineProps<{ id: number }>()
const route = useRoute()
const router = useRouter()
const notices = useNotices()

const listing = computed<Listing>(() => listingOf(route.query.list))
const { cells, want, put, forget } = useRecordCells(props.id)
const { table, profile, order, tick, trouble, load, edits, lookAnew } = useTable(listing, tableSteps(props.id), { put, forget })
const { past, future, pending, isWaiting, unkept, quarrel } = edits
const grid = ref<InstanceType<typeof TableGrid> | null>(null)
const gateNames = shallowRef<string[]>([])
const isMaking = ref(false)
const isAdding = ref(false)
const setting = shallowRef<Column | null>(null)
const focused = shallowRef<{ record: number; column: number | null } | null>(null)
const showsRecord = ref(false)
/** What stands beside the records: a figure that is being written; null for a new one, undefined for none. */
const writing = shallowRef<Column | null | undefined>(undefined)
/** The same of a column that is drawn from elsewhere, and what a new one begins with. */
const drawing = shallowRef<{ column: Column | null; begun: Drawn } | null>(null)
const isRollingUp = ref(false)
/** How the reader writes figures and dates. */
const READING: Reading = { decimalMark: DECIMAL_MARK, dateOrder: 'day' }

useTitle(() => table.value?.name)
const from = computed(() => (table.value?.rollUp ? 'groups of another table, kept as that is' : `from ${table.value?.fileName ?? ''}, ${moment(table.value?.importedAt ?? '')}`))
useCommands([
  { words: 'New gate on this table', key: 'n', act: makeGate },
  { words: 'New figure', key: 'g', act: () => write(null) },
  { words: 'Show the record in focus, or hide it', key: 'r', act: () => (showsRecord.value = !showsRecord.value) },
  { words: 'Undo', key: 'u', act: () => edits.undo() },
  { words: 'Redo', key: 'U', act: () => edits.redo() },
  { words: 'Show all records', key: 'Escape', act: () => show(WHOLE), isOff: () => listing.value.filters.length === 0 },
])
onMounted(async () => {
  await load()
  gateNames.value = await ask(deskSchema, '/desk').then(({ gates }) => gates.map(({ name }) => name), () => [])
})
useReturn(() => trouble.value && void load())
// Figures can hang on the day that counts.
const workspace = useWorkspace()
watch(() => workspace.asOf, (_, before) => before !== null && table.value?.columns.some(isComputed) && void lookAnew())
window.addEventListener('beforeunload', warnOfLoss)
onBeforeUnmount(() => window.removeEventListener('beforeunload', warnOfLoss))
watch(edits.trouble, (why) => why && notices.warn(why))

const choice = shallowRef(rememberedChoice(props.id, localStorage))
watch(choice, (now) => rememberChoice(props.id, now, localStorage))
const columns = computed(() => (table.value ? shownColumns(table.value.columns, choice.value) : []))
const hidden = computed(() => table.value?.columns.filter(({ id }) => choice.value.hidden.includes(id)) ?? [])
/** The set that a column is in, by its id. */
const setOfColumn = computed(() => new Map((table.value?.sets ?? []).flatMap((set) => membersOfSet(set, table.value!.columns).map(({ id }): [number, string] => [id, set.name]))))
const places = computed(() => columns.value.map((column) => table.value!.columns.indexOf(column)))
const { looks, outcomes } = useLooks(() => table.value?.columns ?? [])
/** By column that holds labels what some records were given by hand instead. */
const overrides = useByHand(() => (table.value?.columns ?? []).flatMap(({ id, drawn }) => (drawn?.kind === 'label' ? [{ key: id, gateId: drawn.gate, tableId: table.value!.id }] : [])))
const byHand = computed(() => new Map([...overrides.value].map(([column, all]): [number, HandsOf] => [column, new Map(all.flatMap((one) => handOf(one, outcomes.value.get(column) ?? '')))])))
/** Measured on the first records that came, and then left alone: a list whose columns jump cannot be read. */
const sample = shallowRef<number[]>([])
watch(() => [order.value, cells.size], () => {
  if (sample.value.length === 0 && order.value && cells.size > 0) sample.value = [...order.value.subarray(0, 60)].filter((record) => cells.has(record))
})
const GAP = 22
const widths = computed(() => columns.value.map((column, at) => choice.value.widths[column.id] ?? GAP + widthOf({
  head: `${column.name}  `, isFigure: column.type !== 'text', least: column.type === 'date' ? 116 : 92, cells: sample.value.map((record) => listedWords(cells.get(record)?.[places.value[at]!], column)),
}).pixels))

function makeGate(): void {
  isMaking.value = table.value !== null
}

function warnOfLoss(event: BeforeUnloadEvent): void {
  if (pending.value > 0) event.preventDefault()
}

function show(next: Listing): void {
  const text = listingText(next)
  void router.replace({ query: text === null ? {} : { list: text } })
}

async function keepColumn(settings: ColumnSettings): Promise<void> {
  const column = setting.value
  const { name, unit, type, fullMarks, expectedLow, expectedHigh } = settings
  const isKept = column
    ? await edits.change({ kind: 'change column', reading: READING, column: column.id, settings })
    : await edits.change({ kind: 'add column', name, unit, type, fullMarks })
  if (!isKept) return
  const added = table.value!.columns.at(-1)!
  if (!column && (expectedLow !== null || expectedHigh !== null)) await edits.change({ kind: 'change column', reading: READING, column: added.id, settings: { expectedLow, expectedHigh } })
  setting.value = null
  isAdding.value = false
  if (!column) comeIntoView(added.name)
}

/** @param figure null for a new one */
function write(figure: Column | null): void {
  leaveAside()
  if (figure?.drawn) drawing.value = { column: figure, begun: figure.drawn }
  else writing.value = figure
  if (figure) comeIntoView(figure.name)
}

function draw(begun: Drawn): void {
  leaveAside()
  drawing.value = { column: null, begun }
}

function leaveAside(): void {
  writing.value = undefined
  drawing.value = null
}

function figureKept(name: string): void {
  leaveAside()
  comeIntoView(name)
  notices.say(`“${name}” is kept, and follows whatever is changed.`)
}

/** A column, beside whoever was looked at, once the page has taken its new shape. */
function comeIntoView(name: string): void {
  // The list learns of its new width one frame later.
  const later = (act: () => void) => requestAnimationFrame(() => requestAnimationFrame(act))
  later(() => {
    const column = columns.value.findIndex((one) => one.name === name)
    const row = focused.value && order.value ? order.value.indexOf(focused.value.record) : -1
    if (column >= 0 && order.value && order.value.length > 0) grid.value?.goTo({ row: Math.max(0, row), column })
  })
}

/** What is computed is not typed: what it comes from is. */
function setCells(cells: SetCell[]): void {
  const isFigure = (id: number) => table.value!.columns.some((column) => column.id === id && isComputed(column))
  const given = cells.filter(({ column }) => !isFigure(column))
  if (given.length < cells.length) {
    const { name } = table.value!.columns.find(({ id }) => id === cells.find(({ column }) => isFigure(column))!.column)!
    notices.warn(`“${name}” is computed, and stays what it comes to. Correct what it comes from, or change how it is computed.`)
  }
  if (given.length > 0) void edits.change({ kind: 'values', reading: READING, cells: given })
}

const isBeside = computed(() => writing.value !== undefined || drawing.value !== null)

/** The records of the group in focus, as an address; null where there is none. */
const members = computed(() => {
  const of = focused.value && cells.get(focused.value.record)
  return table.value?.rollUp && of ? { path: `/tables/${table.value.rollUp.table}`, query: { list: listingText(groupListing(table.value.rollUp, table.value.columns, of)) } } : null
})

const who = computed(() => {
  const cellsOfRecord = focused.value && cells.get(focused.value.record)
  const texts = table.value && cellsOfRecord ? table.value.columns.flatMap((column, at) => (column.isIdentity ? [cellWords(cellsOfRecord[at], column)] : [])) : []
  return texts.join(', ')
})

async function addRecord(): Promise<void> {
  if (!(await edits.change({ kind: 'add records', reading: READING, rows: [[]] }))) return
  if (listing.value.filters.length > 0) show({ ...listing.value, filters: [] })
  // It stands at the end once the list is made anew.
  const stop = watch(order, (now) => {
    stop()
    grid.value?.goTo({ row: now!.length - 1, column: 0 })
    grid.value?.take()
  })
}

async function removeRecords(): Promise<void> {
  const records = grid.value?.chosenRecords() ?? []
  if (records.length === 0 || !(await edits.change({ kind: 'remove records', records }))) return
  notices.say(`${counted(records.length, 'record')} removed.`, { label: 'Take it back', run: () => void edits.undo() })
}

async function removeColumn(column: Column): Promise<void> {
  if (await edits.change({ kind: 'remove column', column: column.id })) notices.say(`“${column.name}” is removed.`, { label: 'Take it back', run: () => void edits.undo() })
}

function fill(column: number, text: string, records: number[]): void {
  const isAll = records.length === order.value?.length
  if (!isAll && records.length > 50_000) return void notices.warn('Choose all records that are listed, or no more than 50,000 of them.')
  void edits.change({ kind: 'fill', reading: READING, column, text, filters: isAll ? listing.value.filters : [], records: isAll ? null : records })
}

const chosen = ref(0)
function focus(record: number | null, column: number | null): void {
  focused.value = record === null ? null : { record, column }
  chosen.value = grid.value?.chosenRecords().length ?? 0
}
</script>

<template>
  <section v-if="!table && trouble" class="trouble-page"><p class="notice problem" role="alert">{{ unlessAway(trouble) }}</p><router-link to="/">Go to the desk</router-link></section>
  <section v-else-if="table" class="table-page" :class="{ beside: (showsRecord && focused) || isBeside, writing: isBeside }">
    <header>
      <h1 :title="table.name">{{ table.name }}</h1>
      <span class="second from" :title="from">{{ counted(table.records, 'record') }}, {{ counted(table.columns.length, 'column') }} · {{ from }}</span>
      <span class="space" />
      <span class="second kept" role="status">{{ isWaiting ? 'not kept yet: waiting for the server' : pending > 0 ? 'keeping …' : past.length + future.length > 0 ? 'kept' : '' }}</span>
      <v-btn :disabled="past.length === 0" @click="edits.undo()">Undo<kbd>U</kbd></v-btn>
      <v-btn :disabled="future.length === 0" @click="edits.redo()">Redo</v-btn>
      <HistoryMenu v-if="table.version > 1" :table-id="table.id" :version="table.version" @take-back="edits.takeBack($event)" />
      <v-btn v-if="!table.rollUp" @click="addRecord">Add a record</v-btn>
      <v-btn @click="isAdding = true">Add a column</v-btn>
      <v-btn @click="write(null)">New figure<kbd>G</kbd></v-btn>
      <v-btn @click="isRollingUp = true">Roll up</v-btn>
      <TakeOut :path="`/tables/${table.id}/file`" :records="table.records" label="Take out" />
      <v-btn class="primary" @click="makeGate">New gate<kbd>N</kbd></v-btn>
    </header>
    <div class="tools">
      <ListingTools :listing="listing" :columns="table.columns" @show="show" />
      <span class="second" role="status"><template v-if="order && listing.filters.length > 0"><b>{{ count(order.length) }}</b> of {{ counted(table.records, 'record') }}</template></span>
      <span class="space" />
      <v-menu v-if="hidden.length > 0" location="bottom end">
        <template #activator="{ props: menu }"><v-btn v-bind="menu" class="plain">{{ counted(hidden.length, 'hidden column') }}</v-btn></template>
        <v-list density="compact"><v-list-item v-for="column in hidden" :key="column.id" :title="`Show ${column.name}`" @click="choice = shownAgain(choice, column.id)" /></v-list>
      </v-menu>
      <TotalsLine v-if="table.rollUp && listing.filters.length === 0" :table="table" />
      <router-link v-if="members" :to="members" class="v-btn plain">Its records</router-link>
      <v-btn v-if="focused && !table.rollUp" class="plain" @click="removeRecords">Remove {{ chosen > 1 ? `${count(chosen)} records` : 'the record' }}</v-btn>
      <v-btn v-if="focused" class="plain" :aria-pressed="showsRecord" @click="showsRecord = !showsRecord">{{ showsRecord ? 'Hide' : 'Show' }} the record<kbd>R</kbd></v-btn>
    </div>
    <p v-if="trouble" class="notice problem" role="alert">{{ unlessAway(trouble) }}</p>
    <div class="records">
      <TableGrid
        v-if="order" ref="grid" :columns="columns" :widths="widths" :order="order" :sorts="listing.sorts" :cells="cells" :unkept="unkept" :reading="READING" :places="places" :sets="setOfColumn" :looks="looks" :by-hand="byHand" :want="want" :tick="tick"
        :empty="listing.filters.length > 0 ? 'No record is so. Take a filter away, or press Escape for all of them.' : 'This table has columns, but no record.'"
        @set="setCells" @computed="write" @fill="fill" @focus="focus" @widen="(column, pixels) => (choice = widened(choice, column, pixels))" @refused="notices.warn($event)"
      >
        <template #head="{ column, at }">
          <ColumnHead
            :column="column" :records="table.records" :profile="profile[column.id]" :listing="listing" :width="widths[at]!" :can-move="{ left: at > 0 && columns[at - 1]!.isIdentity === column.isIdentity, right: at < columns.length - 1 && columns[at + 1]!.isIdentity === column.isIdentity }"
            @sort="show(sortedBy(listing, column.id, $event))" @filter="(filter: Filter) => show(filteredBy(listing, filter))" @hide="choice = hiddenToo(choice, column.id)" @move="choice = movedColumn(table.columns, choice, column.id, $event)" @widen="choice = widened(choice, column.id, widths[at]! + $event)" @settings="isComputed(column) ? write(column) : (setting = column)" @remove="removeColumn(column)"
          />
        </template>
      </TableGrid>
      <p v-else class="second waiting" role="status">{{ table.figures === null && table.columns.some(isComputed) ? 'Computing the figures, and listing the records …' : 'Listing the records …' }}</p>
    </div>
    <FigureAside v-if="writing !== undefined" :key="writing?.id ?? 0" :table="table" :figure="writing" :record="focused?.record ?? null" :who="who" :change="edits.change" @close="leaveAside" @kept="figureKept" @draw="draw" />
    <DrawnAside v-else-if="drawing" :key="drawing.column?.id ?? 0" :table="table" :column="drawing.column" :begun="drawing.begun" :record="focused?.record ?? null" :who="who" :change="edits.change" @close="leaveAside" @kept="figureKept" />
    <RecordAside v-else-if="showsRecord && focused" :table-id="table.id" :record="focused.record" :columns="table.columns" :cells="cells.get(focused.record)" :focused="focused.column" :tick="tick" @close="showsRecord = false" />
    <RollUpDialog v-if="isRollingUp" :table="table" @close="isRollingUp = false" />
    <NewGateDialog v-if="isMaking" :table-id="table.id" :taken="gateNames" @close="isMaking = false" />
    <ColumnDialog v-if="setting || isAdding" :key="setting?.id ?? 0" :column="setting" @keep="keepColumn" @close="setting = null; isAdding = false" />
    <QuarrelDialog v-if="quarrel" :quarrel="quarrel" :columns="table.columns" @settle="edits.settle($event)" />
  </section>
  <p v-else class="second waiting" role="status">Opening the table …</p>
</template>

<style scoped>
.table-page { display: grid; grid-template-rows: auto auto minmax(240px, 1fr); grid-template-columns: minmax(0, 1fr); height: calc(100dvh - 48px); }
.beside { grid-template-columns: minmax(0, 1fr) 320px; }
.beside.writing { grid-template-columns: minmax(0, 1fr) 404px; }
header, .tools, .table-page > .notice { grid-column: 1 / -1; }
header { display: flex; align-items: center; gap: 6px 10px; padding: 10px 20px 6px; }
.from { flex: 0 1000 auto; min-width: 0; padding-left: 4px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
h1 { flex: none; max-width: 40%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
header .v-btn, .kept { flex: none; }
.space { flex: 1; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 12px; min-height: 40px; padding: 2px 20px 6px; }
.records { min-height: 0; border-top: 1px solid var(--hairline); }
.trouble-page, .waiting { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; }
@media (max-width: 1000px) {
  header { flex-wrap: wrap; }
  .from { white-space: normal; }
  h1 { max-width: 100%; }
}
@media (max-width: 640px) {
  .beside, .beside.writing { grid-template-columns: minmax(0, 1fr); grid-template-rows: auto auto minmax(200px, 1fr) minmax(200px, 1fr); }
  header, .tools { padding-inline: 12px; }
}
</style>
