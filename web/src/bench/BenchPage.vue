<script setup lang="ts">
/** The bench: one gate on one table, with the counts and the records that follow it. */
import { API } from '@dime-gate/contract/api'
import { bindingSchema } from '@dime-gate/contract/binding'
import { tableSchema, type Table } from '@dime-gate/contract/table'
import { addCut, type Edit, editBand, type End, moveCut, recolour, removeCut, setEnd, setOwner } from '@dime-gate/core/gate/edit-scale'
import type { Bound } from '@dime-gate/core/gate/interval'
import type { PaletteName } from '@dime-gate/core/gate/palette'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { Band } from '@dime-gate/core/gate/scale-gate'
import type { Tray } from '@dime-gate/core/run/scale-result'
import { proxy } from 'comlink'
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import type { OpenedColumn } from '../records/records-worker'
import { useRecordsWorker } from '../records/useRecordsWorker'
import { ask, askWith, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { count } from '../shared/format'
import { useShortcuts } from '../shared/useShortcuts'
import { useTitle } from '../shared/useTitle'
import { refusalWords } from '../shared/words'
import BandTable from './BandTable.vue'
import BenchHeader from './BenchHeader.vue'
import BenchRecords from './BenchRecords.vue'
import BindingField from './BindingField.vue'
import CutLine from './CutLine.vue'
import CutPanel from './CutPanel.vue'
import DraftTrouble from './DraftTrouble.vue'
import EndField from './EndField.vue'
import { provideDraft, useGateDraft } from './gate-draft'
import { middleOfBand } from './line-geometry'
import { useLiveCounts } from './useLiveCounts'

/** @property on the table to look at; null where the address says none */
const props = defineProps<{ id: number; on: number | null }>()
const bench = provideDraft(useGateDraft(props.id))
const router = useRouter()
const worker = useRecordsWorker()
const notices = useNotices()

const table = shallowRef<Table | null>(null)
const opened = shallowRef<OpenedColumn | null>(null)
const trouble = ref('')
/** Counts up with every try to set up the bench. */
const attempt = ref(0)
const refused = ref('')
/** Records whose values have come so far. */
const fetched = ref(0)
const selected = ref<number | null>(null)
const tray = shallowRef<Tray>({ kind: 'all' })
const line = useTemplateRef('line')

const gate = computed(() => bench.draft?.gate ?? null)
const columnId = computed(() => (gate.value && bench.draft ? (bench.draft.inputs[gate.value.on]?.column ?? null) : null))
const column = computed(() => table.value?.columns.find(({ id }) => id === columnId.value) ?? null)
const { counts, tick } = useLiveCounts(worker, gate, computed(() => opened.value !== null))
useTitle(() => gate.value?.name)
useShortcuts({ c: addInTheMiddle, Escape: () => (tray.value = { kind: 'all' }) })

void setUp()
onBeforeUnmount(() => bench.stored && void bench.keep())
window.addEventListener('beforeunload', warnOfLoss)
onBeforeUnmount(() => window.removeEventListener('beforeunload', warnOfLoss))

watch([columnId, attempt], async ([id]) => {
  if (id === null) return
  const { tableId } = bench.binding!
  opened.value = null
  fetched.value = 0
  try {
    table.value ??= await ask(tableSchema, `/tables/${tableId}`)
    // Of two columns that are asked for one after the other the later one counts.
    opened.value = (await worker.open(`${API}/tables/${tableId}/columns/${id}`, proxy((records: number) => (fetched.value = records)))) ?? opened.value
  } catch (error) {
    trouble.value = messageOf(error)
  }
}, { immediate: true })

// A tray may vanish with its band or cut.
watch(gate, (now) => {
  // What was refused of an earlier gate is of no interest now.
  refused.value = ''
  if (!now) return
  if (selected.value !== null && selected.value >= now.cuts.length) selected.value = null
  const { value: shown } = tray
  if ((shown.kind === 'band' && shown.band >= now.bands.length) || (shown.kind === 'cut' && shown.cut >= now.cuts.length)) tray.value = { kind: 'all' }
})

function edit(next: Edit, step: string | null = null): void {
  if ('refused' in next) {
    refused.value = refusalWords(next.refused)
    return
  }
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

/** An address that says no table stands for the one that was bound last, and says so from then on: going back leads to where one was. */
async function setUp(): Promise<void> {
  trouble.value = ''
  try {
    if (props.on !== null) return await bench.open(props.on)
    const [last] = await ask(z.array(bindingSchema), `/gates/${props.id}/bindings`)
    if (!last) throw new Error('This gate is not bound to any table yet.')
    await router.replace({ query: { on: last.tableId } })
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

function tryAgain(): void {
  attempt.value++
  void setUp()
}

/** Another column of this table stands for the input from here on; on another table the gate gets a bench of its own. */
async function bind(tableId: number, chosen: number): Promise<void> {
  const inputs = { ...bench.draft!.inputs, [gate.value!.on]: { column: chosen } }
  if (tableId === table.value!.id) return bench.change({ inputs })
  try {
    await bench.keep()
    const known = (await ask(z.array(bindingSchema), `/gates/${props.id}/bindings`)).find((one) => one.tableId === tableId)
    await askWith(bindingSchema, 'PUT', `/gates/${props.id}/bindings/${tableId}`, { inputs: { [gate.value!.on]: { column: chosen } }, seen: known?.version ?? 0 })
    await router.push({ query: { on: tableId } })
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
  <section v-if="trouble" class="trouble-page"><h1>The bench cannot be set up</h1><p class="notice problem" role="alert">{{ trouble }}</p><p class="ways"><v-btn @click="tryAgain">Try again</v-btn><router-link to="/">Go to the desk</router-link></p></section>
  <section v-else-if="gate && table && column" class="bench">
    <BenchHeader :table="table" :name="gate.name" @rename="change({ ...gate, name: $event })" />
    <DraftTrouble class="kept" />
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
        <div v-if="!opened" class="fetching" role="status">
          <p class="second">Fetching <b>{{ column.name }}</b>: <span class="figure">{{ count(fetched) }}</span> of <span class="figure">{{ count(table.records) }}</span> values</p>
          <v-progress-linear :model-value="(100 * fetched) / Math.max(1, table.records)" color="primary" height="3" />
        </div>
        <CutLine
          v-else ref="line" :gate="gate" :counts="counts" :spread="opened.histogram" :places="opened.places" :selected="selected"
          @select="selected = $event" @move="move" @moved="bench.endStep" @add="add" @owner="changeOwner" @remove="remove" @on-cut="tray = { kind: 'cut', cut: $event }"
        />
        <BandTable :gate="gate" :counts="counts" :tray="tray" @show="tray = $event" @edit="editOneBand" />
      </div>
      <CutPanel class="beside" :gate="gate" :counts="counts" :selected="selected" :tray="tray" @owner="changeOwner" @remove="remove" @palette="(name: PaletteName) => change(recolour(gate!, name))" @show="tray = $event" />
    </div>
    <BenchRecords v-model="tray" class="records" :table="table" :column="column" :gate="gate" :counts="counts" :worker="worker" :tick="tick" />
  </section>
  <p v-else class="second waiting" role="status">Setting up the bench …</p>
</template>

<style scoped>
.bench { display: grid; grid-template-rows: auto auto auto minmax(180px, 1fr); grid-template-columns: minmax(0, 1fr); height: calc(100dvh - 48px); min-height: 640px; }
.kept { grid-row: 2; }
.work { grid-row: 3; display: grid; grid-template-columns: minmax(0, 1fr) 318px; min-height: 0; }
.records { grid-row: 4; }
.scale { position: relative; padding: 0 16px 10px 20px; min-width: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
.facts b { color: var(--ink); }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; }
.fetching { display: grid; align-content: center; gap: 8px; height: 208px; max-width: 420px; }
.refused { position: absolute; top: 1px; right: 128px; z-index: 3; max-width: 60%; padding: 3px 10px; background: var(--sheet); border: 1px solid var(--brick); border-radius: 4px; }
.beside { padding: 4px 20px 10px 18px; border-left: 1px solid var(--hairline); }
.scale :deep(.bands) { max-height: 204px; overflow: auto; }
.trouble-page { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; max-width: 640px; }
.ways { display: flex; gap: 16px; align-items: center; }
.waiting { padding: 40px 20px; }
@media (max-width: 980px) {
  .bench { height: auto; grid-template-rows: auto auto auto 480px; }
  .work { grid-template-columns: minmax(0, 1fr); }
  .beside { border-left: 0; padding-left: 20px; }
}
</style>
