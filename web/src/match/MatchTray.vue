<script setup lang="ts">
/** A tray: the values that get one label, with all their records. */
import type { Entry, MatchGate } from '@dime-gate/core/gate/document'
import { labelGiven } from '@dime-gate/core/gate/entries'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { computed, ref } from 'vue'
import EntryField from '../gives/EntryField.vue'
import { valuesGiven } from '../gives/values-given'
import { count, share } from '../shared/format'
import LookMenu from '../shared/LookMenu.vue'
import type { Coin } from './coins'
import ValueCoin from './ValueCoin.vue'
import { vStands } from '../shared/v-stands'

/** @property records null as long as they are not counted @property digit the key that drops into it; empty for none */
const props = defineProps<{ gate: MatchGate; at: number; coins: readonly Coin[]; chosen: ReadonlySet<string>; look: LabelLook | null; records: number | null; all: number; digit: string; isShown: boolean; isOver: boolean; isTried: boolean }>()
const emit = defineEmits<{ show: []; rename: [label: string]; look: [look: Partial<Pick<LabelLook, 'colour' | 'mark'>>]; give: [outcome: number, entry: Entry]; move: [by: number]; remove: [] }>()

/** More than a tray shows without scrolling; others come when they are asked for. */
const SHOWN_AT_FIRST = 40
const MORE = 240
const most = ref(SHOWN_AT_FIRST)
const label = computed(() => labelGiven(props.gate.lines[props.at]!.entries) ?? '')

function rename(event: Event): void {
  const field = event.target as HTMLInputElement
  const name = field.value.trim().replace(/\s+/g, ' ')
  if (name === '' || name === label.value) field.value = label.value
  else emit('rename', name)
}
</script>

<template>
  <section class="tray" :class="{ shown: isShown, over: isOver, tried: isTried }" :data-tray-place="at" :aria-label="`Tray ${label}`">
    <header>
      <LookMenu v-if="look" :band="look" @change="emit('look', $event)" />
      <input class="name" v-stands="label" :aria-label="`Name of the tray ${label}`" maxlength="200" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()">
      <button class="plain-button counts" type="button" :aria-pressed="isShown" :aria-label="`${records === null ? '…' : `${count(records)}, ${share(records, all)}`}: records in ${label}. Show them`" @click="emit('show')"><b class="figure" data-cell="count">{{ records === null ? '…' : count(records) }}</b><span class="figure second part">{{ records === null ? '' : share(records, all) }}</span></button>
      <v-menu>
        <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button second more" type="button" :aria-label="`What to do with the tray ${label}`">⋯</button></template>
        <v-list density="compact">
          <v-list-item title="One place earlier" :disabled="at === 0" @click="emit('move', -1)" />
          <v-list-item title="One place later" :disabled="at === gate.lines.length - 1" @click="emit('move', 1)" />
          <v-list-item title="Remove the tray" :subtitle="coins.length > 0 ? 'its values go back to the rail' : undefined" @click="emit('remove')" />
        </v-list>
      </v-menu>
    </header>
    <p v-for="(outcome, place) in gate.outcomes.slice(1)" :key="outcome.name" class="given"><span class="second">{{ outcome.name }}</span> <EntryField :entry="gate.lines[at]!.entries[place + 1] ?? null" :outcome="outcome" :given="valuesGiven(gate, place + 1)" :label="`${outcome.name} of ${label}`" placeholder="no value" @give="emit('give', place + 1, $event)" /></p>
    <div class="coins" data-scrolls>
      <slot name="coins" :coins="coins.slice(0, most)"><ValueCoin v-for="coin in coins.slice(0, most)" :key="coin.value" :coin="coin" :is-chosen="chosen.has(coin.value)" :colour="look?.colour" /></slot>
      <button v-if="coins.length > most" class="plain-button second further" type="button" :aria-label="`and ${count(coins.length - most)} more in ${label}: show more of them`" @click="most += MORE">and {{ count(coins.length - most) }} more</button>
      <span v-if="coins.length === 0" class="second hint">nothing in it yet</span>
    </div>
    <kbd v-if="digit" class="digit">{{ digit }}</kbd>
  </section>
</template>

<style scoped>
.tray { position: relative; display: grid; grid-template: auto auto minmax(0, 1fr) / minmax(0, 1fr); min-width: 0; min-height: 108px; padding: 0 8px 12px; border: solid var(--ink); border-width: 0 1.5px 1.5px; border-radius: 0 0 6px 6px; }
header { display: flex; min-width: 0; align-items: center; gap: 2px; min-height: 34px; }
.name { flex: 1 0 84px; min-width: 0; height: 26px; padding: 0 4px; font: inherit; font-weight: 700; color: var(--ink); background: none; border: 1px solid transparent; border-radius: 3px; text-overflow: ellipsis; }
.name:hover { border-color: var(--hairline); }
.name:focus { background: var(--sheet); }
/* Where the name leaves too little room the share goes to a second line, which is not seen. */
.counts { display: inline-flex; flex: 0 1 auto; flex-wrap: wrap; align-items: baseline; justify-content: flex-end; gap: 0 6px; min-width: 24px; height: 26px; line-height: 26px; overflow: hidden; white-space: nowrap; }
.counts b { font-size: 17px; }
.counts:hover b { text-decoration: underline; }
.part { font-size: 12.5px; }
.more { min-width: 24px; min-height: 26px; text-align: center; }
.given { display: flex; gap: 6px; align-items: baseline; padding: 0 4px 2px; font-size: 13px; }
.coins { display: flex; flex-wrap: wrap; gap: 5px; align-content: flex-start; min-height: 0; max-height: 100%; margin-top: auto; overflow: auto; padding: 3px; grid-row: 3; align-self: end; }
/* Its place is given by the board: what lies in other trays need not be laid out anew with it. */
@media (min-width: 761px) {
  .tray { contain: size layout; }
}
.further { min-height: 26px; padding: 0 4px; font-size: 13px; text-decoration: underline; text-underline-offset: 3px; }
.hint { font-size: 13px; padding: 4px; }
.shown { background: var(--tint); }
.over { border-color: var(--brass); background: color-mix(in srgb, var(--brass) 12%, var(--ground)); }
.tried::after { content: ''; position: absolute; top: 9px; left: -6px; width: 10px; height: 10px; background: var(--brass); border: 1.5px solid var(--ink); border-radius: 50%; }
.digit { position: absolute; left: 10px; bottom: -9px; margin: 0; background: var(--ground); color: var(--second); }
</style>
