<script setup lang="ts">
/** The bench's records: those of the chosen tray, with what the draft makes of each. */
import type { Column, Table } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { ScaleCounts, Tray } from '@dime-gate/core/run/scale-result'
import type { Remote } from 'comlink'
import { computed, ref, watch } from 'vue'
import RecordList from '../records/RecordList.vue'
import type { Order } from '../records/in-order'
import type { RecordsWorker } from '../records/records-worker'
import TrayTabs from '../records/TrayTabs.vue'
import { useThrottled } from '../shared/useThrottled'
import { withUnit } from '../shared/words'

const props = defineProps<{
  table: Table
  column: Column
  gate: ScaleGate
  counts: ScaleCounts | null
  worker: Remote<RecordsWorker>
  /** Changes whenever the worker has decided anew; 0 before the first time. */
  tick: number
}>()
const tray = defineModel<Tray>({ required: true })
const bands = computed(() => bandsOf(props.gate))

const order = ref<Order>('table')
const total = ref(0)
const listTick = ref(0)

async function list(): Promise<void> {
  if (props.tick === 0) {
    total.value = 0
    return
  }
  total.value = await props.worker.list({ ...tray.value }, order.value)
  listTick.value++
}
watch([tray, order], list)
// While a cut is dragged the counts go first; the records follow a few times a second.
watch(() => props.tick, useThrottled(list, 90), { immediate: true })

const trays = computed(() => {
  if (!props.counts) return []
  const { onCut, held, unplaced, unreadable, records } = props.counts
  const all: { tray: Tray; records: number }[] = [
    { tray: { kind: 'all' }, records },
    { tray: { kind: 'on-a-cut' }, records: onCut.reduce((sum, one) => sum + one, 0) },
    { tray: { kind: 'held' }, records: held },
    { tray: { kind: 'unreadable' }, records: unreadable },
    { tray: { kind: 'unplaced' }, records: unplaced },
  ]
  const { kind } = tray.value
  if (kind === 'band' || kind === 'cut') all.splice(1, 0, { tray: tray.value, records: total.value })
  return all
})
</script>

<template>
  <div class="records">
    <TrayTabs :gate="gate" :trays="trays" :chosen="tray" @choose="tray = $event">
      {{ order === 'table' ? 'in table order' : `sorted by ${withUnit(column.name, column.unit)}, ${order}` }}<template v-if="tray.kind !== 'all'"> · <kbd>Esc</kbd> shows all</template>
    </TrayTabs>
    <RecordList :key="table.id" :table-id="table.id" :columns="table.columns" :column-id="column.id" :bands="bands" :total="total" :rows="worker.window" :tick="listTick" :order="order" :empty="tick === 0 ? 'The records follow once their values are here.' : 'No record is here now. Move a cut, or choose another tray.'" @order="order = $event" />
  </div>
</template>

<style scoped>
.records { display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-top: 1px solid var(--hairline); background: var(--sheet); }
</style>
