<script setup lang="ts">
/** A column's head: its name and what it holds, and from there every way to sort it, to filter by it and to change it. */
import type { Filter, Listing } from '@dime-gate/contract/change'
import { type Column, type TableProfile, isComputed } from '@dime-gate/contract/table'
import { computed } from 'vue'
import { count, date, FIGURE_PLACES, number, roundedText } from '../shared/format'
import { cellWords, headWords } from './cell-words'
import ColumnMenu from './ColumnMenu.vue'

const props = defineProps<{ column: Column; records: number; profile: TableProfile[string] | undefined; listing: Listing; width: number; canMove: { left: boolean; right: boolean } }>()
const emit = defineEmits<{ sort: [isFurther: boolean]; filter: [filter: Filter]; hide: []; move: [by: -1 | 1]; widen: [by: number]; settings: []; remove: [] }>()

const HEIGHT = 28
const space = computed(() => Math.max(40, props.width - 21))
const unit = computed(() => headWords(props.column))
const sort = computed(() => props.listing.sorts.find((one) => one.column === props.column.id))
const rank = computed(() => props.listing.sorts.findIndex((one) => one.column === props.column.id) + 1)
const isFiltered = computed(() => props.listing.filters.some((one) => one.kind !== 'found' && one.column === props.column.id))
const bars = computed(() => {
  const spread = props.profile?.spread
  if (spread?.kind !== 'bins') return []
  const most = Math.max(1, ...spread.bins)
  const width = space.value / spread.bins.length
  return spread.bins.map((records, at) => ({ x: at * width, width: Math.max(1, width - 1), height: records === 0 ? 0 : Math.max(1, (records / most) * HEIGHT) }))
})
const ends = computed(() => {
  const spread = props.profile?.spread
  if (spread?.kind !== 'bins') return null
  const words = props.column.type === 'date' ? date : (text: string) => number(!isComputed(props.column) ? text : roundedText(text, FIGURE_PLACES))
  const [from, to] = [words(spread.from), words(spread.to)]
  const fits = (from.length + to.length + 2) * 6 <= space.value
  // The years of dates say enough where there is no room for more, unless they are one.
  if (fits || props.column.type !== 'date') return { from, to }
  const years = [spread.from.slice(0, 4), spread.to.slice(0, 4)]
  return years[0] === years[1] ? { from: from.replace(/ \d+$/, ''), to: to.replace(/ \d+$/, '') } : { from: years[0]!, to: years[1]! }
})
const valueWords = (value: string) => cellWords([value, null], props.column)
const quality = computed(() => [
  { kind: 'unreadable' as const, records: props.column.unreadable, word: 'unreadable' },
  { kind: 'outside' as const, records: props.profile?.outside ?? 0, word: 'outside' },
  { kind: 'blank' as const, records: props.column.blank, word: 'blank' },
].filter(({ records }) => records > 0))
</script>

<template>
  <div class="headbox">
    <div class="line">
      <button
        class="plain-button name"
        type="button"
        :title="`Sort by ${column.name}; with Shift, after what it is sorted by already`"
        @click="emit('sort', $event.shiftKey)"
      >
        <b>{{ column.name }}</b><span v-if="sort" class="sign" :aria-label="sort.direction === 'rising' ? 'rising' : 'falling'">
          {{ sort.direction === 'rising' ? '▲' : '▼' }}<small v-if="listing.sorts.length > 1">{{ rank }}</small></span
        >
      </button>
      <ColumnMenu
        :column="column"
        :profile="profile"
        :can-move="canMove"
        @filter="emit('filter', $event)"
        @hide="emit('hide')"
        @move="emit('move', $event)"
        @widen="emit('widen', $event)"
        @settings="emit('settings')"
        @remove="emit('remove')"
      />
    </div>
    <span class="second unit" :title="column.feel !== null ? `${column.name} = ${column.feel}` : column.drawn ? `${column.name} is drawn from elsewhere` : undefined">{{ unit }}</span>
    <div class="spread">
      <template v-if="ends">
        <svg :width="space" :height="HEIGHT" aria-hidden="true">
          <rect v-for="(bar, at) in bars" :key="at" :x="bar.x" :y="HEIGHT - bar.height" :width="bar.width" :height="bar.height" />
        </svg>
        <span class="ends second"
          ><span>{{ ends.from }}</span
          ><span v-if="ends.from !== ends.to">{{ ends.to }}</span></span
        >
      </template>
      <template v-else-if="profile?.spread.kind === 'values'">
        <span
          v-for="{ value, records: found } in profile.spread.distinct === records - column.blank - column.unreadable ? [] : profile.spread.common.slice(0, 2)"
          :key="value"
          class="one"
          ><i>{{ valueWords(value) }}</i> <b>{{ count(found) }}</b></span
        >
        <span class="second">{{ count(profile.spread.distinct) }} different</span>
      </template>
      <span v-else class="second">{{ profile ? 'no value' : '…' }}</span>
    </div>
    <div class="quality">
      <button
        v-for="one in quality"
        :key="one.kind"
        class="plain-button"
        type="button"
        :class="one.kind === 'blank' ? 'second' : 'trouble'"
        :title="`List the records where ${column.name} is ${one.word}`"
        @click="emit('filter', { kind: one.kind, column: column.id })"
      >
        {{ count(one.records) }} {{ one.word }}
      </button>
      <span v-if="quality.length === 0" class="second">all readable</span>
      <span v-if="isFiltered" class="filtered">filtered</span>
    </div>
  </div>
</template>

<style scoped>
.headbox { display: grid; grid-template-rows: auto auto 46px auto; padding: 6px 10px 5px; font-size: 12.5px; font-weight: 400; line-height: 1.35; text-align: left; align-content: start; }
.line { display: flex; align-items: center; gap: 4px; min-width: 0; }
.name { flex: 1; min-width: 0; min-height: 24px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--ink); font-size: 13px; }
.sign { color: var(--brass); }
.unit { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.spread { display: grid; align-content: end; overflow: hidden; }
.spread svg { display: block; }
rect { fill: var(--pine); opacity: 0.6; }
.ends { display: flex; justify-content: space-between; font-size: 11px; white-space: nowrap; }
.one { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.quality { display: flex; flex-wrap: wrap; gap: 0 10px; font-size: 12px; }
.quality button, .quality > span { min-height: 24px; line-height: 24px; }
.quality .trouble { color: var(--brick); font-weight: 600; }
.quality .second { color: var(--second); }
.quality button:hover { text-decoration: underline; }
.filtered { color: var(--brass); font-weight: 600; }
</style>
