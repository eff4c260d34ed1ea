<script setup lang="ts">
/** A grid, to be edited on the values themselves: two sides that cross, a label painted on each crossing, and the records in it. */
import type { Entry, GridGate, GridSide } from '@dime-gate/core/gate/document'
import { addSideCut, type CellPlace, giveCell, type GridEdit, moveSideCut, paint, removeSideCut, setSideCuts, setSideOwner, type SideName, sortIntoLine, turned } from '@dime-gate/core/gate/edit-grid'
import { addLabel, labelsOf } from '@dime-gate/core/gate/edit-labels'
import { labelGiven, placesOfCells } from '@dime-gate/core/gate/entries'
import { sideLength } from '@dime-gate/core/gate/form'
import { cellTest, lineTest } from '@dime-gate/core/rule/cell-test'
import { offNumbers, onNumbers } from '@dime-gate/core/gate/scale-axis'
import type { Counts } from '@dime-gate/core/result/counts'
import { type LabelTray, type Tray, trayName } from '@dime-gate/core/result/tray'
import type { Remote } from 'comlink'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { type Command, useCommands } from '../finder/commands'
import EntryField from '../gives/EntryField.vue'
import { valuesGiven } from '../gives/values-given'
import type { RecordsWorker } from '../records/records-worker'
import { axisWords, lineKindOf } from '../scale/axis-words'
import CutsMenu from '../scale/CutsMenu.vue'
import { count, counted, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { useDropping } from '../shared/useDropping'
import { useThrottled } from '../shared/useThrottled'
import { lineWords, refusalWords, valueWords } from '../shared/words'
import { cellsBetween, dotPath, dotsAcross, dotUnit } from './grid-geometry'
import LineMenu from './LineMenu.vue'
import SideAxis from './SideAxis.vue'
import { useSide } from './useSide'

/** @property renewed moves whenever values of the table have changed @property coin the rule that takes a record which is tried */
const props = defineProps<{ gate: GridGate; counts: Counts | null; labels: readonly LabelTray[]; session: Remote<RecordsWorker>; tick: number; renewed: number; coin: number | string | null }>()
const emit = defineEmits<{
  /** @param step what belongs to one drag, or one run of keys, is undone at once */
  change: [gate: GridGate, step: string | null]
  changed: []
}>()
const tray = defineModel<Tray>('tray', { required: true })

const records = computed(() => props.counts?.records ?? null)
const sides = { down: useSide(() => props.gate, 'down', props.session, () => props.tick, () => props.renewed), across: useSide(() => props.gate, 'across', props.session, () => props.tick, () => props.renewed) }
const shape = computed(() => ({ down: sideLength(props.gate.down), across: sideLength(props.gate.across) }))
const lines = (side: SideName) => Array.from({ length: shape.value[side] }, (_, line) => line)
const axis = { down: computed(() => axisWords(lineKindOf(props.gate, props.gate.down.on))), across: computed(() => axisWords(lineKindOf(props.gate, props.gate.across.on))) }
/** The same with the cuts of its sides as numbers: what the lines know. */
const lined = computed((): GridGate => {
  const side = (name: SideName): GridSide => { const of = props.gate[name]; return of.kind === 'scale' ? onNumbers(of, axis[name].value.kind) : of }
  return { ...props.gate, down: side('down'), across: side('across') }
})
const scales = computed(() => {
  const side = (name: SideName) => { const of = lined.value[name]; return of.kind === 'scale' ? of : null }
  return { down: side('down'), across: side('across') }
})
function fromLines(gate: GridGate): GridGate {
  const side = (name: SideName): GridSide => { const [of, before] = [gate[name], props.gate[name]]; return of.kind === 'scale' && before.kind === 'scale' ? offNumbers(of, axis[name].value.kind, before) : of }
  return { ...gate, down: side('down'), across: side('across') }
}
const refused = ref('')
watch(() => props.gate, () => (refused.value = ''))

/** By cell that gives nothing, how many records there would be. */
const bare = shallowRef<ReadonlyMap<string, number>>(new Map())
const nameOf = ([down, across]: CellPlace) => `${down} ${across}`
const countBare = useThrottled(async () => {
  const { gate } = props
  const empty = gate.cells.flatMap((line, down) => line.flatMap((entries, across) => (entries ? [] : [[down, across] as const])))
  const tests = empty.map(([down, across]) => cellTest(gate, down, across) ?? 'false')
  const found = tests.length === 0 || props.tick === 0 ? [] : await props.session.countsWhere(tests)
  if (props.gate === gate) bare.value = new Map(empty.map((place, at) => [nameOf(place), found[at] ?? 0]))
}, 120)
watch(() => [props.tick, props.gate], countBare, { immediate: true })

/** Where the lines between the cells run, for the feet of the posts. */
const board = useTemplateRef<HTMLElement>('board')
const size = ref({ width: 600, height: 300 })
/** Whether there is room for no more than one line of words in a cell. */
const isLow = computed(() => size.value.height / shape.value.down < 62)
/** What stands over the dots of a cell. */
const HEAD_OF_CELL = 30

const cells = computed(() => {
  const given = new Map(placesOfCells(props.gate).map((place, rule) => [nameOf(place), rule]))
  const counted = (place: CellPlace) => { const rule = given.get(nameOf(place)); return rule === undefined ? (bare.value.get(nameOf(place)) ?? null) : (props.counts?.caught[rule] ?? null) }
  const all = lines('down').map((down) => lines('across').map((across) => ({ down, across, rule: given.get(`${down} ${across}`), records: counted([down, across]) })))
  const fullest = Math.max(1, ...all.flat().map((cell) => cell.records ?? 0))
  const across = dotsAcross(fullest, size.value.width / Math.max(1, shape.value.across))
  const unit = dotUnit(fullest, size.value.height / Math.max(1, shape.value.down) - HEAD_OF_CELL, across)
  return {
    unit,
    rows: all.map((row) => row.map((cell) => {
      const label = cell.rule === undefined ? null : (labelGiven(props.gate.cells[cell.down]![cell.across]!) ?? '(computed)')
      return { ...cell, label, look: props.labels.find((one) => one.label === label) ?? null, dots: dotPath(cell.records ?? 0, unit, across) }
    })),
  }
})
const sums = computed(() => ({
  down: lines('down').map((down) => sum(cells.value.rows[down]!)),
  across: lines('across').map((across) => sum(cells.value.rows.map((row) => row[across]!))),
}))
function sum(all: readonly { records: number | null }[]): number | null {
  return all.some((one) => one.records === null) ? null : all.reduce((total, one) => total + one.records!, 0)
}
const most = computed(() => Math.max(1, ...sums.value.down.map(Number), ...sums.value.across.map(Number)))

const observer = new ResizeObserver(([entry]) => (size.value = { width: entry!.contentRect.width, height: entry!.contentRect.height }))
onMounted(() => observer.observe(board.value!))
onBeforeUnmount(() => observer.disconnect())
const borders = (length: number, parts: number) => Array.from({ length: parts + 1 }, (_, at) => (length / Math.max(1, parts)) * at)

/** What the hand paints with; undefined while it chooses. */
const brush = ref<string | null | undefined>(undefined)
const chosen = ref<CellPlace[]>([])
const focus = ref<CellPlace>([0, 0])
watch(shape, ({ down, across }) => {
  chosen.value = chosen.value.filter(([d, a]) => d < down && a < across)
  focus.value = [Math.min(focus.value[0], down - 1), Math.min(focus.value[1], across - 1)]
})
const isChosen = (down: number, across: number) => chosen.value.some(([d, a]) => d === down && a === across)
const labels = computed(() => labelsOf(props.gate))

const change = (gate: GridGate, step: string | null = null) => {
  emit('change', gate, step)
  if (step === null) emit('changed')
}
/** What was done to the line of a side. */
function edit(side: SideName, next: GridEdit, step: string | null = null): void {
  if ('refused' in next) refused.value = refusalWords(next.refused, axis[side].value.say)
  else change(fromLines(next.gate), step)
}

function showCell([down, across]: CellPlace): void {
  const rule = cells.value.rows[down]![across]!.rule
  const condition = cellTest(props.gate, down, across)
  tray.value = rule !== undefined ? { kind: 'rule', rule } : condition === null ? { kind: 'all' } : { kind: 'where', condition, rule: null, words: wordsOf([down, across]) }
}
const wordsOf = ([down, across]: CellPlace) => `${props.gate.down.on} ${lineWords(props.gate.down, down)}, ${props.gate.across.on} ${lineWords(props.gate.across, across)}`
function showLine(side: SideName, line: number): void {
  const condition = lineTest(props.gate, props.gate[side], line)
  const next: Tray | null = condition === null ? null : { kind: 'where', condition, rule: null, words: `${props.gate[side].on} ${lineWords(props.gate[side], line)}` }
  if (next) tray.value = trayName(tray.value) === trayName(next) ? { kind: 'all' } : next
}

/** A line of values that is carried onto another joins it. */
const carried = ref<{ side: SideName; line: number } | null>(null)
const { hand, over: lineUnder, grab } = useDropping<string>((element) => element.closest<HTMLElement>('[data-line]')?.dataset.line ?? null, (place) => {
  const { side, line } = carried.value!
  const [to, at] = place.split(' ') as [SideName, string]
  const of = props.gate[side]
  if (to === side && Number(at) !== line && of.kind === 'list') change(sortIntoLine(props.gate, side, of.lines[line]!, Number(at)))
})
function carry(event: PointerEvent, side: SideName, line: number): void {
  if (props.gate[side].kind === 'list') grab(event, () => (carried.value = { side, line }))
}

let from: CellPlace | null = null
let strokes = 0
function press(event: PointerEvent, place: CellPlace): void {
  if (event.button !== 0) return
  from = event.shiftKey && chosen.value.length > 0 ? chosen.value[0]! : place
  strokes++
  stroke(place)
  window.addEventListener('pointermove', over)
  window.addEventListener('pointerup', release, { once: true })
}
function over(event: PointerEvent): void {
  const cell = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-cell-place]')?.dataset.cellPlace
  if (cell) stroke(cell.split(' ').map(Number) as unknown as CellPlace)
}
function stroke(place: CellPlace): void {
  focus.value = place
  if (brush.value === undefined) {
    chosen.value = cellsBetween(from!, place)
    return
  }
  const [down, across] = place
  if (cells.value.rows[down]![across]!.label !== brush.value) change(paint(props.gate, [place], brush.value), `paint ${strokes}`)
}
function release(): void {
  window.removeEventListener('pointermove', over)
  if (brush.value === undefined && chosen.value.length === 1) showCell(chosen.value[0]!)
  else emit('changed')
}
onBeforeUnmount(() => window.removeEventListener('pointermove', over))

const targets = computed((): CellPlace[] => (chosen.value.length > 0 ? chosen.value : [focus.value]))
const give = (label: string | null) => change(paint(props.gate, targets.value, label))

const ARROWS: Record<string, CellPlace> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }
function key(event: KeyboardEvent): void {
  const by = ARROWS[event.key]
  if (by && !event.ctrlKey && !event.metaKey) {
    const next: CellPlace = [Math.min(Math.max(0, focus.value[0] + by[0]), shape.value.down - 1), Math.min(Math.max(0, focus.value[1] + by[1]), shape.value.across - 1)]
    chosen.value = event.shiftKey ? cellsBetween(chosen.value[0] ?? focus.value, next) : [next]
    focus.value = next
    void nextTick(() => board.value?.querySelector<HTMLElement>(`[data-cell-place="${nameOf(next)}"]`)?.focus())
  } else if (event.key === 'Enter') showCell(focus.value)
  else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) chosen.value = cellsBetween([0, 0], [shape.value.down - 1, shape.value.across - 1])
  else if (event.key === 'Escape' && brush.value !== undefined) brush.value = undefined
  else return
  event.preventDefault()
  event.stopPropagation()
}

const isNaming = ref(false)
const newName = useTemplateRef<HTMLInputElement>('newName')
async function beginLabel(): Promise<void> {
  isNaming.value = true
  await nextTick()
  newName.value?.focus()
}
/** A new label goes on the chosen cells at once, or else into the hand. */
function endLabel(event: Event): void {
  const label = (event.target as HTMLInputElement).value.trim().replace(/\s+/g, ' ')
  if (!isNaming.value) return
  isNaming.value = false
  if (label === '') return
  // The first one is everywhere, until another is painted over it.
  if (labels.value.length === 0 && chosen.value.length === 0) change(paint(props.gate, cellsBetween([0, 0], [shape.value.down - 1, shape.value.across - 1]), label))
  else if (chosen.value.length > 0) give(label)
  else {
    change(addLabel(props.gate, label))
    brush.value = label
  }
  void nextTick(() => board.value?.querySelector<HTMLElement>(`[data-cell-place="${nameOf(focus.value)}"]`)?.focus())
}

const digit = (at: number): Command => ({ words: `Give the cells label ${at + 1}`, key: String(at + 1), act: () => give(labels.value[at]!.value), isOff: () => at >= labels.value.length })
useCommands([
  ...Array.from({ length: 9 }, (_, at) => digit(at)),
  { words: 'Give the cells no label', key: '0', act: () => give(null) },
  { words: 'New label', key: 'n', act: () => beginLabel() },
  { words: 'Turn the grid round', key: 't', act: () => turn() },
])
function turn(): void {
  chosen.value = chosen.value.map(([down, across]) => [across, down])
  focus.value = [focus.value[1], focus.value[0]]
  change(turned(props.gate))
}

const triedCell = computed(() => (typeof props.coin === 'number' ? (placesOfCells(props.gate)[props.coin] ?? null) : null))
const owner = (side: SideName, cut: number) => { const of = props.gate[side]; if (of.kind === 'scale') change(setSideOwner(props.gate, side, cut, of.cuts[cut]!.owner === 'above' ? 'below' : 'above')) }
const setRest = (entry: Entry) => change({ ...props.gate, otherwise: entry === null && props.gate.outcomes.length === 1 ? null : (props.gate.otherwise ?? props.gate.outcomes.map(() => null)).with(0, entry) })
const one = computed(() => (chosen.value.length === 1 ? chosen.value[0]! : null))
const oneCell = computed(() => (one.value ? (cells.value.rows[one.value[0]]?.[one.value[1]] ?? null) : null))
const SIDES: SideName[] = ['down', 'across']
</script>

<template>
  <div class="grid-editor">
    <div class="facts second">
      <slot name="inputs" />
      <span class="space" />
      <button class="plain-button act" type="button" @click="turn">Turn it round<kbd>T</kbd></button>
    </div>
    <div class="palette" role="toolbar" aria-label="Labels to paint with">
      <button v-for="(label, at) in labels" :key="label.value" class="plain-button paint" :class="{ held: brush === label.value }" type="button" :aria-pressed="brush === label.value" :data-paint="label.value" @click="brush = brush === label.value ? undefined : label.value"><MarkCoin :mark="label.mark" :colour="label.colour" :size="14" /> <span class="name">{{ label.value }}</span><kbd v-if="at < 9">{{ at + 1 }}</kbd></button>
      <button class="plain-button paint none" :class="{ held: brush === null }" type="button" :aria-pressed="brush === null" @click="brush = brush === null ? undefined : null">no label<kbd>0</kbd></button>
      <input v-if="isNaming" ref="newName" class="naming" aria-label="New label" placeholder="new label" maxlength="200" @keydown.enter.prevent="endLabel" @keydown.escape.stop="isNaming = false" @blur="endLabel">
      <button v-else class="plain-button act" type="button" @click="beginLabel">New label<kbd>N</kbd></button>
      <span class="second hint">{{ brush !== undefined ? 'drag over cells to paint; Esc puts it down' : labels.length === 0 ? 'the first label goes on every cell; paint others over it' : '' }}</span>
    </div>
    <p v-if="refused" class="refused trouble" role="alert">{{ refused }} <button class="plain-button second" type="button" aria-label="Dismiss" @click="refused = ''">×</button></p>
    <div class="field" data-scrolls :style="{ '--rows': shape.down, '--columns': shape.across }">
      <div class="corner second"><template v-for="name in SIDES" :key="name"><p><b>{{ gate[name].on }}</b> {{ name }} <CutsMenu v-if="scales[name] && sides[name].spread.value" :side="scales[name]" :line="axis[name].value" :places="sides[name].spread.value.places" :session="session" words="cut by …" @take="edit(name, setSideCuts(lined, name, $event))" /></p></template></div>
      <div v-for="name in SIDES" :key="name" class="side" :class="[name, gate[name].kind, { low: name === 'down' && isLow }]">
        <SideAxis
          v-if="scales[name]" :side="scales[name]" :words="axis[name].value" :way="name" :spread="sides[name].spread.value" :length="name === 'down' ? size.height : size.width" :borders="borders(name === 'down' ? size.height : size.width, shape[name])"
          @move="(cut, at, step) => edit(name, moveSideCut(lined, name, cut, at), step)" @moved="emit('changed')" @add="edit(name, addSideCut(lined, name, $event))" @owner="owner(name, $event)" @remove="change(removeSideCut(gate, name, $event, 'below'))"
        />
        <div v-for="line in lines(name)" :key="line" class="line" :class="{ under: hand && lineUnder === `${name} ${line}` }" :data-line="`${name} ${line}`">
          <span v-if="gate[name].kind === 'list'" class="bar" :style="{ '--part': (sums[name][line] ?? 0) / most }" />
          <button class="plain-button words" type="button" :title="lineWords(gate[name], line)" :aria-label="`${gate[name].on} ${lineWords(gate[name], line)}: ${sums[name][line] === null ? '…' : count(sums[name][line]!)} records. Show them`" @pointerdown="carry($event, name, line)" @click="showLine(name, line)"><b>{{ lineWords(gate[name], line) }}</b> <span class="figure second">{{ sums[name][line] === null ? '…' : count(sums[name][line]!) }}</span></button>
          <LineMenu v-if="gate[name].kind === 'list'" :gate="gate" :side="name" :line="line" :words="lineWords(gate[name], line)" @change="change($event)" />
        </div>
      </div>
      <div ref="board" class="board" :class="{ low: isLow }" role="grid" :aria-label="`${gate.down.on} down, ${gate.across.on} across`" aria-multiselectable="true" @keydown="key">
        <div v-for="(row, down) in cells.rows" :key="down" class="row" role="row">
          <div
            v-for="cell in row" :key="cell.across" class="cell" :class="{ chosen: isChosen(down, cell.across), bare: cell.label === null, tried: triedCell?.[0] === down && triedCell[1] === cell.across, painting: brush !== undefined }" role="gridcell" :data-cell-place="`${down} ${cell.across}`"
            :style="cell.look ? { '--label': cell.look.colour } : undefined" :tabindex="focus[0] === down && focus[1] === cell.across ? 0 : -1" :aria-selected="isChosen(down, cell.across)" :aria-label="`${wordsOf([down, cell.across])}: ${cell.label ?? 'no label'}, ${cell.records === null ? 'not counted' : counted(cell.records, 'record')}`"
            @pointerdown="press($event, [down, cell.across])" @focus="focus = [down, cell.across]"
          >
            <span class="gives"><MarkCoin v-if="cell.look" :mark="cell.look.mark" :colour="cell.look.colour" :size="14" /><b v-if="cell.label !== null" class="label">{{ cell.label }}</b><span v-else class="second">no label</span></span>
            <span class="figure number" data-cell="count">{{ cell.records === null ? '…' : count(cell.records) }}</span>
            <svg class="dots" :width="cell.dots.width" :height="cell.dots.height" aria-hidden="true"><path :d="cell.dots.path" /></svg>
          </div>
        </div>
      </div>
    </div>
    <div v-if="hand && carried" class="hand" :style="{ left: `${hand.x + 10}px`, top: `${hand.y + 8}px` }">{{ lineWords(gate[carried.side], carried.line) }}</div>
    <div class="foot second">
      <span v-if="one && oneCell" class="one"><b>{{ wordsOf(one) }}</b>: {{ oneCell.label ?? 'no label' }}, {{ oneCell.records === null ? '…' : counted(oneCell.records, 'record') }}{{ oneCell.records !== null && records ? `, ${share(oneCell.records, records)}` : '' }}
        <template v-for="(outcome, place) in gate.outcomes.slice(1)" :key="outcome.name"> · {{ outcome.name }} <EntryField :entry="gate.cells[one[0]]![one[1]]?.[place + 1] ?? null" :outcome="outcome" :given="valuesGiven(gate, place + 1)" :label="`${outcome.name} of the cell`" placeholder="no value" @give="change(giveCell(gate, one!, place + 1, $event))" /></template>
      </span>
      <span v-else-if="chosen.length > 1">{{ count(chosen.length) }} cells chosen</span>
      <span>one dot is {{ counted(cells.unit, 'record') }}</span>
      <button v-if="counts?.held" class="plain-button link" type="button" @click="tray = { kind: 'held' }">held <span class="figure">{{ count(counts.held) }}</span></button>
      <button v-if="counts?.unplaced" class="plain-button link" type="button" @click="tray = { kind: 'unplaced' }">without a label <span class="figure">{{ count(counts.unplaced) }}</span></button>
      <span class="rest">what no cell takes gets <EntryField :entry="gate.otherwise?.[0] ?? null" :outcome="gate.outcomes[0]!" :given="valuesGiven(gate, 0)" label="Label of what no cell takes" placeholder="no label" @give="setRest" /></span>
      <template v-for="name in SIDES" :key="name"><span v-if="sides[name].missing.value.length > 0" class="missing">{{ gate[name].on }} in no line: <button v-for="value in sides[name].missing.value" :key="value.text" class="plain-button add" type="button" :aria-label="`Give ${valueWords(value.text)} a line`" @click="change(sortIntoLine(gate, name, [value.text], null))">{{ valueWords(value.text) }} <span class="figure">{{ count(value.records) }}</span></button></span></template>
    </div>
  </div>
</template>

<style scoped>
.grid-editor { position: relative; display: grid; grid-template-rows: auto auto minmax(0, 1fr) auto; min-width: 0; min-height: 0; padding: 0 16px 6px 20px; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 16px; min-height: 30px; }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; min-height: 26px; }
.palette { display: flex; flex-wrap: wrap; align-items: center; gap: 5px 8px; min-height: 34px; padding-bottom: 6px; }
.paint { display: inline-flex; align-items: center; gap: 6px; max-width: 190px; min-height: 28px; padding: 0 9px; border: 1.3px solid var(--hairline); border-radius: 4px; background: var(--sheet); font-size: 13.5px; }
.paint .name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-weight: 600; }
.paint kbd { margin-left: 2px; }
.none { border-style: dashed; }
.held { border-color: var(--brass); background: var(--tint); box-shadow: inset 0 0 0 1px var(--brass); }
.naming { width: 150px; height: 28px; padding: 0 6px; font: inherit; font-weight: 600; color: var(--ink); background: var(--sheet); border: 0; border-bottom: 2px solid var(--brass); }
.hint { font-size: 13px; }
.refused { position: absolute; top: 1px; right: 128px; z-index: 3; max-width: 60%; padding: 3px 10px; background: var(--sheet); border: 1px solid var(--brick); border-radius: 4px; }
/* Where cells would be too narrow to read, the whole of it is scrolled, with its heads. */
.field { --row: 50px; display: grid; grid-template: auto minmax(calc(var(--rows) * var(--row)), 1fr) / auto minmax(calc(var(--columns) * 120px), 1fr); min-height: 0; overflow: auto; }
.corner { align-self: end; padding: 0 8px 6px 0; font-size: 12.5px; max-width: 200px; }
.side { position: relative; display: grid; }
.side.down { grid-area: 2 / 1; width: 214px; grid-auto-rows: 1fr; }
.side.down.list { width: 170px; }
.side.across { grid-area: 1 / 2; grid-auto-flow: column; grid-auto-columns: 1fr; height: 136px; }
.side.across.list { height: 62px; }
.line { display: flex; align-items: center; gap: 2px; min-width: 0; padding: 2px 6px; }
.down .line { justify-content: flex-end; text-align: right; }
.across .line { align-items: flex-end; justify-content: center; }
.down.scale .line { padding-left: 74px; }
/* Between two boxes of cuts there is room for one line alone, over the whole width. */
.down.scale.low .line { padding-left: 6px; }
.down.scale.low .words { white-space: nowrap; }
.words { min-width: 0; min-height: 24px; font-size: 13px; line-height: 1.25; overflow: hidden; text-overflow: ellipsis; z-index: 1; }
.words b { overflow-wrap: anywhere; hyphens: auto; }
.words:hover b { text-decoration: underline; }
.across .words { text-align: center; }
.side.list .line { position: relative; }
.side.list .words { touch-action: none; cursor: grab; }
.bar { position: absolute; background: color-mix(in srgb, var(--pine) 20%, transparent); }
.down .bar { right: 0; top: 4px; bottom: 4px; width: calc(var(--part) * 90%); }
.across .bar { left: 2px; right: 2px; bottom: 26px; height: calc(var(--part) * 34px); }
.board { grid-area: 2 / 2; display: grid; grid-template-rows: repeat(var(--rows), minmax(var(--row), 1fr)); touch-action: none; }
.row { display: grid; grid-template-columns: repeat(var(--columns), minmax(0, 1fr)); min-height: 0; }
.cell { position: relative; display: flex; flex-direction: column; justify-content: space-between; gap: 1px; min-width: 0; margin: 1.5px; padding: 4px 7px; overflow: hidden; background: color-mix(in srgb, var(--label, transparent) 34%, var(--sheet)); cursor: pointer; user-select: none; }
.cell.painting { cursor: crosshair; }
.cell.bare { background: repeating-linear-gradient(135deg, transparent 0 6px, color-mix(in srgb, var(--hairline) 45%, transparent) 6px 7px); border: 1px dashed var(--hairline); }
.gives { display: flex; align-items: center; gap: 6px; min-width: 0; font-size: 13px; line-height: 1.2; }
.label { overflow: hidden; text-overflow: ellipsis; display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2; }
.low .label { -webkit-line-clamp: 1; }
.number { font-size: 16px; font-weight: 600; line-height: 1.1; }
.dots { position: absolute; right: 5px; bottom: 5px; max-height: calc(100% - 26px); opacity: 0.85; }
.dots path { fill: color-mix(in srgb, var(--label, var(--second)) 70%, var(--ink)); }
.chosen { box-shadow: inset 0 0 0 2.5px var(--brass); }
.cell:focus-visible { outline: 2px solid var(--brass); outline-offset: -1px; }
.tried::after { content: ''; position: absolute; top: 6px; right: 6px; width: 10px; height: 10px; background: var(--brass); border: 1.5px solid var(--ink); border-radius: 50%; }
.under { background: color-mix(in srgb, var(--brass) 18%, transparent); outline: 2px solid var(--brass); }
.hand { position: fixed; z-index: 20; padding: 2px 10px; font-size: 13.5px; font-weight: 600; color: var(--on-brass); background: var(--brass); border-radius: 13px; pointer-events: none; }
.foot { display: flex; flex-wrap: wrap; align-items: baseline; gap: 2px 16px; min-height: 28px; padding-top: 4px; font-size: 13px; }
.one { color: var(--ink); }
.link { min-height: 24px; text-decoration: underline; text-underline-offset: 3px; }
.missing { display: inline-flex; flex-wrap: wrap; align-items: baseline; gap: 3px 7px; }
.add { min-height: 24px; padding: 0 8px; border: 1.2px dashed var(--hairline); border-radius: 12px; background: var(--sheet); color: var(--ink); }
.rest { display: inline-flex; align-items: baseline; gap: 6px; }
@media (max-width: 760px) {
  .grid-editor { padding: 0 10px 8px; }
  .side.down { width: 178px; }
  .side.down.list { width: 120px; }
  .side.across.list { height: 84px; }
  .across .bar { bottom: 44px; }
  .field { --row: 68px; }
  .cell { justify-content: flex-start; }
  .dots { max-height: calc(100% - 44px); }
}
</style>
