<script setup lang="ts">
/** The legend above the records: what each sign on them stands for, and how many have it. */
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import type { Tray } from '@dime-gate/core/result/tray'
import type { ToldHighlights } from '../records/session-highlights'
import { count } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'

const props = defineProps<{ highlights: readonly Highlight[]; told: ToldHighlights | null }>()
const tray = defineModel<Tray>({ required: true })
const isShown = ({ name }: Highlight) => tray.value.kind === 'highlighted' && tray.value.name === name

function show(highlight: Highlight): void {
  tray.value = isShown(highlight) ? { kind: 'all' } : { kind: 'highlighted', name: highlight.name }
}
</script>

<template>
  <p class="chips" role="group" aria-label="What the signs on records stand for">
    <button v-for="(highlight, at) in props.highlights" :key="highlight.name" class="plain-button chip" type="button" :aria-pressed="isShown(highlight)" :class="{ here: isShown(highlight) }" :title="highlight.condition" @click="show(highlight)"><MarkCoin :mark="highlight.mark" :colour="highlight.colour" :size="13" /> {{ highlight.name }} <span class="figure">{{ told?.records[at] === undefined ? '…' : told.records[at] === null ? 'cannot be read' : count(told.records[at]!) }}</span></button>
  </p>
</template>

<style scoped>
.chips { display: flex; flex-wrap: wrap; gap: 0 18px; padding: 0 20px 2px; font-size: 13px; max-height: 54px; overflow-y: auto; }
.chip { display: inline-flex; align-items: center; gap: 6px; min-height: 26px; color: var(--second); text-align: left; }
.chip:hover { text-decoration: underline; text-underline-offset: 3px; }
.chip.here { color: var(--ink); font-weight: 700; }
</style>
