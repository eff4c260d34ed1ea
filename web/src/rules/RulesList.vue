<script setup lang="ts">
/** A gate of any form as a list of its rules: what comes to each, what it takes, and what it would take alone. */
import type { Gate } from '@dime-gate/core/gate/document'
import { arrivals, type Counts, type FurtherCounts } from '@dime-gate/core/result/counts'
import { type LabelLook, type Tray, trayName } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import { count, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { aloneWords } from './course'
import { entryWords, ruleWords } from './rule-words'

const props = defineProps<{ gate: Gate; counts: Counts | null; further: FurtherCounts | null; labels: LabelLook[]; tray: Tray }>()
const emit = defineEmits<{ show: [tray: Tray] }>()

const hitPolicy = computed(() => (props.gate.form === 'rules' ? props.gate.hitPolicy : 'first'))
/** The parts of the other forms never overlap: alone each takes what it takes. */
const isAloneTold = computed(() => props.gate.form === 'rules')
const arriving = computed(() => (props.counts ? arrivals(props.counts, hitPolicy.value) : []))
const rows = computed(() => ruleWords(props.gate).map(({ takes, entries, note }, rule) => {
  const [label, ...others] = entries.map(entryWords)
  const caught = props.counts?.caught[rule] ?? null
  return { rule, takes, note, label: label || 'no value', look: props.labels.find((one) => one.label === label), others: others.filter((text) => text !== ''), caught, arrives: arriving.value[rule] ?? null, alone: props.further?.alone[rule] ?? null }
}))
const ends = computed(() => {
  const { counts, gate } = props
  const [label, ...others] = gate.otherwise?.map(entryWords) ?? []
  const rest = { kind: 'otherwise' as const, takes: 'Otherwise', label: label ?? '', look: props.labels.find((one) => one.label === label), others, records: counts?.otherwise ?? null }
  const unplaced = { kind: 'unplaced' as const, takes: 'What no rule takes', label: 'unplaced', look: undefined, others: [], records: counts?.unplaced ?? null }
  return [gate.otherwise ? rest : unplaced]
})
const isShown = (tray: Tray) => trayName(tray) === trayName(props.tray)
const toggle = (tray: Tray) => emit('show', isShown(tray) ? { kind: 'all' } : tray)
const width = (records: number | null) => `${props.counts && records ? (100 * records) / Math.max(1, props.counts.records) : 0}%`
</script>

<template>
  <div class="rules-list" tabindex="0" role="region" aria-label="Rules in order">
    <ol>
      <li v-for="row in rows" :key="row.rule" :class="{ shown: isShown({ kind: 'rule', rule: row.rule }) }" :data-rule="row.rule">
        <span class="figure second arrives" :title="row.arrives === null ? undefined : `${count(row.arrives)} records come to this rule`">{{ row.arrives === null ? '' : count(row.arrives) }}</span>
        <span class="figure second place">{{ row.rule + 1 }}</span>
        <span class="takes"><span :class="{ written: gate.form === 'rules' }" :title="row.takes">{{ row.takes }}</span><span v-if="row.note" class="second note">{{ row.note }}</span></span>
        <span class="gives"><MarkCoin v-if="row.look" :mark="row.look.mark" :colour="row.look.colour" /><span class="label" :title="row.label">{{ row.label }}</span><span v-if="row.others.length" class="second">{{ row.others.join(' · ') }}</span></span>
        <button class="plain-button counts" type="button" :aria-pressed="isShown({ kind: 'rule', rule: row.rule })" :aria-label="`${row.caught === null ? '…' : count(row.caught)} records taken by rule ${row.rule + 1}. Show them`" @click="toggle({ kind: 'rule', rule: row.rule })">
          <span class="track"><span class="bar" :style="{ width: width(row.caught), background: row.look?.colour ?? 'var(--second)' }" /></span>
          <span class="figure caught" data-cell="count">{{ row.caught === null ? '…' : count(row.caught) }}</span>
        </button>
        <button v-if="isAloneTold" class="plain-button second alone" type="button" :disabled="!row.alone" :aria-pressed="isShown({ kind: 'alone', rule: row.rule })" @click="toggle({ kind: 'alone', rule: row.rule })">{{ aloneWords(row.caught, row.alone) }}</button>
      </li>
      <li v-for="end in ends" :key="end.kind" class="end" :class="{ shown: isShown({ kind: end.kind }) }" :data-rule="end.kind">
        <span /><span />
        <b class="takes">{{ end.takes }}</b>
        <span class="gives"><MarkCoin v-if="end.look" :mark="end.look.mark" :colour="end.look.colour" /><span class="label" :class="{ second: end.kind === 'unplaced' }">{{ end.label }}</span><span v-if="end.others.length" class="second">{{ end.others.join(' · ') }}</span></span>
        <button class="plain-button counts" type="button" :disabled="!end.records" :aria-pressed="isShown({ kind: end.kind })" :aria-label="`${end.records === null ? '…' : count(end.records)} records: ${end.takes}. Show them`" @click="toggle({ kind: end.kind })">
          <span class="track"><span class="bar" :style="{ width: width(end.records), background: end.look?.colour ?? 'var(--second)' }" /></span>
          <span class="figure caught" data-cell="count">{{ end.records === null ? '…' : count(end.records) }}</span>
        </button>
        <span v-if="isAloneTold" class="second alone">{{ end.records === null || !counts ? '' : share(end.records, counts.records) }}</span>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.rules-list { min-height: 0; overflow: auto; }
ol { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: 52px 24px minmax(180px, 2fr) minmax(120px, 1fr) minmax(100px, 150px) 88px; gap: 0 12px; align-items: center; min-height: 40px; padding: 4px 0; border-bottom: 1px solid var(--hairline); }
li:not(:has(.alone)) { grid-template-columns: 52px 24px minmax(180px, 2fr) minmax(120px, 1fr) minmax(110px, 200px); }
.arrives { text-align: right; font-size: 12.5px; }
.place { text-align: right; }
.takes { min-width: 0; display: grid; gap: 1px; overflow-wrap: anywhere; }
.written { font-family: var(--figures); font-size: 13px; line-height: 1.4; }
.note { font-size: 13px; }
.gives { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 7px; min-width: 0; }
.label { font-weight: 600; overflow-wrap: anywhere; }
.label.second { font-weight: 400; }
.counts { display: grid; grid-template-columns: 1fr auto; gap: 10px; align-items: center; min-height: 28px; padding: 0 4px; border-radius: 3px; }
.track { height: 10px; }
.bar { display: block; height: 100%; min-width: 1px; }
.caught { font-weight: 600; min-width: 52px; text-align: right; }
.counts:not(:disabled):hover .caught, .alone:not(:disabled):hover { text-decoration: underline; }
.counts:disabled { cursor: default; }
.alone { font-size: 13px; text-align: right; white-space: nowrap; min-height: 24px; }
.alone:disabled { cursor: default; }
.shown { background: var(--tint); }
@media (max-width: 760px) {
  li, li:not(:has(.alone)) { grid-template-columns: 28px minmax(0, 1fr) auto; padding: 8px 0; }
  .arrives { display: none; }
  li > span:first-child { display: none; }
  .gives { grid-column: 2; }
  .counts { grid-column: 3; grid-row: 1 / span 2; grid-template-columns: auto; }
  .track { display: none; }
  .alone { grid-column: 2; text-align: left; }
}
</style>
