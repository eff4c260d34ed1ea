<script setup lang="ts">
/** The bench: one gate on one table, with the counts and the records that follow it. */
import { tableSchema, type Table } from '@dime-gate/contract/table'
import { addCut, type Edit, editBand, type End, moveCut, recolour, removeCut, setEnd, setOwner } from '@dime-gate/core/gate/edit-scale'
import type { Bound } from '@dime-gate/core/gate/interval'
import type { PaletteName } from '@dime-gate/core/gate/palette'
import type { Input, ScaleGate } from '@dime-gate/core/gate/document'
import type { Band } from '@dime-gate/core/gate/scale-gate'
import type { Tray } from '@dime-gate/core/run/scale-result'
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { OpenedColumn } from '../records/records-worker'
import { useRecordsWorker } from '../records/useRecordsWorker'
import { ask, messageOf } from '../shared/api'
import { useShortcuts } from '../shared/useShortcuts'
import { useTitle } from '../shared/useTitle'
import { refusalWords } from '../shared/words'
import BandTable from './BandTable.vue'
import BenchHeader from './BenchHeader.vue'
import BenchRecords from './BenchRecords.vue'
import BindingField from './BindingField.vue'
import CutLine from './CutLine.vue'
import CutPanel from './CutPanel.vue'
import { useDraft } from './draft'
import DraftTrouble from './DraftTrouble.vue'
import EndField from './EndField.vue'
import { middleOfBand } from './line-geometry'
import { useLiveCounts } from './useLiveCounts'

const props = defineProps<{ id: number }>()
const bench = useDraft()
const worker = useRecordsWorker()

const table = shallowRef<Table | null>(null)
const opened = shallowRef<OpenedColumn | null>(null)
const trouble = ref('')
const refused = ref('')
const selected = ref<number | null>(null)
const tray = shallowRef<Tray>({ kind: 'all' })
const line = useTemplateRef('line')

const gate = computed(() => bench.draft?.gate ?? null)
const binding = computed(() => (bench.draft ? `${bench.draft.tableId} ${bench.draft.columnId}` : null))
const column = computed(() => table.value?.columns.find(({ id }) => id === bench.draft?.columnId) ?? null)
const { counts, tick } = useLiveCounts(worker, gate, computed(() => opened.value !== null))
useTitle(() => gate.value?.name)
useShortcuts({ c: addInTheMiddle, Escape: () => (tray.value = { kind: 'all' }) })

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
  const { value: shown } = tray
  if ((shown.kind === 'band' && shown.band >= now.bands.length) || (shown.kind === 'cut' && shown.cut >= now.cuts.length)) tray.value = { kind: 'all' }
})

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

function bind(tableId: number, columnId: number, input: Input): void {
  bench.change({ tableId, columnId, gate: { ...gate.value!, inputs: [input], on: input.name } })
}

/** A change of the last moment still goes out; only what cannot be kept holds the page back. */
function warnOfLoss(event: BeforeUnloadEvent): void {
  if (bench.stored && bench.keeping.state === 'keeping') void bench.keep()
  if (bench.keeping.state === 'stale' || bench.keeping.state === 'failed') event.preventDefault()
}
</script>

<template>
  <section v-if="trouble" class="trouble-page"><h1>The bench cannot be set up</h1><p class="notice problem" role="alert">{{ trouble }}</p><router-link to="/">Go to the desk</router-link></section>
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
        <CutLine
          ref="line" :gate="gate" :counts="counts" :spread="opened?.histogram ?? null" :places="opened?.places ?? 0" :selected="selected"
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
.scale { padding: 0 16px 10px 20px; min-width: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
.facts b { color: var(--ink); }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; }
.refused { padding: 2px 0; }
.beside { padding: 4px 20px 10px 18px; border-left: 1px solid var(--hairline); }
.scale :deep(.bands) { max-height: 204px; overflow: auto; }
.trouble-page { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; max-width: 640px; }
.waiting { padding: 40px 20px; }
@media (max-width: 980px) {
  .bench { height: auto; grid-template-rows: auto auto auto 480px; }
  .work { grid-template-columns: minmax(0, 1fr); }
  .beside { border-left: 0; padding-left: 20px; }
}
</style>
