<script setup lang="ts">
/** Records that moved, each with where it was, where it is, what changed and why. */
import type { MovedRecord, MoveReason } from '@dime-gate/contract/comparison'
import type { Run } from '@dime-gate/contract/run'
import type { Cell, Column } from '@dime-gate/contract/table'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRecordCells } from '../records/useRecordCells'
import { messageOf } from '../shared/api'
import { FIGURE_PLACES, roundedText } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { valueWords, withUnit } from '../shared/words'
import { listedWords } from '../table/cell-words'
import { placeWords, reasonText } from './comparison-words'
import type { Place } from './flows'

/** @property rows some of them, in their order @property tick changes when rows have to be asked for again */
const props = defineProps<{ before: Run; after: Run; labels: LabelLook[]; reasons: MoveReason[]; total: number; rows: (from: number, count: number) => Promise<MovedRecord[]>; tick: number }>()

const ROW = 30
/** As many columns as tell who it is. */
const MOST_WHO = 3
const now = useRecordCells(props.after.tableId, () => ({ run: props.after.id }))
const then = useRecordCells(props.before.tableId, () => ({ run: props.before.id }))
const scroller = ref<HTMLElement | null>(null)
const shown = shallowRef<{ from: number; rows: MovedRecord[] }>({ from: 0, rows: [] })
const trouble = ref('')

const virtual = useVirtualizer(computed(() => ({ count: props.total, getScrollElement: () => scroller.value, estimateSize: () => ROW, overscan: 12 })))
const span = computed(() => {
  const items = virtual.value.getVirtualItems()
  return { from: items[0]?.index ?? 0, to: (items.at(-1)?.index ?? -1) + 1 }
})
const who = computed((): Column[] => {
  const identity = props.after.columns.filter(({ isIdentity }) => isIdentity)
  const others = props.after.columns.filter((column) => !identity.includes(column) && column.type === 'text')
  return [...(identity.length > 0 ? identity : props.after.columns.slice(0, 1)), ...others.filter(({ id }) => id !== props.after.columns[0]!.id || identity.length > 0)].slice(0, MOST_WHO)
})

let asking = 0
watch([span, () => props.tick, () => props.total], async () => {
  const { from, to } = span.value
  const mine = ++asking
  if (to <= from) {
    shown.value = { from: 0, rows: [] }
    return
  }
  try {
    const rows = await props.rows(from, to - from)
    if (mine !== asking) return
    shown.value = { from, rows }
    const gone = rows.filter(({ to: place }) => place === null).map(({ record }) => record)
    await Promise.all([now.want(rows.map(({ record }) => record).filter((record) => !gone.includes(record))), then.want(gone)])
    trouble.value = ''
  } catch (error) {
    trouble.value = messageOf(error)
  }
}, { immediate: true })

const lookOf = (place: Place) => (place?.kind === 'label' ? props.labels.find(({ label }) => label === place.label) : undefined)
const told = (text: string | null) => (text === null ? 'blank' : valueWords(roundedText(text, FIGURE_PLACES)))
const cellOf = (row: MovedRecord, column: Column): Cell | undefined => {
  const [cells, columns] = row.to === null ? [then.cells, props.before.columns] : [now.cells, props.after.columns]
  return cells.get(row.record)?.[columns.findIndex(({ id }) => id === column.id)]
}
const changesOf = ({ changes }: MovedRecord) => changes.map(({ name, from, to }) => `${name} ${told(from)} → ${told(to)}`).join(', ')
const whyOf = ({ reason }: MovedRecord) => (reason === null || !props.reasons[reason] ? '' : reasonText(props.reasons[reason]))
const grid = computed(() => `minmax(120px, 1fr) minmax(120px, 1fr) ${who.value.map(() => 'minmax(90px, 1fr)').join(' ')} minmax(150px, 1.6fr) minmax(180px, 1.8fr)`)
</script>

<template>
  <div ref="scroller" class="scroller" role="table" :aria-rowcount="total + 1" tabindex="0" aria-label="Records that moved">
    <div class="head row" role="row" :style="{ gridTemplateColumns: grid }">
      <span v-for="(run, side) in [before, after]" :key="side" role="columnheader">{{ run.isDraft ? 'Draft' : `Run ${run.number}` }}</span>
      <span v-for="column in who" :key="column.id" role="columnheader">{{ withUnit(column.name, column.unit) }}</span>
      <span role="columnheader">What changed</span><span role="columnheader">Why</span>
    </div>
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
    <p v-if="total === 0" class="second empty">No record is here.</p>
    <div class="body" :style="{ height: `${virtual.getTotalSize()}px` }" role="rowgroup">
      <div v-for="(row, at) in shown.rows" :key="row.record" class="row" role="row" :aria-rowindex="shown.from + at + 2" :data-moved="row.record" :style="{ gridTemplateColumns: grid, transform: `translateY(${(shown.from + at) * ROW}px)` }">
        <span v-for="(place, side) in [row.from, row.to]" :key="side" role="cell" class="label"><MarkCoin v-if="lookOf(place)" :mark="lookOf(place)!.mark" :colour="lookOf(place)!.colour" :size="14" /> <span :class="{ second: !lookOf(place) }">{{ placeWords(place, side === 1) }}</span></span>
        <span v-for="column in who" :key="column.id" role="cell">{{ listedWords(cellOf(row, column), column) }}</span>
        <span role="cell" :title="changesOf(row)">{{ changesOf(row) }}</span>
        <span role="cell" class="second" :title="whyOf(row)">{{ whyOf(row) }}</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scroller { overflow: auto; background: var(--sheet); height: 100%; min-height: 0; contain: strict; }
.scroller:focus-visible { outline-offset: -2px; }
.body { position: relative; }
.row { display: grid; column-gap: 16px; align-items: center; width: 100%; min-width: 900px; height: 30px; padding: 0 20px; border-bottom: 1px solid var(--hairline); }
.body .row { position: absolute; top: 0; left: 0; }
.row > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-width: 0; line-height: 29px; }
.head { position: sticky; top: 0; z-index: 2; background: var(--sheet); font-size: 13px; color: var(--second); font-weight: 600; }
.label { font-weight: 600; }
.empty { padding: 24px 20px; }
</style>
