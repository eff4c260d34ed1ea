<script setup lang="ts">
/** The bench's records: those of the chosen tray, with what the draft makes of each. */
import { columnsBound } from '@dime-gate/contract/binding'
import { columnsAsked } from '@dime-gate/contract/question'
import type { Cell, Table } from '@dime-gate/contract/table'
import type { Counts } from '@dime-gate/core/result/counts'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import type { LabelLook, Tray } from '@dime-gate/core/result/tray'
import type { Remote } from 'comlink'
import { computed, ref, shallowRef, watch } from 'vue'
import HighlightChips from '../highlight/HighlightChips.vue'
import { columnsBeside, pointedColumns } from '../highlight/pointed-columns'
import RecordList from '../records/RecordList.vue'
import type { Order } from '../records/order'
import type { RecordsWorker } from '../records/records-worker'
import type { Asked } from '../records/session'
import type { ToldHighlights } from '../records/session-highlights'
import TrayTabs from '../records/TrayTabs.vue'
import { handOf } from '../run/by-hand'
import { useByHand } from '../run/useByHand'
import { useSteady } from '../shared/useSteady'
import { useThrottled } from '../shared/useThrottled'
import { withUnit } from '../shared/words'

const props = defineProps<{
  table: Table
  gateId: number
  asked: Asked
  labels: LabelLook[]
  counts: Counts | null
  session: Remote<RecordsWorker>
  /** Changes whenever the worker has decided anew; 0 before the first time. */
  tick: number
  /** Inputs that are pointed out, each by its line. */
  lines?: ReadonlyMap<string, string>
  highlights: readonly Highlight[]
  told: ToldHighlights | null
  /** Changes whenever records may be pointed out otherwise. */
  pointed: number
}>()
const emit = defineEmits<{ pick: [record: number, cells: Cell[]]; sorted: [column: number | null] }>()
const tray = defineModel<Tray>({ required: true })
/** By column the line of its input, where that is pointed out. */
const columnLines = useSteady(() => [...(props.lines ?? [])].flatMap(([name, line]) => { const bound = props.asked.inputs[name]; return bound ? columnsBound(bound).map((id): [number | string, string] => [id, line]) : [[name, line] as [number | string, string]] }))
/** What is pointed out comes first. */
const looked = useSteady(() => columnsBeside([...columnLines.value.flatMap(([id]) => (typeof id === 'number' ? [id] : [])), ...columnsAsked(props.asked)], props.highlights, props.asked.inputs, props.told))

const overrides = useByHand(() => [{ key: props.gateId, gateId: props.gateId, tableId: props.table.id }])
const outcome = computed(() => props.asked.gate.outcomes[0]!.name)
const byHand = computed(() => new Map((overrides.value.get(props.gateId) ?? []).flatMap((one) => handOf(one, outcome.value))))
const inputs = useSteady(() => props.asked.gate.inputs)
const bound = useSteady(() => props.asked.inputs)
const standsFor = (input: string) => pointedColumns(input, bound.value, props.told)
const as = useSteady(() => ({ version: props.table.version, asOf: props.asked.asOf }))
/** How many of their values are blank moves with every correction, and is told elsewhere. */
const columns = useSteady(() => props.table.columns.map((column) => ({ ...column, blank: 0, unreadable: 0 })))
const order = shallowRef<Order>(null)
const total = ref(0)
const listTick = ref(0)

function takeOrder(next: Order): void {
  order.value = next
  emit('sorted', next?.column ?? null)
}

async function list(): Promise<void> {
  if (props.tick === 0) {
    total.value = 0
    return
  }
  total.value = await props.session.list({ ...tray.value }, order.value && { ...order.value })
  listTick.value++
}
watch([tray, order, () => props.pointed], list)
// While a cut is dragged the counts go first; the records follow a few times a second.
watch(() => props.tick, useThrottled(list, 90), { immediate: true })

const trays = computed(() => {
  if (!props.counts) return []
  const all: { tray: Tray; records: number }[] = [{ tray: { kind: 'all' }, records: props.counts.records }]
  return tray.value.kind === 'all' ? all : [{ tray: tray.value, records: total.value }, ...all]
})
const emptyWords = computed(() => {
  if (props.tick === 0) return 'The records follow once their values are here.'
  return tray.value.kind === 'where' ? 'No record of this table lies there yet. The finding’s own example is one that would.' : 'No record is here now. Choose another tray.'
})
const sortedBy = computed(() => {
  const column = order.value && props.table.columns.find(({ id }) => id === order.value!.column)
  return column ? `sorted by ${withUnit(column.name, column.unit)}, ${order.value!.direction}` : tray.value.kind === 'nearest' ? 'nearest first' : 'in table order'
})
</script>

<template>
  <div class="records">
    <TrayTabs :gate="asked.gate" :trays="trays" :chosen="tray" @choose="tray = $event">
      {{ sortedBy }}<template v-if="tray.kind !== 'all'"> · <kbd>Esc</kbd> shows all</template>
    </TrayTabs>
    <HighlightChips v-if="highlights.length > 0" v-model="tray" :highlights="highlights" :told="told" />
    <RecordList :key="table.id" :table-id="table.id" :as="as" :figures="table.figures" :columns="columns" :looked="looked" :lines="columnLines" :inputs="inputs" :labels="labels" :highlights="highlights" :by-hand="byHand" :stands-for="standsFor" :total="total" :rows="session.window" :tick="listTick" :order="order" :empty="emptyWords" @order="takeOrder" @pick="(record, cells) => emit('pick', record, cells)" />
  </div>
</template>

<style scoped>
.records { display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-top: 1px solid var(--hairline); background: var(--sheet); }
.records:has(.chips) { grid-template-rows: auto auto minmax(0, 1fr); }
</style>
