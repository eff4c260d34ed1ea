<script setup lang="ts">
/** A scale, to be edited on the values themselves: its ends, its cut line, its bands, and the chosen cut beside them. */
import type { End } from '@dime-gate/core/gate/edit-cuts'
import { addCut, type Edit, editBand, giveBand, moveCut, removeCut, setCuts, setEnd, setOwner, setOwners, setTolerance, takeChart } from '@dime-gate/core/gate/edit-scale'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { Bound } from '@dime-gate/core/gate/interval'
import { offNumbers, onNumbers } from '@dime-gate/core/gate/scale-axis'
import type { Band } from '@dime-gate/core/gate/scale-gate'
import type { Counts } from '@dime-gate/core/result/counts'
import type { Tray } from '@dime-gate/core/result/tray'
import type { Remote } from 'comlink'
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { RecordsWorker } from '../records/records-worker'
import type { Spread } from '../records/session'
import { useCommands } from '../finder/commands'
import { refusalWords } from '../shared/words'
import BandTable from './BandTable.vue'
import CutLine from './CutLine.vue'
import CutsMenu from './CutsMenu.vue'
import CutStrip from './CutStrip.vue'
import EndField from './EndField.vue'
import OtherMenu from './OtherMenu.vue'
import StretchSeen from './StretchSeen.vue'
import { useOtherTable } from './useOtherTable'
import { firstTolerance, middleOfBand } from './line-geometry'
import { lineKindOf, axisWords } from './axis-words'
import ToleranceField from '../shared/ToleranceField.vue'

/** @property spread null as long as the values are on their way */
const props = defineProps<{ gate: ScaleGate; counts: Counts | null; spread: Spread | null; session: Remote<RecordsWorker>; gateId: number; tableId: number; asOf: string }>()
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
const words = computed(() => axisWords(lineKindOf(props.gate, props.gate.on)))
/** The same with its cuts as numbers: what the line knows. */
const lined = computed(() => onNumbers(props.gate, words.value.kind))
/** Where the ends would first be: of numbers around nought and a hundred, of anything else around what there is. */
const ends = computed(() => {
  const { from, to } = props.spread?.histogram ?? { from: 0, to: 100 }
  const [least, most] = words.value.kind === 'number' ? [Math.min(0, from), Math.max(100, to)] : [from, to]
  return { floor: String(least), ceiling: String(most) }
})
/** The stretch that is looked at more closely; null for all of it. */
const seen = shallowRef<readonly [from: number, to: number] | null>(null)
const closer = shallowRef<Spread | null>(null)
watch([() => seen.value, () => props.spread], async ([stretch]) => {
  closer.value = null
  const found = stretch && props.spread ? await props.session.spread(props.gate.on, stretch) : null
  if (seen.value === stretch) closer.value = found
})
watch(() => props.gate.on, () => (seen.value = null))

/** Another table, laid over the line; it follows what the cuts are on, and the stretch that is looked at. */
const laid = ref<number | null>(null)
const { other, lay, clear } = useOtherTable(props.gateId)
watch([laid, () => seen.value, () => JSON.stringify([props.gate.on, props.gate.inputs]), () => props.asOf], async ([id]) => {
  if (id === null) clear()
  else if (!(await lay(props.gate, id, props.asOf, seen.value))) laid.value = null
})

/** Closer to the chosen cut, from one of its neighbours to the other; else to the chosen band. */
function lookCloser(): void {
  if (seen.value) return void (seen.value = null)
  const whole = line.value?.scale.domain() as [number, number] | undefined
  if (!whole) return
  const stops = [whole[0], ...lined.value.cuts.map(({ at }) => Number(at)), whole[1]]
  const { value: chosen } = tray
  const at = selected.value !== null ? [selected.value, selected.value + 2] : chosen.kind === 'rule' ? [chosen.rule, chosen.rule + 1] : null
  if (at) look([stops[at[0]!]!, stops[at[1]!]!])
}
/** A little on either side, so that what ends there can be taken hold of. */
function look([from, to]: readonly [number, number]): void {
  const room = (to - from) * 0.04
  const least = 10 ** -(props.spread?.places ?? 0)
  if (to - from > least) seen.value = [from - room, to + room]
}
useCommands([
  { words: 'Add a cut', key: 'c', act: addInTheMiddle },
  { words: 'Look closer at the chosen cut or band, or see all of it', key: 'z', act: lookCloser, isOff: () => seen.value === null && selected.value === null && tray.value.kind !== 'rule' },
])

watch(() => props.gate, (now) => {
  // What was refused of an earlier gate is of no interest now.
  refused.value = ''
  if (selected.value !== null && selected.value >= now.cuts.length) selected.value = null
})

function edit(next: Edit, step: string | null = null): void {
  if ('refused' in next) {
    refused.value = refusalWords(next.refused, words.value.say)
    return
  }
  emit('change', next.gate, step)
}

const change = (gate: ScaleGate) => edit({ gate })
/** What was done to the line. */
const editLine = (next: Edit, step: string | null = null) => edit('refused' in next ? next : { gate: offNumbers(next.gate, words.value.kind, props.gate) }, step)

function add(at: string): void {
  const next = addCut(lined.value, at)
  editLine(next)
  if ('gate' in next) selected.value = next.gate.cuts.findIndex((cut) => cut.at === at)
}

function addInTheMiddle(): void {
  const { value: chosen } = tray
  if (line.value) add(middleOfBand(lined.value, line.value.scale, props.spread?.places ?? 0, chosen.kind === 'rule' ? chosen.rule : null, words.value.round))
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
  editor.value?.querySelector<HTMLElement>(place < 0 ? '[data-add-cut]' : `[data-post="${place}"]`)?.focus()
}
const end = (which: End, bound: Bound | null) => editLine(setEnd(lined.value, which, bound))
const editOneBand = (band: number, look: Partial<Band>) => change(editBand(props.gate, band, look))
</script>

<template>
  <div ref="editor" class="scale">
    <div class="facts second" :class="{ closer: seen }">
      <slot name="inputs" />
      <EndField end="floor" :words="words" :bound="lined.floor" :suggestion="ends.floor" @change="end('floor', $event)" />
      <EndField end="ceiling" :words="words" :bound="lined.ceiling" :suggestion="ends.ceiling" @change="end('ceiling', $event)" />
      <ToleranceField v-if="spread && words.kind === 'number'" :tolerance="on.tolerance" :unit="on.unit" :suggestion="firstTolerance(spread.places)" @change="change(setTolerance(gate, $event))" />
      <span class="space" />
      <StretchSeen v-if="seen && spread?.histogram" :gate="lined" :whole="spread.histogram" :seen="seen" :words="words" :places="spread.places" @all="seen = null" />
      <CutsMenu v-if="spread" :side="lined" :line="words" :places="spread.places" :session="session" has-labels words="Cut by …" @chart="change(takeChart(gate, $event))" @take="editLine(setCuts(lined, $event))" />
      <button class="plain-button act" type="button" data-add-cut @click="addInTheMiddle">Add a cut<kbd>C</kbd></button>
    </div>
    <p v-if="refused" class="refused trouble" role="alert">{{ refused }} <button class="plain-button second" type="button" aria-label="Dismiss" @click="refused = ''">×</button></p>
    <div v-if="!spread" class="coming" />
    <template v-else>
      <CutLine
        ref="line" :gate="lined" :words="words" :counts="counts" :spread="(seen ? closer : spread)?.histogram ?? null" :places="spread.places" :selected="selected" :seen="seen" :other="other?.histogram ?? null"
        @select="selected = $event" @move="(cut, at, step) => editLine(moveCut(lined, cut, at), step)" @moved="emit('changed')" @add="add" @owner="changeOwner" @remove="remove" @look="look"
        @on-cut="tray = { kind: 'edge', of: gate.on, at: gate.cuts[$event]!.at, side: 'on' }"
      />
      <CutStrip :gate="lined" :words="words" :selected="selected" @owner="changeOwner" @owners="change(setOwners(gate, $event))" @remove="remove"><OtherMenu :table-id="tableId" :other="other" @lay="laid = $event" @clear="laid = null" /></CutStrip>
    </template>
    <BandTable :gate="gate" :counts="counts" :tray="tray" @show="tray = $event" @edit="editOneBand" @give="(band, outcome, entry) => change(giveBand(gate, band, outcome, entry))" />
  </div>
</template>

<style scoped>
.scale { position: relative; display: grid; grid-template-rows: auto auto auto minmax(58px, auto); align-content: start; padding: 0 16px 6px 20px; min-width: 0; min-height: 0; overflow: auto; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 22px; min-height: 30px; }
.closer { column-gap: 15px; }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; }
.coming { height: 208px; }
.refused { position: absolute; top: 1px; right: 128px; z-index: 3; max-width: 60%; padding: 3px 10px; background: var(--sheet); border: 1px solid var(--brick); border-radius: 4px; }
</style>
