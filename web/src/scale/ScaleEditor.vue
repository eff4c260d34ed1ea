<script setup lang="ts">
/** A scale, to be edited on the values themselves: its ends, its cut line, its bands, and the chosen cut beside them. */
import { addCut, type Edit, editBand, type End, moveCut, recolour, removeCut, setEnd, setOwner, setTolerance } from '@dime-gate/core/gate/edit-scale'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { Bound } from '@dime-gate/core/gate/interval'
import type { PaletteName } from '@dime-gate/core/gate/palette'
import type { Band } from '@dime-gate/core/gate/scale-gate'
import type { Counts } from '@dime-gate/core/result/counts'
import type { Tray } from '@dime-gate/core/result/tray'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { Spread } from '../records/session'
import { count } from '../shared/format'
import { useShortcuts } from '../shared/useShortcuts'
import { refusalWords } from '../shared/words'
import BandTable from './BandTable.vue'
import CutLine from './CutLine.vue'
import CutPanel from './CutPanel.vue'
import EndField from './EndField.vue'
import { firstTolerance, middleOfBand } from './line-geometry'
import ToleranceField from '../shared/ToleranceField.vue'

/** @property spread null as long as the values are on their way */
const props = defineProps<{ gate: ScaleGate; counts: Counts | null; spread: Spread | null; fetched: number | null; records: number }>()
const emit = defineEmits<{
  /** @param step what belongs to one drag, or one run of keys, is undone at once */
  change: [gate: ScaleGate, step: string | null]
  changed: []
}>()
const tray = defineModel<Tray>('tray', { required: true })

const refused = ref('')
const selected = ref<number | null>(null)
const line = useTemplateRef('line')
const editor = useTemplateRef<HTMLElement>('editor')
/** What the cuts are on. */
const on = computed(() => props.gate.inputs.find(({ name }) => name === props.gate.on)!)
const histogram = computed(() => props.spread?.histogram ?? null)
useShortcuts({ c: addInTheMiddle })

watch(() => props.gate, (now) => {
  // What was refused of an earlier gate is of no interest now.
  refused.value = ''
  if (selected.value !== null && selected.value >= now.cuts.length) selected.value = null
})

function edit(next: Edit, step: string | null = null): void {
  if ('refused' in next) {
    refused.value = refusalWords(next.refused)
    return
  }
  emit('change', next.gate, step)
}

const change = (gate: ScaleGate) => edit({ gate })

function add(at: string): void {
  const next = addCut(props.gate, at)
  edit(next)
  if ('gate' in next) selected.value = next.gate.cuts.findIndex((cut) => cut.at === at)
}

function addInTheMiddle(): void {
  const { value: chosen } = tray
  if (line.value) add(middleOfBand(props.gate, line.value.scale, props.spread?.places ?? 0, chosen.kind === 'rule' ? chosen.rule : null))
}

function changeOwner(cut: number, owner?: 'below' | 'above'): void {
  change(setOwner(props.gate, cut, owner ?? (props.gate.cuts[cut]!.owner === 'above' ? 'below' : 'above')))
}

/** The focus goes on to the cut that took its place, or where another can be made. */
async function remove(cut: number, keep: 'below' | 'above' = 'below'): Promise<void> {
  const next = removeCut(props.gate, cut, keep)
  change(next)
  await nextTick()
  const place = Math.min(cut, next.cuts.length - 1)
  editor.value?.querySelector<HTMLElement>(place < 0 ? '.act' : `[data-post="${place}"]`)?.focus()
}
const end = (which: End, bound: Bound | null) => edit(setEnd(props.gate, which, bound))
const editOneBand = (band: number, look: Partial<Band>) => change(editBand(props.gate, band, look))
</script>

<template>
  <div ref="editor" class="editor">
    <div class="scale">
      <div class="facts second">
        <slot name="inputs" />
        <EndField end="floor" :bound="gate.floor" :suggestion="String(Math.min(0, histogram?.from ?? 0))" @change="end('floor', $event)" />
        <EndField end="ceiling" :bound="gate.ceiling" :suggestion="String(Math.max(100, histogram?.to ?? 100))" @change="end('ceiling', $event)" />
        <ToleranceField v-if="spread" :tolerance="on.tolerance" :unit="on.unit" :suggestion="firstTolerance(spread.places)" @change="change(setTolerance(gate, $event))" />
        <span class="space" />
        <button class="plain-button act" type="button" @click="addInTheMiddle">Add a cut<kbd>C</kbd></button>
      </div>
      <p v-if="refused" class="refused trouble" role="alert">{{ refused }} <button class="plain-button second" type="button" aria-label="Dismiss" @click="refused = ''">×</button></p>
      <div v-if="!spread" class="fetching" role="status">
        <p class="second">Fetching <b>{{ gate.on }}</b>: <span class="figure">{{ count(fetched ?? 0) }}</span> of <span class="figure">{{ count(records) }}</span> values</p>
        <v-progress-linear :model-value="(100 * (fetched ?? 0)) / Math.max(1, records)" color="primary" height="3" aria-label="Values fetched" />
      </div>
      <CutLine
        v-else ref="line" :gate="gate" :counts="counts" :spread="spread.histogram" :places="spread.places" :selected="selected"
        @select="selected = $event" @move="(cut, at, step) => edit(moveCut(gate, cut, at), step)" @moved="emit('changed')" @add="add" @owner="changeOwner" @remove="remove"
        @on-cut="tray = { kind: 'edge', of: gate.on, at: gate.cuts[$event]!.at, side: 'on' }"
      />
      <BandTable :gate="gate" :counts="counts" :tray="tray" @show="tray = $event" @edit="editOneBand" />
    </div>
    <CutPanel class="beside" :gate="gate" :selected="selected" @owner="changeOwner" @remove="remove" @palette="(name: PaletteName) => change(recolour(gate, name))"><slot name="beside" /></CutPanel>
  </div>
</template>

<style scoped>
.editor { display: grid; grid-template-columns: minmax(0, 1fr) 318px; grid-template-rows: minmax(0, auto); min-height: 0; max-height: calc(100dvh - 284px); }
.scale { position: relative; display: grid; grid-template-rows: auto auto minmax(58px, auto); align-content: start; padding: 0 16px 10px 20px; min-width: 0; min-height: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; }
.fetching { display: grid; align-content: center; gap: 8px; height: 208px; max-width: 420px; }
.refused { position: absolute; top: 1px; right: 128px; z-index: 3; max-width: 60%; padding: 3px 10px; background: var(--sheet); border: 1px solid var(--brick); border-radius: 4px; }
.beside { padding: 4px 20px 10px 18px; border-left: 1px solid var(--hairline); overflow: auto; }
.scale :deep(.bands) { max-height: 204px; overflow: auto; }
@media (max-width: 980px) {
  .editor { grid-template-columns: minmax(0, 1fr); grid-template-rows: auto; max-height: none; }
  .beside { border-left: 0; padding-left: 20px; }
}
</style>
