<script setup lang="ts">
/** One column at a glance: its type, how much of it is readable, and how its values are spread. */
import type { Column, TableProfile } from '@dime-gate/contract/table'
import { computed } from 'vue'
import { count, date, number } from '../shared/format'
import { TYPE_WORDS } from '../shared/words'

const props = defineProps<{ column: Column; records: number; profile: TableProfile[string] | undefined }>()

const WIDTH = 120
const HEIGHT = 32
const readable = computed(() => props.records - props.column.blank - props.column.unreadable)
const bars = computed(() => {
  const spread = props.profile?.spread
  if (spread?.kind !== 'bins') return []
  const { bins } = spread
  const most = Math.max(1, ...bins)
  const width = WIDTH / bins.length
  return bins.map((records, at) => ({ x: at * width, width: width - 1, height: records === 0 ? 0 : Math.max(1, (records / most) * HEIGHT) }))
})
const ends = computed(() => {
  const spread = props.profile?.spread
  if (spread?.kind !== 'bins') return null
  const words = props.column.type === 'date' ? date : number
  return { from: words(spread.from), to: words(spread.to) }
})
</script>

<template>
  <div class="column">
    <span class="second type">{{ TYPE_WORDS[column.type] }}</span>
    <div class="spread">
      <template v-if="ends">
        <svg :width="WIDTH" :height="HEIGHT" aria-hidden="true"><rect v-for="(bar, at) in bars" :key="at" :x="bar.x" :y="HEIGHT - bar.height" :width="bar.width" :height="bar.height" /></svg>
        <span class="ends second"><span>{{ ends.from }}</span><span>{{ ends.to }}</span></span>
      </template>
      <template v-else-if="profile?.spread.kind === 'values'">
        <span v-if="profile.spread.distinct === readable" class="second">{{ count(profile.spread.distinct) }} different values</span>
        <template v-else>
          <span v-for="{ value, records: found } in profile.spread.common.slice(0, 2)" :key="value" class="one"><i>{{ value }}</i> <b>{{ count(found) }}</b></span>
          <span class="second">{{ count(profile.spread.distinct) }} different</span>
        </template>
      </template>
      <span v-else class="second">{{ profile ? 'no value' : '…' }}</span>
    </div>
    <span class="quality">{{ count(readable) }} readable</span>
    <span class="quality second">{{ column.blank > 0 ? `${count(column.blank)} blank` : 'none blank' }}</span>
    <span class="quality" :class="column.unreadable > 0 ? 'trouble' : 'second'">{{ column.unreadable > 0 ? `${count(column.unreadable)} unreadable` : 'none unreadable' }}</span>
  </div>
</template>

<style scoped>
.column { display: grid; font-size: 12.5px; font-weight: 400; line-height: 1.35; text-align: left; padding-bottom: 6px; }
.spread { display: grid; align-content: end; height: 52px; padding-bottom: 4px; overflow: hidden; }
.spread svg { display: block; }
rect { fill: var(--pine); opacity: 0.6; }
.ends { display: flex; justify-content: space-between; width: 120px; font-size: 11px; white-space: nowrap; }
.one { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.quality { color: var(--ink); }
.quality.second { color: var(--second); }
.quality.trouble { color: var(--brick); }
</style>
