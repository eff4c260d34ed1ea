<script setup lang="ts">
/** What moves from which label to which, the most first; each with its records where they can be shown. */
import { type Landing, landingName, type Move } from '@dime-gate/core/result/moves'
import type { LabelLook, Tray } from '@dime-gate/core/result/tray'
import { count } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'

/** @property isTold only told: the records are of another gate or table */
const props = defineProps<{ moves: readonly Move[]; labels: readonly LabelLook[]; isTold?: boolean }>()
const emit = defineEmits<{ show: [tray: Tray] }>()

const lookOf = (landing: Landing) => (landing.kind === 'label' ? props.labels.find(({ label }) => label === landing.label) : undefined)
const words = (landing: Landing) => (landing.kind === 'label' ? landing.label : landing.kind)
const trayOf = ({ from, to }: Move): Tray => ({ kind: 'moved', from: landingName(from), to: landingName(to) })
</script>

<template>
  <ul>
    <li v-for="move in moves" :key="Object.values(trayOf(move)).join(' ')">
      <component :is="isTold ? 'span' : 'button'" class="plain-button move" :class="{ told: isTold }" :type="isTold ? undefined : 'button'" data-move @click="isTold || emit('show', trayOf(move))">
        <span><MarkCoin v-if="lookOf(move.from)" :mark="lookOf(move.from)!.mark" :colour="lookOf(move.from)!.colour" :size="12" /> {{ words(move.from) }}</span>
        <span aria-label="to" role="img">→</span>
        <span><MarkCoin v-if="lookOf(move.to)" :mark="lookOf(move.to)!.mark" :colour="lookOf(move.to)!.colour" :size="12" /> {{ words(move.to) }}</span>
        <b class="figure">{{ count(move.records) }}</b>
      </component>
    </li>
  </ul>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; width: 100%; }
.move { display: grid; grid-template-columns: minmax(0, 1fr) 16px minmax(0, 1fr) auto; gap: 6px; width: 100%; min-height: 28px; align-items: center; border-bottom: 1px solid var(--hairline); overflow-wrap: anywhere; }
.move:not(.told):hover b { text-decoration: underline; }
.told { cursor: default; min-height: 26px; }
</style>
