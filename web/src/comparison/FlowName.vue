<script setup lang="ts">
/** What a block of the picture is called, and how many records it has: below one another, or side by side where there is little room. */
import { computed } from 'vue'
import { count } from '../shared/format'

/** @property x where it ends, or begins, as `anchor` says @property by how many more or fewer there are than before; empty where it is not told */
const props = defineProps<{ x: number; top: number; anchor: 'start' | 'end'; name: string; records: number; by?: string; isNarrow: boolean }>()

/** As many letters as there is room for at a side. */
const ROOM = { wide: 23, narrow: 16 }
const shortened = computed(() => {
  const [letters, room] = [[...props.name], props.isNarrow ? ROOM.narrow : ROOM.wide]
  return letters.length > room ? `${letters.slice(0, room - 1).join('').trimEnd()}…` : props.name
})
</script>

<template>
  <text :x="x" :y="top + 13" :text-anchor="anchor">
    <title>{{ name }}</title>
    <tspan class="name">{{ shortened }}</tspan>
    <tspan class="records" v-bind="isNarrow ? { dx: 6 } : { x, dy: 18 }">{{ count(records) }}</tspan>
    <tspan v-if="by" class="records by" dx="6">{{ by }}</tspan>
  </text>
</template>

<style scoped>
text { fill: var(--ink); font-size: 14px; }
.name { font-weight: 600; }
.records { fill: var(--second); font-family: var(--figures); font-size: 13px; }
.by { fill: var(--ink); font-weight: 600; }
</style>
