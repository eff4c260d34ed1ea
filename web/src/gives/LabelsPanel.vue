<script setup lang="ts">
/** What the gate gives: its labels in their order, with their looks and ranks, and its further outcomes. */
import type { Gate, Label, OutcomeColumn } from '@dime-gate/core/gate/document'
import { editLabel, labelsOf, moveLabel, rankLabels, recolourLabels, removeLabel, renameLabel } from '@dime-gate/core/gate/edit-labels'
import { addOutcome, editOutcome, removeOutcome } from '@dime-gate/core/gate/edit-outcomes'
import { entriesOf, labelGiven } from '@dime-gate/core/gate/entries'
import { PALETTE_NAMES, paletteColours, type PaletteName } from '@dime-gate/core/gate/palette'
import type { ValueKind } from '@dime-gate/core/value/value'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { count } from '../shared/format'
import LookMenu from '../shared/LookMenu.vue'
import { useCarrying } from '../shared/useCarrying'
import { TYPE_WORDS } from '../shared/words'
import { vStands } from '../shared/v-stands'

/** @property records by label, how many get it */
const props = defineProps<{ gate: Gate; records: ReadonlyMap<string, number> }>()
const emit = defineEmits<{ change: [gate: Gate]; show: [label: string] }>()

const list = useTemplateRef<HTMLElement>('list')
const labels = computed(() => labelsOf(props.gate))
const { carried, grab } = useCarrying(() => list.value?.children ?? [], (from, to) => emit('change', moveLabel(props.gate, from, to)))
const isRanked = computed(() => labels.value.length > 0 && labels.value.every(({ rank }) => rank !== null))
/** The way in which a palette is laid on: pressed again it is turned about. */
const lastPalette = ref<{ name: PaletteName; isReversed: boolean } | null>(null)

function rename(label: Label, event: Event): void {
  const field = event.target as HTMLInputElement
  const name = field.value.trim().replace(/\s+/g, ' ')
  if (name === '') field.value = label.value
  else if (name !== label.value) emit('change', renameLabel(props.gate, label.value, name))
}

function move(from: number, by: number): void {
  const to = from + by
  if (to < 0 || to >= labels.value.length) return
  emit('change', moveLabel(props.gate, from, to))
  void nextTick(() => list.value?.querySelectorAll<HTMLElement>('.grip')[to]?.focus())
}

function key(event: KeyboardEvent, at: number): void {
  if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return
  event.preventDefault()
  event.stopPropagation()
  move(at, event.key === 'ArrowUp' ? -1 : 1)
}

function recolour(name: PaletteName): void {
  const isReversed = lastPalette.value?.name === name ? !lastPalette.value.isReversed : props.gate.form !== 'scale'
  lastPalette.value = { name, isReversed }
  emit('change', recolourLabels(props.gate, name, isReversed))
}

const KINDS: ValueKind[] = ['text', 'number', 'date', 'boolean']
const kindWords = (kind: ValueKind) => TYPE_WORDS[kind as keyof typeof TYPE_WORDS] ?? kind
function add(): void {
  const taken = new Set(props.gate.outcomes.map(({ name }) => name))
  const name = ['Wording', 'Points', 'Due by'].find((one) => !taken.has(one)) ?? `Outcome ${props.gate.outcomes.length + 1}`
  emit('change', addOutcome(props.gate, name, name === 'Points' ? 'number' : name === 'Due by' ? 'date' : 'text'))
}

function renameOutcome(at: number, { name }: OutcomeColumn, event: Event): void {
  const field = event.target as HTMLInputElement
  const wanted = field.value.trim()
  if (wanted === '' || props.gate.outcomes.some((one, place) => place !== at && one.name === wanted)) field.value = name
  else emit('change', editOutcome(props.gate, at, { name: wanted }))
}
/** Bands have an order of their own. */
const isOrdered = computed(() => props.gate.form !== 'scale')
const isGiven = (value: string) => [...entriesOf(props.gate), props.gate.otherwise ?? []].some((entries) => labelGiven(entries) === value)
/** A kind can be changed as long as no rule gives a value of another. */
const isFree = (at: number) => [...entriesOf(props.gate), props.gate.otherwise ?? []].every((entries) => !entries[at])
</script>

<template>
  <section>
    <p v-if="labels.length === 0" class="second">Labels appear here as they are given.</p>
    <ol ref="list">
      <li v-for="(label, at) in labels" :key="label.value" :class="{ carried: carried === at }" :data-label="label.value">
        <button v-if="isOrdered" class="plain-button grip" type="button" :aria-label="`Move ${label.value} with the arrow keys, or drag it`" @pointerdown="grab($event, at)" @keydown="key($event, at)"><span aria-hidden="true">≡</span></button><span v-else />
        <LookMenu :band="{ label: label.value, colour: label.colour, mark: label.mark }" @change="emit('change', editLabel(gate, label.value, $event))" />
        <input class="name" v-stands="label.value" :aria-label="`Name of the label ${label.value}`" maxlength="200" @change="rename(label, $event)" @keydown.enter="($event.target as HTMLInputElement).blur()">
        <span v-if="isRanked" class="second figure rank" :title="`Rank ${label.rank}`">{{ label.rank }}</span>
        <button v-if="!isGiven(label.value)" class="plain-button second drop" type="button" :aria-label="`Remove the label ${label.value}, which nothing gives`" @click="emit('change', removeLabel(gate, label.value))">×</button>
        <button v-else class="plain-button figure records" type="button" :aria-label="`The records that get ${label.value}`" @click="emit('show', label.value)">{{ records.has(label.value) ? count(records.get(label.value)!) : '' }}</button>
      </li>
    </ol>
    <template v-if="labels.length > 0">
      <v-checkbox label="Ranked: the first is the highest" :model-value="isRanked" @update:model-value="emit('change', rankLabels(gate, !isRanked))" />
      <div class="palettes" role="group" aria-label="Colours of the labels">
        <button v-for="name in PALETTE_NAMES" :key="name" class="plain-button palette" type="button" :title="`Colour the labels ${name}; once more turns it about`" @click="recolour(name)"><span v-for="colour in paletteColours(name, 4)" :key="colour" :style="{ background: colour }" class="swatch" /> {{ name }}</button>
      </div>
    </template>
    <h2>Given beside the label</h2>
    <ul>
      <template v-for="(outcome, at) in gate.outcomes" :key="at">
        <li v-if="at > 0" class="outcome">
          <input class="name" v-stands="outcome.name" aria-label="Name of the outcome" maxlength="200" @change="renameOutcome(at, outcome, $event)" @keydown.enter="($event.target as HTMLInputElement).blur()">
          <v-menu>
            <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button kind" type="button" :disabled="!isFree(at)" :title="isFree(at) ? 'What kind of value it is' : 'Values of this kind are given'">{{ kindWords(outcome.type) }}</button></template>
            <v-list density="compact"><v-list-item v-for="kind in KINDS" :key="kind" :title="kindWords(kind)" @click="emit('change', editOutcome(gate, at, { type: kind }))" /></v-list>
          </v-menu>
          <button class="plain-button second drop" type="button" :aria-label="`Remove ${outcome.name}`" @click="emit('change', removeOutcome(gate, at))">×</button>
        </li>
      </template>
    </ul>
    <button class="plain-button act" type="button" @click="add">Add an outcome</button>
  </section>
</template>

<style scoped>
section { display: grid; gap: 8px; }
ol, ul { list-style: none; margin: 0; padding: 0; }
ol li { display: grid; grid-template-columns: 22px 26px minmax(0, 1fr) auto 52px; gap: 0 4px; align-items: center; min-height: 32px; border-bottom: 1px solid var(--hairline); }
.carried { background: var(--tint); }
.grip { min-height: 26px; text-align: center; color: var(--second); cursor: grab; touch-action: none; }
.name { min-width: 0; height: 26px; padding: 0 4px; font: inherit; font-weight: 600; color: var(--ink); background: none; border: 1px solid transparent; border-radius: 3px; text-overflow: ellipsis; }
.name:hover { border-color: var(--hairline); }
.name:focus { background: var(--sheet); }
.rank { font-size: 12.5px; padding-right: 6px; }
.records { text-align: right; min-height: 26px; font-weight: 600; }
.records:hover { text-decoration: underline; }
.palettes { display: flex; flex-wrap: wrap; gap: 2px 12px; }
.palette { display: inline-flex; align-items: center; gap: 1px; min-height: 26px; font-size: 13px; }
.swatch { width: 10px; height: 14px; }
.swatch:last-of-type { margin-right: 5px; }
.outcome { display: grid; grid-template-columns: minmax(0, 1fr) auto 26px; gap: 6px; align-items: center; min-height: 32px; border-bottom: 1px solid var(--hairline); }
.kind { min-height: 26px; color: var(--pine); border-bottom: 1.5px dotted var(--pine); }
.kind:disabled { color: var(--second); border-color: transparent; cursor: default; }
.drop { min-height: 26px; text-align: center; }
.act { justify-self: start; min-height: 26px; color: var(--pine); font-weight: 600; }
</style>
