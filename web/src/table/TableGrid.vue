<script setup lang="ts">
/** The records of a table in rows, as many as there are: moved in, chosen, changed, copied and pasted by keyboard and pointer. */
import type { Listing, Reading } from '@dime-gate/contract/change'
import type { LabelLook } from '@dime-gate/core/result/tray'
import type { HandsOf } from '../run/by-hand'
import { type Cell, type Column, isComputed } from '@dime-gate/contract/table'
import { newCell } from '@dime-gate/contract/typed-cell'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, shallowRef, watch } from 'vue'
import { messageOf } from '../shared/api'
import MarkCoin from '../shared/MarkCoin.vue'
import CellField from './CellField.vue'
import { type Block, blockOf, blockText, cellsOfText, isIn, moved, type Place } from './block'
import { cellInput, cellWords, expectedWords, listedWords, stateOf } from './cell-words'
import { followed, type ListedCells, recordsIn, type SetCell, setOver, textsOf } from './grid-cells'
import { ownLooks, ownWords } from './own-look'
import { cellKey } from './table-edits'
import { useLateRows } from './useLateRows'

const props = defineProps<{
  columns: Column[]
  /** In pixels, by column. */
  widths: number[]
  order: Int32Array
  sorts: Listing['sorts']
  cells: Map<number, Cell[]>
  /** What was typed and is not kept yet, by `cellKey`. */
  unkept: ReadonlyMap<string, string>
  /** How figures and dates are written by whoever types here. */
  reading: Reading
  /** By shown column its place among all. */
  places: number[]
  /** The set that a column is in, by the column's id. */
  sets: ReadonlyMap<number, string>
  /** Of columns that hold labels: by label what it looks like. */
  looks: ReadonlyMap<number, ReadonlyMap<string, LabelLook>>
  /** Of columns that hold labels: what records were given by hand instead. */
  byHand: ReadonlyMap<number, HandsOf>
  want: (records: number[]) => Promise<void>
  tick: number
  empty: string
}>()
const emit = defineEmits<{
  set: [cells: SetCell[]]
  /** One value for very many cells. */
  fill: [column: number, text: string, records: number[]]
  focus: [record: number | null, column: number | null]
  widen: [column: number, pixels: number]
  refused: [why: string]
  /** Somebody wants to type into a figure. */
  computed: [column: Column]
}>()

const ROW = 30
/** Cells that are set one by one; beyond, whole columns are filled. */
const MOST_CELLS = 5000
const MOST_COPIED = 100_000
/** Records that are fetched at a time. */
const AT_ONCE = 500
const scroller = ref<HTMLElement | null>(null)
const active = ref<Place | null>(null)
const anchor = ref<Place | null>(null)
const trouble = ref('')
/** The cell that is being changed, whatever becomes of the list meanwhile, and what its field begins with. */
const editing = shallowRef<{ record: number; column: Column; seen: Cell | undefined; text: string; isFresh: boolean } | null>(null)
const field = shallowRef<InstanceType<typeof CellField> | null>(null)
/** Keys that were pressed before the field was there. */
let ahead = ''

const rows = useVirtualizer(computed(() => ({ count: props.order.length, getScrollElement: () => scroller.value, estimateSize: () => ROW, overscan: 6 })))
const stuck = computed(() => props.columns.filter(({ isIdentity }) => isIdentity).length)
const stuckWidth = computed(() => props.widths.slice(0, stuck.value).reduce((sum, width) => sum + width, 0))
/** Where each column begins, those that stay in view left out: these cover as much of what is in view as they are wide. */
const free = useVirtualizer(computed(() => ({ horizontal: true, count: props.columns.length - stuck.value, getScrollElement: () => scroller.value, estimateSize: (at: number) => props.widths[at + stuck.value]!, overscan: 2, scrollPaddingEnd: stuckWidth.value })))
watch(() => props.widths, () => free.value.measure())

const shownColumns = computed(() => {
  const items = free.value.getVirtualItems()
  const first = items[0]
  const last = items.at(-1)
  return {
    before: first?.start ?? 0,
    after: last ? free.value.getTotalSize() - last.end : 0,
    columns: [...Array.from({ length: stuck.value }, (_, at) => at), ...items.map(({ index }) => index + stuck.value)],
  }
})
const template = computed(() => {
  const { before, after, columns } = shownColumns.value
  return [...columns.slice(0, stuck.value).map((at) => `${props.widths[at]!}px`), `${before}px`, ...columns.slice(stuck.value).map((at) => `${props.widths[at]!}px`), `${after}px`, '1fr'].join(' ')
})
const totalWidth = computed(() => stuckWidth.value + free.value.getTotalSize())
const leftOf = (at: number) => props.widths.slice(0, at).reduce((sum, width) => sum + width, 0)

const inView = computed(() => rows.value.getVirtualItems().map(({ index }) => index).filter((index) => index < props.order.length))
const { late, wait } = useLateRows(() => inView.value.map((index) => props.order[index]!))
/** By their places, the columns of which a row has a cell. */
function cellsOf(row: number): number[] {
  const record = props.order[row]!
  const isDrawn = props.cells.has(record) || late.value.has(record) || active.value?.row === row || props.unkept.size > 0
  return isDrawn ? shownColumns.value.columns : []
}
watch([inView, () => props.tick], async ([indexes]) => {
  wait()
  try {
    await props.want(indexes.map((index) => props.order[index]!))
    trouble.value = ''
  } catch (error) {
    trouble.value = messageOf(error)
  }
}, { immediate: true })

const block = computed<Block | null>(() => (active.value ? blockOf(anchor.value ?? active.value, active.value) : null))
watch(() => props.order, (now, before) => {
  active.value = active.value && followed(active.value, before, now)
  anchor.value = active.value
})
watch(() => props.columns.length, (columns) => {
  if (active.value && active.value.column >= columns) active.value = anchor.value = null
})
watch(active, (place) => emit('focus', place ? props.order[place.row]! : null, place ? props.columns[place.column]!.id : null))

/** What was typed stands there for whoever types on, kept or not: nobody is to quarrel with himself. */
const listed = computed((): ListedCells => ({
  order: props.order,
  columns: props.columns,
  cellOf(record, column) {
    const typed = props.unkept.get(cellKey(record, props.columns[column]!.id))
    return typed === undefined ? props.cells.get(record)?.[props.places[column]!] : newCell(typed, props.columns[column]!, props.reading)
  },
}))
const cellAt = ({ row, column }: Place): Cell | undefined => listed.value.cellOf(props.order[row]!, column)

function sizes() {
  return { rows: props.order.length, columns: props.columns.length, page: Math.max(1, Math.floor(((scroller.value?.clientHeight ?? 400) - 150) / ROW)) }
}

function goTo(place: Place, isExtending = false): void {
  active.value = place
  if (!isExtending) anchor.value = place
  rows.value.scrollToIndex(place.row)
  if (place.column >= stuck.value) free.value.scrollToIndex(place.column - stuck.value)
}

function press(event: PointerEvent, place: Place): void {
  if (event.button !== 0) return
  active.value = place
  if (!event.shiftKey) anchor.value = place
  const over = (move: PointerEvent): void => {
    const cell = document.elementFromPoint(move.clientX, move.clientY)?.closest<HTMLElement>('[data-row]')
    if (cell) active.value = { row: Number(cell.dataset.row), column: Number(cell.dataset.column) }
  }
  const up = (): void => {
    window.removeEventListener('pointermove', over)
    window.removeEventListener('pointerup', up)
  }
  window.addEventListener('pointermove', over)
  window.addEventListener('pointerup', up)
}

function edit(text?: string): void {
  const place = active.value
  if (!place) return
  const seen = cellAt(place)
  // Nobody who types waits for what stands there to arrive; whoever wants to change it does.
  if (!seen && text === undefined) return void editOnArrival(place)
  goTo(place)
  ahead = ''
  const column = props.columns[place.column]!
  if (isComputed(column)) return emit('computed', column)
  editing.value = { record: props.order[place.row]!, column, seen, text: text ?? cellInput(seen!, column), isFresh: text !== undefined }
}

watch(field, (now) => {
  if (now && ahead !== '') now.add(ahead)
  ahead = ''
}, { flush: 'sync' })

/** Records may have been listed anew in the meantime: whoever still stands at the same cell is there. */
async function editOnArrival(place: Place): Promise<void> {
  const idsAt = ({ row, column }: Place) => [props.order[row], props.columns[column]?.id]
  const [record, column] = idsAt(place)
  const isHere = await arrived(record!)
  const now = active.value && idsAt(active.value)
  if (isHere && !editing.value && now?.[0] === record && now?.[1] === column) edit()
}

/** Fetches a record; whether it is here then. */
async function arrived(record: number): Promise<boolean> {
  try {
    await props.want([record])
  } catch (error) {
    trouble.value = messageOf(error)
  }
  return props.cells.has(record)
}

function commit(text: string, then: string | null): void {
  if (!editing.value) return
  const { record, column, seen } = editing.value
  editing.value = null
  const set = (over: Cell) => { if (text !== cellInput(over, column)) emit('set', [{ record, column: column.id, text, seen: over }]) }
  if (seen) set(seen)
  else void arrived(record).then(() => {
    const at = props.columns.findIndex(({ id }) => id === column.id)
    const now = at === -1 ? undefined : listed.value.cellOf(record, at)
    if (now) set(now)
    else emit('refused', `“${text}” was not kept: its record could not be read. Type it once more.`)
  })
  if (then === null) return
  scroller.value?.focus()
  if (active.value) goTo(moved(active.value, then, false, sizes()) ?? active.value)
}

function cancel(): void {
  editing.value = null
  scroller.value?.focus()
}

function key(event: KeyboardEvent): void {
  if (editing.value) return typeAhead(event)
  const isCommand = event.ctrlKey || event.metaKey
  const from = active.value ?? { row: 0, column: 0 }
  const to = moved(from, event.key, isCommand, sizes())
  if (to && props.order.length > 0) goTo(active.value ? to : from, event.shiftKey)
  else if (event.key === 'Enter' || event.key === 'F2') edit()
  else if (event.key === 'Delete' || event.key === 'Backspace') void put([['']])
  else if (event.key === 'Escape' && active.value) anchor.value = active.value
  else if (isCommand && event.key === 'a') {
    anchor.value = { row: 0, column: 0 }
    active.value = { row: props.order.length - 1, column: props.columns.length - 1 }
  } else if (event.key.length === 1 && !isCommand && !event.altKey && active.value) edit(event.key)
  else return
  event.preventDefault()
  // What a key means here it means nowhere else on the page.
  event.stopPropagation()
}

/** What is typed before the field is there belongs into it. */
function typeAhead(event: KeyboardEvent): void {
  if (event.key.length > 1 || event.ctrlKey || event.metaKey || event.altKey) return
  if (field.value) field.value.add(event.key)
  else ahead += event.key
  event.preventDefault()
  event.stopPropagation()
}

async function copy(event: ClipboardEvent): Promise<void> {
  const chosen = block.value
  if (!chosen || editing.value) return
  event.preventDefault()
  const size = (chosen.bottom - chosen.top + 1) * (chosen.right - chosen.left + 1)
  if (size > MOST_COPIED) return emit('refused', `${size.toLocaleString()} cells are too many to copy at once. Take the table out as a file instead.`)
  const records = recordsIn(listed.value, chosen)
  const text = () => blockText(textsOf(listed.value, chosen))
  // In view they are here; a clipboard does not wait for others.
  if (records.every((record) => props.cells.has(record))) event.clipboardData?.setData('text/plain', text())
  else {
    await wantAll(records)
    await navigator.clipboard.writeText(text()).catch(() => emit('refused', 'The browser does not let these cells be copied; choose fewer.'))
  }
}

async function wantAll(records: readonly number[]): Promise<void> {
  for (let at = 0; at < records.length; at += AT_ONCE) await props.want(records.slice(at, at + AT_ONCE))
}

function paste(event: ClipboardEvent): void {
  if (editing.value || !block.value) return
  event.preventDefault()
  event.stopPropagation()
  void put(cellsOfText(event.clipboardData?.getData('text/plain') ?? ''))
}

/** Texts over what is chosen. */
async function put(texts: string[][]): Promise<void> {
  const chosen = block.value
  if (!chosen) return
  const isOne = texts.length === 1 && texts[0]!.length === 1
  const count = (chosen.bottom - chosen.top + 1) * (chosen.right - chosen.left + 1)
  if (isOne && count > MOST_CELLS && chosen.left === chosen.right) return emit('fill', props.columns[chosen.left]!.id, texts[0]![0]!, recordsIn(listed.value, chosen))
  const rows = isOne ? chosen.bottom - chosen.top + 1 : texts.length
  const size = isOne ? count : rows * (texts[0]?.length ?? 0)
  if (size > 10 * MOST_CELLS) return emit('refused', `${size.toLocaleString()} cells are too many at once; choose one column, or bring them in as a file.`)
  const records = recordsIn(listed.value, { ...chosen, bottom: chosen.top + rows - 1 })
  await wantAll(records)
  const set = setOver(listed.value, texts, chosen)
  if (set.length > 0) emit('set', set)
}

function widen(event: PointerEvent, at: number): void {
  event.preventDefault()
  event.stopPropagation()
  const [start, before] = [event.clientX, props.widths[at]!]
  const over = (move: PointerEvent) => emit('widen', props.columns[at]!.id, before + move.clientX - start)
  const up = (): void => {
    window.removeEventListener('pointermove', over)
    window.removeEventListener('pointerup', up)
  }
  window.addEventListener('pointermove', over)
  window.addEventListener('pointerup', up)
}

function sortWord(id: number): 'ascending' | 'descending' | undefined {
  const sort = props.sorts.find(({ column }) => column === id)
  return sort && (sort.direction === 'rising' ? 'ascending' : 'descending')
}

const activeId = computed(() => (active.value ? `cell-${active.value.row}-${active.value.column}` : undefined))
const editedState = computed(() => (active.value ? stateOf(cellAt(active.value), props.columns[active.value.column]!) : 'value'))

function unkeptAt(row: number, column: number): string | undefined {
  return props.unkept.size === 0 ? undefined : props.unkept.get(cellKey(props.order[row]!, props.columns[column]!.id))
}

const own = computed(() => ownLooks(props.columns))

function wordsAt(row: number, at: number): string {
  const [record, column] = [props.order[row]!, props.columns[at]!]
  const cell = props.cells.get(record)?.[props.places[at]!]
  return ownWords(cell, own.value.get(column.id)?.get(record)) ?? listedWords(cell, column)
}

/** Of a column that holds what a gate gives: what its label looks like. */
function lookAt(row: number, at: number): LabelLook | undefined {
  const value = props.cells.get(props.order[row]!)?.[props.places[at]!]?.[0]
  return value ? props.looks.get(props.columns[at]!.id)?.get(value) : undefined
}

/** What somebody gave the record in place of what stands there: one, or none. */
function handsAt(row: number, at: number) {
  const { id } = props.columns[at]!
  const hand = props.byHand.get(id)?.get(props.order[row]!)
  return hand ? [{ words: hand.label ?? 'nothing', why: hand.why, look: props.looks.get(id)?.get(hand.label ?? '') }] : []
}

/** The chosen records, by their numbers. */
function chosenRecords(): number[] {
  return block.value ? recordsIn(listed.value, block.value) : []
}

defineExpose({ chosenRecords, goTo, edit, take: () => scroller.value?.focus() })
</script>

<template>
  <div
    ref="scroller"
    class="scroller"
    role="grid"
    tabindex="0"
    data-takes-paste
    aria-label="Records"
    :aria-rowcount="order.length + 1"
    :aria-colcount="columns.length"
    :aria-activedescendant="activeId"
    aria-multiselectable="true"
    @keydown="key"
    @copy="copy"
    @paste="paste"
  >
    <div class="head row" role="row" :style="{ gridTemplateColumns: template, minWidth: `${totalWidth}px` }">
      <template v-for="(at, index) in shownColumns.columns" :key="columns[at]!.id">
        <span v-if="index === stuck" aria-hidden="true" />
        <div
          role="columnheader"
          class="headcell"
          :class="{ stuck: at < stuck, right: isNumeric(columns[at]!.type), computed: isComputed(columns[at]!), member: sets.has(columns[at]!.id) }"
          :title="sets.has(columns[at]!.id) ? `in the set ${sets.get(columns[at]!.id)!}` : undefined"
          :aria-colindex="at + 1"
          :aria-sort="sortWord(columns[at]!.id)"
          :style="at < stuck ? { left: `${leftOf(at)}px` } : undefined"
        >
          <slot name="head" :column="columns[at]!" :at="at" />
          <span
            class="handle"
            role="separator"
            aria-orientation="vertical"
            :aria-label="`Width of ${columns[at]!.name}`"
            @pointerdown="widen($event, at)"
          />
        </div>
      </template>
    </div>
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
    <p v-if="order.length === 0" class="empty second">{{ empty }}</p>
    <div class="body" role="rowgroup" :style="{ height: `${rows.getTotalSize()}px`, minWidth: `${totalWidth}px` }">
      <div
        v-for="row in inView"
        :key="order[row]"
        class="row"
        role="row"
        :aria-rowindex="row + 2"
        :data-record="order[row]"
        :style="{ gridTemplateColumns: template, transform: `translateY(${row * ROW}px)` }"
      >
        <template v-for="(at, index) in cellsOf(row)" :key="columns[at]!.id">
          <span v-if="index === stuck" aria-hidden="true" />
          <span
            :id="`cell-${row}-${at}`"
            role="gridcell"
            class="cell"
            :data-row="row"
            :data-column="at"
            :aria-colindex="at + 1"
            :aria-selected="block !== null && isIn(block, row, at)"
            :class="[stateOf(cells.get(order[row]!)?.[places[at]!], columns[at]!), { right: isNumeric(columns[at]!.type), figure: columns[at]!.type !== 'text', stuck: at < stuck, computed: isComputed(columns[at]!), chosen: block !== null && isIn(block, row, at), active: active?.row === row && active.column === at }]"
            :style="at < stuck ? { left: `${leftOf(at)}px` } : undefined"
            :title="cellWords(cells.get(order[row]!)?.[places[at]!], columns[at]!)"
            @pointerdown="press($event, { row, column: at })"
            @dblclick="edit()"
          >
            <CellField
              v-if="editing && editing.record === order[row] && editing.column.id === columns[at]!.id"
              :ref="(element) => (field = element as InstanceType<typeof CellField> | null)"
              :text="editing.text"
              :is-fresh="editing.isFresh"
              :label="`${columns[at]!.name}, ${expectedWords(columns[at]!)}`"
              @commit="commit"
              @cancel="cancel"
            />
            <span v-else-if="unkeptAt(row, at) !== undefined" class="unkept">{{ unkeptAt(row, at) || 'blank' }}</span>
            <template v-for="hand in handsAt(row, at)" v-else-if="handsAt(row, at).length > 0" :key="hand.why"><MarkCoin v-if="hand.look" :mark="hand.look.mark" :colour="hand.look.colour" /> <span data-by-hand :title="`${hand.words} ${hand.why}`">{{ hand.words }}</span> <s class="second">{{ wordsAt(row, at) }}</s></template>
            <template v-else-if="lookAt(row, at)"><MarkCoin :mark="lookAt(row, at)!.mark" :colour="lookAt(row, at)!.colour" /> {{ wordsAt(row, at) }}</template>
            <template v-else>{{ wordsAt(row, at) }}</template>
          </span>
        </template>
      </div>
    </div>
    <p v-if="active && (editedState === 'unreadable' || editedState === 'outside')" class="visually-hidden" role="status">
      {{ columns[active.column]!.name }} expects {{ expectedWords(columns[active.column]!) }}.
    </p>
  </div>
</template>

<style scoped>
.scroller { overflow: auto; height: 100%; min-height: 0; background: var(--sheet); contain: strict; }
.scroller:focus-visible { outline: none; }
.body { position: relative; }
.row { display: grid; width: 100%; height: 30px; border-bottom: 1px solid var(--hairline); }
.body .row { position: absolute; top: 0; left: 0; }
.head.row { position: sticky; top: 0; z-index: 3; height: auto; background: var(--sheet); border-bottom: 1.5px solid var(--ink); }
.headcell { position: relative; min-width: 0; background: var(--sheet); border-right: 1px solid var(--hairline); }
.handle { position: absolute; top: 0; right: -4px; bottom: 0; width: 8px; cursor: col-resize; z-index: 1; touch-action: none; }
.handle:hover { background: var(--brass); opacity: 0.5; }
.cell { position: relative; padding: 0 10px; line-height: 29px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-width: 0; border-right: 1px solid transparent; cursor: cell; user-select: none; }
.right { text-align: right; }
.stuck { position: sticky; z-index: 1; background: var(--sheet); }
.body .stuck { font-weight: 600; }
.blank { color: var(--second); font-style: italic; font-family: var(--text); }
.unreadable, .outside { color: var(--brick); font-weight: 600; }
.unreadable { font-family: var(--text); text-decoration: underline dotted; text-underline-offset: 3px; }
.outside::before { content: '!'; padding-right: 4px; }
/* As it was typed, whatever stands there still. */
.unkept { font: 400 14px var(--text); color: var(--brass); }
/* Columns of a set hang on one rail. */
.member { box-shadow: inset 0 3px 0 color-mix(in srgb, var(--pine) 55%, var(--sheet)); }
/* What is computed lies on brass, as thin as paper. */
.computed { background: color-mix(in srgb, var(--brass) 13%, var(--sheet)); }
.chosen { background: var(--tint); }
.active { box-shadow: inset 0 0 0 2px var(--brass); }
.scroller:not(:focus-within) .active { box-shadow: inset 0 0 0 1px var(--brass); }
.empty { padding: 24px 20px; }
</style>
