<script setup lang="ts">
/** The bench: one gate on one table, with the counts and the records that follow it. */
import { tableSchema, type Table } from '@dime-gate/contract/table'
import { addCut, type Edit, editBand, type End, moveCut, recolour, removeCut, setEnd, setOwner } from '@dime-gate/core/gate/edit-scale'
import type { Bound } from '@dime-gate/core/gate/interval'
import type { PaletteName } from '@dime-gate/core/gate/palette'
import type { Band, ScaleGate } from '@dime-gate/core/gate/scale-gate'
import type { Tray } from '@dime-gate/core/run/scale-result'
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import RecordList from '../records/RecordList.vue'
import type { OpenedColumn, Order } from '../records/records-worker'
import { useRecordsWorker } from '../records/useRecordsWorker'
import { ask, messageOf } from '../shared/api'
import { count, counted } from '../shared/format'
import { useNotices } from '../shared/notices'
import { useShortcuts } from '../shared/useShortcuts'
import { useTitle } from '../shared/useTitle'
import { refusalWords, trayWords, withUnit } from '../shared/words'
import BandTable from './BandTable.vue'
import BindingField from './BindingField.vue'
import CutLine from './CutLine.vue'
import CutPanel from './CutPanel.vue'
import { useDraft } from './draft'
import EndField from './EndField.vue'
import { middleOfBand } from './line-geometry'
import { useLiveCounts } from './useLiveCounts'

const props = defineProps<{ id: number }>()
const router = useRouter()
const notices = useNotices()
const bench = useDraft()
const worker = useRecordsWorker()

const table = shallowRef<Table | null>(null)
const opened = shallowRef<OpenedColumn | null>(null)
const trouble = ref('')
const refused = ref('')
const selected = ref<number | null>(null)
const tray = shallowRef<Tray>({ kind: 'all' })
const order = ref<Order>('table')
const total = ref(0)
const isBusy = ref(false)
const line = useTemplateRef('line')

const gate = computed(() => bench.draft?.gate ?? null)
const binding = computed(() => (bench.draft ? `${bench.draft.tableId} ${bench.draft.columnId}` : null))
const column = computed(() => table.value?.columns.find(({ id }) => id === bench.draft?.columnId) ?? null)
const { counts, tick } = useLiveCounts(worker, gate, computed(() => opened.value !== null))
useTitle(() => gate.value?.name)

bench.open(props.id).catch((error) => (trouble.value = messageOf(error)))
onBeforeUnmount(() => bench.stored && void bench.keep())
window.addEventListener('beforeunload', warnOfLoss)
onBeforeUnmount(() => window.removeEventListener('beforeunload', warnOfLoss))

watch(binding, async () => {
  if (!bench.draft) return
  const { tableId, columnId } = bench.draft
  opened.value = null
  try {
    table.value = await ask(tableSchema, `/tables/${tableId}`)
    opened.value = await worker.open(`/api/tables/${tableId}/columns/${columnId}`)
  } catch (error) {
    trouble.value = messageOf(error)
  }
}, { immediate: true })

// A tray may vanish with its band or cut.
watch(gate, (now) => {
  if (!now) return
  if (selected.value !== null && selected.value >= now.cuts.length) selected.value = null
  if ((tray.value.kind === 'band' && tray.value.band >= now.bands.length) || (tray.value.kind === 'cut' && tray.value.cut >= now.cuts.length)) tray.value = { kind: 'all' }
})

const listTick = ref(0)
watch([tray, order, tick], async () => {
  if (tick.value === 0) return
  total.value = await worker.list({ ...tray.value }, order.value)
  listTick.value++
})

function rows(from: number, to: number) {
  return worker.window(from, to).then((window) => window.rows)
}

function edit(next: Edit, step: string | null = null): void {
  if ('refused' in next) {
    refused.value = refusalWords(next.refused)
    return
  }
  refused.value = ''
  bench.change({ gate: next.gate }, step)
}

const change = (next: ScaleGate) => edit({ gate: next })

function move(cut: number, at: string, step: string): void {
  edit(moveCut(gate.value!, cut, at), step)
}

function add(at: string): void {
  edit(addCut(gate.value!, at))
  selected.value = gate.value!.cuts.findIndex((cut) => cut.at === at)
}

function addInTheMiddle(): void {
  if (line.value) add(middleOfBand(gate.value!, line.value.scale, opened.value?.places ?? 0, tray.value.kind === 'band' ? tray.value.band : null))
}

function remove(cut: number, keep: 'below' | 'above' = 'below'): void {
  change(removeCut(gate.value!, cut, keep))
}

function changeOwner(cut: number, owner?: 'below' | 'above'): void {
  const next = owner ?? (gate.value!.cuts[cut]!.owner === 'above' ? 'below' : 'above')
  change(setOwner(gate.value!, cut, next))
}

function end(which: End, bound: Bound | null): void {
  edit(setEnd(gate.value!, which, bound))
}

function editOneBand(band: number, look: Partial<Band>): void {
  change(editBand(gate.value!, band, look))
}

function rename(event: Event): void {
  const input = event.target as HTMLInputElement
  const name = input.value.trim()
  if (name === '') input.value = gate.value!.name
  else if (name !== gate.value!.name) change({ ...gate.value!, name })
}

function bind(tableId: number, columnId: number, input: ScaleGate['input']): void {
  bench.change({ tableId, columnId, gate: { ...gate.value!, input } })
}

async function setVersion(): Promise<void> {
  await busily(async () => {
    await bench.setVersion()
    notices.say(`Version ${bench.stored!.latestVersion} is set. The draft goes on from it.`)
  })
}

async function keepRun(): Promise<void> {
  await busily(async () => {
    const run = await bench.keepRun()
    await router.push(`/runs/${run.id}`)
  })
}

async function busily(work: () => Promise<void>): Promise<void> {
  if (isBusy.value) return
  isBusy.value = true
  try {
    await work()
  } catch (error) {
    notices.warn(messageOf(error))
  } finally {
    isBusy.value = false
  }
}

/** A change of the last moment still goes out; only what cannot be kept holds the page back. */
function warnOfLoss(event: BeforeUnloadEvent): void {
  if (bench.stored && bench.keeping.state === 'keeping') void bench.keep()
  if (bench.keeping.state === 'stale' || bench.keeping.state === 'failed') event.preventDefault()
}

const draftWords = computed(() => {
  const { latestVersion } = bench.stored ?? { latestVersion: 0 }
  if (bench.keeping.state === 'keeping') return 'keeping the draft …'
  if (latestVersion === 0) return 'draft, no version set yet'
  return bench.isNew ? `draft after version ${latestVersion}` : `same as version ${latestVersion}`
})

const shortcuts = { u: bench.undo, U: bench.redo, c: addInTheMiddle, s: () => bench.isNew && void setVersion(), k: () => bench.stored?.latestVersion && void keepRun(), Escape: () => (tray.value = { kind: 'all' }) }
useShortcuts(shortcuts)

const trays = computed<{ tray: Tray; records: number }[]>(() => {
  if (!counts.value || !gate.value) return []
  const { onCut, held, unplaced, unreadable, records } = counts.value
  const always: { tray: Tray; records: number }[] = [
    { tray: { kind: 'all' }, records },
    { tray: { kind: 'on-a-cut' }, records: onCut.reduce((sum, one) => sum + one, 0) },
    { tray: { kind: 'held' }, records: held },
    { tray: { kind: 'unreadable' }, records: unreadable },
    { tray: { kind: 'unplaced' }, records: unplaced },
  ]
  const { kind } = tray.value
  if (kind === 'band' || kind === 'cut') always.splice(1, 0, { tray: tray.value, records: total.value })
  return always
})
</script>

<template>
  <section v-if="trouble" class="trouble-page"><h1>The bench cannot be set up</h1><p class="notice problem" role="alert">{{ trouble }}</p><router-link to="/">Go to the desk</router-link></section>
  <section v-else-if="gate && table && column" class="bench">
    <header>
      <h1 class="visually-hidden">{{ gate.name }}</h1>
      <input class="title" :value="gate.name" aria-label="Name of the gate" maxlength="120" :size="Math.max(6, gate.name.length)" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()">
      <span class="pill">scale</span>
      <span class="second on">on <router-link :to="`/tables/${table.id}`"><b>{{ table.name }}</b></router-link>, {{ counted(table.records, 'record') }}</span>
      <span class="space" />
      <span class="second state" data-state="draft" role="status">{{ draftWords }}</span>
      <v-btn :disabled="bench.past.length === 0" @click="bench.undo">Undo<kbd>U</kbd></v-btn>
      <v-btn :disabled="bench.future.length === 0" aria-label="Redo" @click="bench.redo">Redo<kbd>⇧U</kbd></v-btn>
      <v-btn v-if="bench.isNew" class="primary" :disabled="isBusy" @click="setVersion">Set version {{ (bench.stored?.latestVersion ?? 0) + 1 }}<kbd>S</kbd></v-btn>
      <v-btn v-if="bench.stored?.latestVersion" :class="{ primary: !bench.isNew }" :disabled="isBusy" @click="keepRun">Keep a run<template v-if="bench.isNew"> of v{{ bench.stored.latestVersion }}</template><kbd>K</kbd></v-btn>
    </header>

    <div v-if="bench.keeping.state === 'stale' || bench.keeping.state === 'failed'" class="notice problem keeping" role="alert">
      <span>{{ bench.keeping.message }} <template v-if="bench.keeping.state === 'stale'">Your changes are still here; choose which to go on with.</template></span>
      <template v-if="bench.keeping.state === 'stale'">
        <v-btn @click="bench.settle('theirs')">Take the other</v-btn>
        <v-btn @click="bench.settle('mine')">Keep mine</v-btn>
      </template>
      <v-btn v-else @click="bench.tryAgain">Try again</v-btn>
    </div>

    <div class="work">
      <div class="scale">
        <div class="facts second">
          <span>looks at <BindingField :table="table" :column="column" @bind="bind" /></span>
          <EndField end="floor" :bound="gate.floor" :suggestion="String(Math.min(0, opened?.histogram?.from ?? 0))" @change="end('floor', $event)" />
          <EndField end="ceiling" :bound="gate.ceiling" :suggestion="String(Math.max(100, opened?.histogram?.to ?? 100))" @change="end('ceiling', $event)" />
          <span>blanks are <b>held</b></span>
          <span class="space" />
          <button class="plain-button act" type="button" @click="addInTheMiddle">Add a cut<kbd>C</kbd></button>
        </div>
        <p v-if="refused" class="refused trouble" role="alert">{{ refused }} <button class="plain-button second" type="button" aria-label="Dismiss" @click="refused = ''">×</button></p>
        <CutLine
          ref="line" :gate="gate" :counts="counts" :spread="opened?.histogram ?? null" :places="opened?.places ?? 0" :selected="selected"
          @select="selected = $event" @move="move" @moved="bench.endStep" @add="add" @owner="changeOwner" @remove="remove" @on-cut="tray = { kind: 'cut', cut: $event }"
        />
        <BandTable :gate="gate" :counts="counts" :tray="tray" @show="tray = $event" @edit="editOneBand" />
      </div>
      <CutPanel class="beside" :gate="gate" :counts="counts" :selected="selected" :tray="tray" @owner="changeOwner" @remove="remove" @palette="(name: PaletteName) => change(recolour(gate!, name))" @show="tray = $event" />
    </div>

    <div class="records">
      <div class="tabs" role="group" aria-label="Which records">
        <h2>Records</h2>
        <button v-for="{ tray: one, records } in trays" :key="one.kind" class="plain-button tab" :class="{ here: one.kind === tray.kind }" type="button" :aria-pressed="one.kind === tray.kind" :data-tab="one.kind" @click="tray = one">{{ trayWords(one, gate) }} {{ count(records) }}</button>
        <span class="space" />
        <span class="second">{{ order === 'table' ? 'in table order' : `sorted by ${withUnit(column.name, column.unit)}, ${order}` }}<template v-if="tray.kind !== 'all'"> · <kbd>Esc</kbd> shows all</template></span>
      </div>
      <RecordList :key="table.id" :table-id="table.id" :columns="table.columns" :column-id="column.id" :bands="gate.bands" :total="total" :rows="rows" :tick="listTick" :order="order" empty="No record is here now. Move a cut, or choose another tray." @order="order = $event" />
    </div>
  </section>
  <p v-else class="second waiting" role="status">Setting up the bench …</p>
</template>

<style scoped>
.bench { display: grid; grid-template-rows: auto auto auto minmax(180px, 1fr); height: calc(100dvh - 48px); min-height: 640px; }
header { grid-row: 1; display: flex; align-items: center; gap: 10px; padding: 10px 20px 6px; min-width: 0; }
.title { font: inherit; font-size: 21px; font-weight: 700; letter-spacing: -0.01em; color: var(--ink); background: none; border: 1px solid transparent; border-radius: 3px; padding: 0 2px; margin-left: -3px; min-width: 90px; max-width: 340px; text-overflow: ellipsis; field-sizing: content; }
.title:hover { border-color: var(--hairline); }
.on { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; min-width: 60px; }
.on a { color: var(--ink); text-decoration: none; }
.state { white-space: nowrap; }
.space { flex: 1; }
.keeping { grid-row: 2; display: flex; gap: 12px; align-items: center; margin: 0 20px 6px; }
.work { grid-row: 3; display: grid; grid-template-columns: minmax(0, 1fr) 318px; min-height: 0; }
.scale { padding: 0 16px 10px 20px; min-width: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
.facts b { color: var(--ink); }
.act { color: var(--pine); font-weight: 600; }
.refused { padding: 2px 0; }
.beside { padding: 4px 20px 10px 18px; border-left: 1px solid var(--hairline); }
.scale :deep(.bands) { max-height: 204px; overflow: auto; }
.records { grid-row: 4; display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-top: 1px solid var(--hairline); background: var(--sheet); }
.tabs { display: flex; flex-wrap: wrap; align-items: baseline; gap: 4px 16px; padding: 8px 20px 4px; }
.tabs h2 { color: var(--ink); font-size: 14px; font-weight: 700; }
.tab { color: var(--second); padding-bottom: 2px; border-bottom: 2px solid transparent; }
.tab.here { color: var(--ink); font-weight: 700; border-bottom-color: var(--brass); }
.tabs kbd { margin: 0; }
.trouble-page { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; max-width: 640px; }
.waiting { padding: 40px 20px; }
@media (max-width: 980px) {
  .bench { height: auto; grid-template-rows: auto auto auto 480px; }
  .work { grid-template-columns: minmax(0, 1fr); }
  .beside { border-left: 0; padding-left: 20px; }
  header { flex-wrap: wrap; }
}
</style>
