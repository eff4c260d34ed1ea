<script setup lang="ts">
/** The bands from the top down: mark, name, limits, and how many records each one takes. */
import type { Entry, ScaleGate } from '@dime-gate/core/gate/document'
import { bandInterval } from '@dime-gate/core/gate/form'
import { type Band, bandsOf } from '@dime-gate/core/gate/scale-gate'
import type { Counts } from '@dime-gate/core/result/counts'
import type { Tray } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import { count, share } from '../shared/format'
import { intervalWords } from '../shared/words'
import EntryField from '../gives/EntryField.vue'
import { valuesGiven } from '../gives/values-given'
import LookMenu from '../shared/LookMenu.vue'
import { vStands } from '../shared/v-stands'

const props = defineProps<{ gate: ScaleGate; counts: Counts | null; tray: Tray }>()
const emit = defineEmits<{ show: [tray: Tray]; edit: [band: number, change: Partial<Band>]; give: [band: number, outcome: number, entry: Entry] }>()

const rows = computed(() => {
  const most = Math.max(1, ...(props.counts?.caught ?? []))
  return bandsOf(props.gate).map((band, index) => {
    const records = props.counts?.caught[index] ?? null
    const limits = intervalWords(bandInterval(props.gate, index))
    if (records === null) return { band, index, limits, records: '…', part: '', length: '0' }
    return { band, index, limits, records: count(records), part: share(records, props.counts!.records), length: `${(100 * records) / most}%` }
  }).reverse()
})

function rename(index: number, event: Event): void {
  const input = event.target as HTMLInputElement
  const label = input.value.trim().replace(/\s+/g, ' ')
  const before = bandsOf(props.gate)[index]!.label
  if (label === '') input.value = before
  else if (label !== before) emit('edit', index, { label })
}

const isShown = (index: number) => props.tray.kind === 'rule' && props.tray.rule === index
</script>

<template>
  <ul class="bands" :class="{ long: rows.some(({ limits }) => limits.length > 22) }" aria-label="Bands, highest first">
    <li v-for="{ band, index, limits, records, part, length } in rows" :key="index" :class="{ shown: isShown(index), wide: gate.outcomes.length > 1 }" :data-band="band.label">
      <LookMenu :band="band" @change="emit('edit', index, $event)" />
      <input class="name" v-stands="band.label" :aria-label="`Name of the band ${limits}`" maxlength="120" @change="rename(index, $event)" @keydown.enter="($event.target as HTMLInputElement).blur()">
      <span v-if="gate.outcomes.length > 1" class="others">
        <template v-for="(outcome, at) in gate.outcomes" :key="outcome.name">
          <span v-if="at > 0" class="other"><span class="second">{{ outcome.name }}</span> <EntryField :entry="gate.bands[index]!.entries[at] ?? null" :outcome="outcome" :given="valuesGiven(gate, at)" :label="`${outcome.name} of ${band.label}`" placeholder="no value" @give="emit('give', index, at, $event)" /></span>
        </template>
      </span>
      <button class="plain-button shows" type="button" :aria-pressed="isShown(index)" :aria-label="`${limits} ${records} ${part}, ${band.label}. Show these records`" @click="emit('show', isShown(index) ? { kind: 'all' } : { kind: 'rule', rule: index })">
        <span class="second limits">{{ limits }}</span>
        <span class="track"><span v-if="counts" class="bar" :style="{ width: length, background: band.colour }" /></span>
        <span class="figure records" data-cell="count">{{ records }}</span>
        <span class="figure second part">{{ part }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.bands { list-style: none; margin: 0; padding: 0; border-top: 1px solid var(--hairline); }
li { display: grid; grid-template-columns: 26px minmax(90px, 150px) 1fr; align-items: center; height: 29px; border-bottom: 1px solid var(--hairline); }
li.wide { grid-template-columns: 26px minmax(90px, 140px) minmax(0, auto) 1fr; height: auto; min-height: 29px; }
.others { display: flex; flex-wrap: wrap; gap: 0 12px; max-width: 300px; font-size: 13px; }
.other { display: inline-flex; align-items: baseline; gap: 5px; }
.name { min-width: 0; height: 24px; padding: 0 4px; font: inherit; font-weight: 600; color: var(--ink); background: none; border: 1px solid transparent; border-radius: 3px; text-overflow: ellipsis; }
.name:hover { border-color: var(--hairline); }
.name:focus { background: var(--sheet); }
.shows { display: grid; grid-template-columns: minmax(110px, 0.5fr) 1fr 64px 64px; gap: 12px; align-items: center; height: 100%; padding: 0 4px 0 12px; }
.long .shows { grid-template-columns: minmax(196px, 0.5fr) 1fr 64px 64px; }
.limits { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.track { height: 10px; }
.bar { display: block; height: 100%; min-width: 1px; }
.records { font-weight: 600; text-align: right; }
.part { text-align: right; font-size: 13px; }
.shown { background: var(--tint); }
.shows:hover .limits { text-decoration: underline; }
@media (max-width: 640px) {
  li { grid-template-columns: 26px minmax(80px, 1fr) 1.6fr; }
  .shows { grid-template-columns: 1fr auto; gap: 8px; }
  .track, .part { display: none; }
}
</style>
