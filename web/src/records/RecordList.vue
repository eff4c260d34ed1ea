<script setup lang="ts">
/** Records with what a gate makes of them, in rows, as many as there are; only those in view are fetched and drawn. */
import { type Cell, type Column, type RecordsRequest, isComputed } from '@dime-gate/contract/table'
import type { Input } from '@dime-gate/core/gate/document'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { computedInputs, type ListedRecord } from '@dime-gate/core/result/listed-record'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { isNumeric, isOnLine } from '@dime-gate/core/value/read-cell'
import type { ValueKind } from '@dime-gate/core/value/value'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, shallowRef, watch } from 'vue'
import { messageOf } from '../shared/api'
import { date, FIGURE_PLACES, number, roundedText } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { isTrouble, placeWords, reasonWords, valueWords, withUnit } from '../shared/words'
import { gridOf, widthOf } from './column-widths'
import type { Order } from './order'
import { useRecordCells } from './useRecordCells'

const props = defineProps<{
  tableId: number
  /** Of the table: as it stood then, or as a run kept it; and what counts as today in its figures. */
  as: Omit<RecordsRequest, 'records'>
  /** Moves whenever the table's figures are computed anew, also where its version stays. */
  figures?: number | null
  columns: Column[]
  /** The columns that the gate looks at; drawn beside the label. */
  looked?: number[]
  /** Columns by their ids, and computed inputs by their names, that are pointed out: by the line that is drawn under their heads. */
  lines?: [column: number | string, line: string][]
  /** Of the gate. */
  inputs: Input[]
  labels: LabelLook[]
  /** The columns that stand for an input, by its name. */
  standsFor?: (input: string) => readonly number[]
  /** By record what stands in place of its label; null for nothing. */
  byHand?: ReadonlyMap<number, { label: string | null; why: string }>
  /** What is pointed out, in the order in which records tell it. */
  highlights?: readonly Highlight[]
  total: number
  rows: (from: number, to: number) => Promise<ListedRecord[]>
  /** Changes when rows have to be asked for again. */
  tick: number
  order?: Order
  /** Whether it can be sorted by every column, and not by those alone that the gate looks at. */
  sortsAll?: boolean
  empty: string
}>()
defineSlots<{
  /** What stands behind the name of a column. */
  more?(props: { column: Column }): unknown
}>()
const emit = defineEmits<{ order: [order: Order]; pick: [record: number, cells: Cell[]] }>()

const ROW = 30
/** Columns before the reason, so that it is in view. */
const MOST_IN_FRONT = 4
const { cells, want, renew, forget } = useRecordCells(props.tableId, () => props.as)
watch(() => JSON.stringify([props.as, props.figures]), renew)
const scroller = ref<HTMLElement | null>(null)
const shown = shallowRef<{ from: number; rows: ListedRecord[] }>({ from: 0, rows: [] })
const trouble = ref('')

const virtual = useVirtualizer(computed(() => ({ count: props.total, getScrollElement: () => scroller.value, estimateSize: () => ROW, overscan: 12 })))
const span = computed(() => {
  const items = virtual.value.getVirtualItems()
  return { from: items[0]?.index ?? 0, to: (items.at(-1)?.index ?? -1) + 1 }
})

/** Who the record is comes first, then what was looked at; the rest follows in file order. */
const ordered = computed(() => {
  const looked = (props.looked ?? []).flatMap((id) => props.columns.find((one) => one.id === id) ?? [])
  const [who, ...others] = props.columns.filter((column) => !looked.includes(column))
  return [...(who ? [who] : []), ...looked, ...others]
})
const canSort = (column: Column) => props.order !== undefined && (props.sortsAll || isLooked(column))
const isLooked = (column: Column) => props.looked?.includes(column.id) ?? false
/** What is reckoned is measured on nothing: so wide are lengths of time in words. */
const LEAST_OF_KIND: Partial<Record<ValueKind, number>> = { 'years and months duration': 146, 'days and time duration': 118 }
const reckoned = computed(() => computedInputs(props.inputs))
/** Why to look comes after who it is, what was reckoned and what was looked at; where that are many columns, before those. */
const front = computed(() => {
  const looked = ordered.value.filter((column, index) => index === 0 || isLooked(column)).length
  return looked > MOST_IN_FRONT ? 1 : looked
})
const places = computed(() => ordered.value.map((column) => props.columns.indexOf(column)))
/** Measured on the first records that came, and then left alone: a list whose columns jump cannot be read. */
const sample = shallowRef<Cell[][]>([])
watch(() => props.columns, () => (sample.value = []))
watch(() => props.columns.map(({ id }) => id).join(), forget)
/** Apart from the labels, which change with every step of a drag. */
const measured = computed(() => ordered.value.map((column, index) => widthOf({
  // Where the list can be sorted, with room for the sign.
  head: `${canSort(column) ? '▼  ' : ''}${props.sortsAll ? '⋯⋯⋯' : ''}${withUnit(column.name, column.unit)}`, isFigure: isOnLine(column.type), least: 0, cells: sample.value.map((row) => cellText(column, row[places.value[index]!])),
})))
const widths = computed(() => {
  const label = widthOf({ head: 'Label', isFigure: false, least: 132, cells: (props.labels).map((one) => `${one.label}…`) })
  const reason = { pixels: props.inputs.length > 1 ? 200 : 150, isFigure: false }
  const figures = reckoned.value.map(({ name, unit, type }) => widthOf({ head: withUnit(name, unit), isFigure: type === 'number', least: LEAST_OF_KIND[type] ?? 80, cells: [] }))
  return gridOf([label, ...measured.value.slice(0, 1), ...figures, ...measured.value.slice(1, front.value), reason, ...measured.value.slice(front.value)])
})
const template = computed(() => widths.value.template)

let asking = 0
watch([span, () => props.tick, () => props.total], async () => {
  const { from, to } = span.value
  const mine = ++asking
  if (to <= from) {
    shown.value = { from: 0, rows: [] }
    return
  }
  try {
    const rows = await props.rows(from, to)
    // A later question was asked while this one was answered.
    if (mine !== asking) return
    shown.value = { from, rows }
    await want(rows.map(({ record }) => record))
    if (sample.value.length === 0) sample.value = rows.flatMap(({ record }) => (cells.has(record) ? [cells.get(record)!] : []))
    trouble.value = ''
  } catch (error) {
    trouble.value = messageOf(error)
  }
}, { immediate: true })

const drawn = computed(() => shown.value.rows.map(({ record, status, label, reasons, computed: figures, highlights }, index) => ({
  hand: props.byHand?.get(record) ?? null,
  handLook: props.labels.find(({ label: one }) => one === props.byHand?.get(record)?.label),
  met: highlights.flatMap((at) => props.highlights?.[at] ?? []),
  record,
  place: shown.value.from + index,
  status,
  label,
  look: props.labels.find((one) => one.label === label),
  reason: reasons.map((reason) => reasonWords(reason, { inputs: props.inputs }, label)).join('; '),
  isTrouble: reasons.some(isTrouble),
  figures: figures.map((text, place) => {
    const words = reckoned.value[place]?.type === 'text' ? valueWords : placeWords
    return text === null ? { whole: '', short: 'blank' } : { whole: words(text), short: words(roundedText(text, FIGURE_PLACES)) }
  }),
  cells: cells.get(record),
})))

function cellText(column: Column, cell: Cell | undefined): string {
  if (!cell) return '…'
  const [value, written] = cell
  if (value === null) return written?.trim() ? written : 'blank'
  if (column.type === 'date') return date(value)
  return isNumeric(column.type) ? number(isComputed(column) ? roundedText(value, FIGURE_PLACES) : value) : value
}

/** By column, or by computed input, the highlights that point out its value. */
function pointedIn(met: readonly Highlight[], of: Column | string): Highlight | undefined {
  return met.find(({ on }) => on !== null && (typeof of === 'string' ? on === of : props.standsFor?.(on).includes(of.id)))
}
/** A little wider than the value, so that it does not touch the end. */
function tintOf(highlight: Highlight | undefined): Record<string, string> | undefined {
  const tint = highlight && `color-mix(in srgb, ${highlight.colour} 26%, var(--sheet))`
  return tint === undefined ? undefined : { background: tint, boxShadow: `6px 0 0 ${tint}, -6px 0 0 ${tint}` }
}
/** Bars at the edge of a record, one a highlight, the first outermost. */
const barsOf = (met: readonly Highlight[]) => met.filter(({ on }) => on === null).map(({ colour }, at) => `inset ${4 * (at + 1)}px 0 0 ${colour}`).join(', ')

function cellState(cell: Cell | undefined): string {
  if (!cell || cell[0] !== null) return ''
  return cell[1]?.trim() ? 'unreadable' : 'blank'
}

function lineOf(id: number | string): Record<string, string> | undefined {
  const line = props.lines?.find(([column]) => column === id)?.[1]
  return line === undefined ? undefined : { textDecoration: `underline ${line} var(--brass)`, textDecorationThickness: '2px', textUnderlineOffset: '3px' }
}

function nextOrder(column: number): void {
  const { order } = props
  if (order?.column !== column) emit('order', { column, direction: 'falling' })
  else emit('order', order.direction === 'falling' ? { column, direction: 'rising' } : null)
}

function orderSign(column: number): string {
  return props.order?.column !== column ? '' : props.order.direction === 'rising' ? '▲' : '▼'
}

function sortWord(column: number): 'ascending' | 'descending' | undefined {
  return props.order?.column !== column ? undefined : props.order.direction === 'rising' ? 'ascending' : 'descending'
}
</script>

<template>
  <div ref="scroller" class="scroller" role="table" :aria-rowcount="total + 1" tabindex="0" aria-label="Records">
    <div class="head row" role="row" :style="{ gridTemplateColumns: template, minWidth: `${widths.least}px` }">
      <span role="columnheader" class="stuck">Label</span>
      <template v-for="(column, index) in ordered" :key="column.id">
        <span role="columnheader" :aria-sort="sortWord(column.id)" :class="{ right: isNumeric(column.type), looked: isLooked(column) }">
          <button v-if="canSort(column)" class="plain-button name" :style="lineOf(column.id)" type="button" :title="`Sort by ${column.name}`" @click="nextOrder(column.id)">
            {{ orderSign(column.id) }} {{ withUnit(column.name, column.unit) }}
          </button>
          <span v-else class="name">{{ withUnit(column.name, column.unit) }}</span>
          <slot name="more" :column="column" />
        </span>
        <template v-if="index === 0">
          <span v-for="input in reckoned" :key="input.name" role="columnheader" class="looked" :class="{ right: input.type === 'number' }"><span :style="lineOf(input.name)">{{ withUnit(input.name, input.unit) }}</span></span>
        </template>
        <span v-if="index === front - 1" role="columnheader">Look at</span>
      </template>
    </div>
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
    <p v-if="total === 0" class="empty second">{{ empty }}</p>
    <div class="body" :style="{ height: `${virtual.getTotalSize()}px` }" role="rowgroup">
      <div v-for="row in drawn" :key="row.place" v-memo="[row.record, row.place, row.status, row.label, row.look, row.hand?.why, row.hand?.label, row.reason, row.cells, row.met.map(({ name, colour, mark }) => name + colour + mark).join(), template, ordered]" class="row" role="row" :aria-rowindex="row.place + 2" :data-record="row.record" :style="{ gridTemplateColumns: template, minWidth: `${widths.least}px`, transform: `translateY(${row.place * ROW}px)` }" @click="row.cells && emit('pick', row.record, row.cells)">
        <span role="cell" class="label stuck" data-cell="label" :style="{ boxShadow: barsOf(row.met) }" :data-met="row.met.map(({ name }) => name).join(', ') || undefined" :title="[row.hand ? `${row.hand.label ?? 'nothing'} ${row.hand.why}` : row.label ?? row.status, ...row.met.map(({ name }) => name)].join(' · ')">
          <template v-if="row.hand"><MarkCoin v-if="row.handLook" :mark="row.handLook.mark" :colour="row.handLook.colour" /> {{ row.hand.label ?? 'nothing' }} <s class="second was">{{ row.label ?? row.status }}</s></template>
          <template v-else-if="row.label !== null"><MarkCoin v-if="row.look" :mark="row.look.mark" :colour="row.look.colour" /> {{ row.label === '' ? 'no value' : row.label }}</template>
          <span v-else class="second">{{ row.status }}</span>
          <span v-if="row.met.length > 0" class="met"><MarkCoin v-for="one in row.met.filter(({ on }) => on === null)" :key="one.name" :mark="one.mark" :colour="one.colour" :size="13" /></span>
        </span>
        <template v-for="(column, index) in ordered" :key="column.id">
          <span role="cell" :class="[cellState(row.cells?.[places[index]!]), { right: isNumeric(column.type), figure: column.type !== 'text', looked: isLooked(column) }]" :style="tintOf(pointedIn(row.met, column))" :title="cellText(column, row.cells?.[places[index]!])"><MarkCoin v-if="pointedIn(row.met, column)" :mark="pointedIn(row.met, column)!.mark" :colour="pointedIn(row.met, column)!.colour" :size="12" /> {{ cellText(column, row.cells?.[places[index]!]) }}</span>
          <template v-if="index === 0">
            <span v-for="(figure, at) in row.figures" :key="reckoned[at]!.name" role="cell" class="looked" :class="{ right: reckoned[at]!.type === 'number', figure: reckoned[at]!.type === 'number', blank: figure.whole === '' }" :style="tintOf(pointedIn(row.met, reckoned[at]!.name))" :title="figure.whole"><MarkCoin v-if="pointedIn(row.met, reckoned[at]!.name)" :mark="pointedIn(row.met, reckoned[at]!.name)!.mark" :colour="pointedIn(row.met, reckoned[at]!.name)!.colour" :size="12" /> {{ figure.short }}</span>
          </template>
          <span v-if="index === front - 1" role="cell" data-cell="reason" :title="row.reason" :class="row.isTrouble ? 'trouble' : 'second'">{{ row.reason }}</span>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scroller { overflow: auto; background: var(--sheet); height: 100%; min-height: 0; contain: strict; }
.scroller:focus-visible { outline-offset: -2px; }
.body { position: relative; }
.row { display: grid; column-gap: 16px; align-items: center; width: 100%; height: 30px; padding: 0 20px; border-bottom: 1px solid var(--hairline); }
.body .row { position: absolute; top: 0; left: 0; }
.row > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-width: 0; line-height: 29px; }
.head.row { height: auto; min-height: 30px; align-items: start; }
.head > span { display: flex; align-items: center; gap: 2px; }
.head > .right { justify-content: end; }
.head .name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-width: 0; }
.head { position: sticky; top: 0; z-index: 2; background: var(--sheet); font-size: 13px; color: var(--second); font-weight: 600; }
.right { text-align: right; }
.label { font-weight: 600; }
.was { margin-left: 4px; font-weight: 400; font-size: 13px; }
.met { float: right; display: inline-flex; gap: 2px; align-items: center; height: 29px; padding-left: 6px; }
.looked { color: var(--ink); }
.body .looked { font-weight: 600; }
.stuck { position: sticky; left: 0; background: var(--sheet); z-index: 1; padding-left: 20px; margin-left: -20px; }
.blank { color: var(--second); font-style: italic; font-family: var(--text); font-weight: 400 !important; }
.unreadable { color: var(--brick); font-weight: 600; font-family: var(--text); }
.body .row:hover, .body .row:hover .stuck { background: var(--ground); }
.empty { padding: 24px 20px; }
</style>
