<script setup lang="ts">
/** A match list, to be sorted: values wait as coins on a rail, and are dropped into the trays of their labels. */
import type { Entry, MatchGate } from '@dime-gate/core/gate/document'
import { addTray, moveTray, removeTray, sortAsListed, sortInto } from '@dime-gate/core/gate/edit-match'
import { editLabel, renameLabel } from '@dime-gate/core/gate/edit-labels'
import { labelGiven } from '@dime-gate/core/gate/entries'
import { valuesTest } from '@dime-gate/core/rule/values-test'
import type { Counts } from '@dime-gate/core/result/counts'
import type { LabelTray, Tray } from '@dime-gate/core/result/tray'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import type { Remote } from 'comlink'
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { type Command, useCommands } from '../finder/commands'
import EntryField from '../gives/EntryField.vue'
import { valuesGiven } from '../gives/values-given'
import type { RecordsWorker } from '../records/records-worker'
import { type Arrow, nextTowards } from '../shared/direction'
import { count, counted } from '../shared/format'
import { useThrottled } from '../shared/useThrottled'
import { useDropping } from '../shared/useDropping'
import { valueWords } from '../shared/words'
import { type Coin, type CoinOrder, coinSorter, foundCoins, type Near, nearSorted, recordsOf, withSpacesShown } from './coins'
import FoldChoice from './FoldChoice.vue'
import MatchTray from './MatchTray.vue'
import PasteListDialog from './PasteListDialog.vue'
import TrayPicker from './TrayPicker.vue'
import ValueCoin from './ValueCoin.vue'

/** @property renewed moves whenever values of the table have changed @property coin where a record that is tried falls */
const props = defineProps<{ gate: MatchGate; counts: Counts | null; labels: readonly LabelTray[]; session: Remote<RecordsWorker>; tick: number; renewed: number; coin: number | string | null }>()
const emit = defineEmits<{ change: [gate: MatchGate] }>()
const tray = defineModel<Tray>('tray', { required: true })

/** As many coins as are drawn on the rail at once; others are found by typing. */
const MOST_SHOWN = 80
const values = shallowRef<CommonValues | null>(null)
const input = computed(() => props.gate.inputs.find(({ name }) => name === props.gate.on)!)
// Sorting changes no value: they are asked for when another column, or other values in it, come.
const valuesOf = computed(() => JSON.stringify([input.value, props.renewed]))
watch([valuesOf, () => props.tick > 0], async ([of, isReady]) => {
  if (!isReady) return
  const found = await props.session.values(props.gate.on)
  if (valuesOf.value === of) values.value = found
}, { immediate: true })

const folds = computed(() => props.gate.folds)
const sorter = computed(() => coinSorter({ folds: folds.value }, values.value?.values ?? []))
const sorted = computed(() => sorter.value(props.gate.lines))
const wanted = ref('')
const isNearOnly = ref(false)
const order = ref<CoinOrder>('records')
/** What looks like what is looked for once nothing is dropped for a moment. */
const near = shallowRef<ReadonlyMap<string, Near>>(new Map())
watch(sorted, useThrottled(async () => void (near.value = input.value.type === 'text' ? nearSorted(props.gate, sorted.value.rail) : new Map()), 250), { immediate: true })
const nearOf = (value: string): Near | undefined => near.value.get(value)
const found = computed(() => foundCoins(sorted.value.rail, wanted.value, isNearOnly.value ? near.value : null, order.value))
const shown = computed(() => found.value.slice(0, MOST_SHOWN))
const isFiltered = computed(() => wanted.value !== '' || isNearOnly.value)
watch(near, (now) => now.size === 0 && (isNearOnly.value = false))

/** Values in the hand. */
const chosen = ref<ReadonlySet<string>>(new Set())
/** The coin that keys go to. */
const focused = ref<string | null>(null)
const targets = computed((): string[] => (chosen.value.size > 0 ? [...chosen.value] : focused.value === null ? [] : [focused.value]))
const board = useTemplateRef<HTMLElement>('board')
const isPasting = ref(false)
const isPicking = ref(false)
/** Values for which a new tray is being named; null while none is. */
const naming = ref<string[] | null>(null)
const newName = useTemplateRef<HTMLInputElement>('newName')
const lookOf = (at: number) => props.labels.find(({ label }) => label === labelGiven(props.gate.lines[at]!.entries)) ?? null

const change = (gate: MatchGate) => emit('change', gate)

function show(of: readonly string[]): void {
  tray.value = of.length === 0 ? { kind: 'all' } : { kind: 'where', condition: valuesTest(input.value, spellings(of)), rule: null, words: of.length > 2 ? counted(of.length, 'value') : of.map((value) => withSpacesShown(valueWords(value))).join(', ') }
}

/** All that is written in the table for these values. */
function spellings(of: readonly string[]): string[] {
  return of.flatMap((value) => [value, ...(sorted.value.coinOf(value)?.others ?? [])]).slice(0, 500)
}

/** What takes the place of coins that leave the rail is in the hand next. */
async function drop(of: readonly string[], into: number | null): Promise<void> {
  if (of.length === 0) return
  const place = shown.value.findIndex(({ value }) => of.includes(value))
  chosen.value = new Set()
  change(sortInto(props.gate, of, into))
  await nextTick()
  if (place < 0 || into === null) return
  const next = shown.value[Math.min(place, shown.value.length - 1)]
  if (next) focusCoin(next.value)
}

function focusCoin(value: string): void {
  board.value?.querySelector<HTMLElement>(`[data-coin="${CSS.escape(value)}"]`)?.focus()
}

async function beginTray(of: readonly string[]): Promise<void> {
  naming.value = [...of]
  await nextTick()
  newName.value?.focus()
}

function endTray(event: Event): void {
  const of = naming.value
  const label = (event.target as HTMLInputElement).value.trim().replace(/\s+/g, ' ')
  naming.value = null
  if (!of || label === '') return
  const added = addTray(props.gate, label)
  chosen.value = new Set()
  const place = shown.value.findIndex(({ value }) => of.includes(value))
  change(of.length > 0 ? sortInto(added.gate, of, added.tray) : added.gate)
  void nextTick(() => {
    const next = place < 0 ? undefined : shown.value[Math.min(place, shown.value.length - 1)]
    if (next) focusCoin(next.value)
    else board.value?.querySelector<HTMLElement>('[data-new-tray]')?.focus()
  })
}

function joinAll(): void {
  const byTray = new Map<number, string[]>()
  for (const [value, of] of near.value) byTray.set(of.tray, [...(byTray.get(of.tray) ?? []), value])
  change([...byTray].reduce((gate, [at, of]) => sortInto(gate, of, at), props.gate))
}

/** There may be a thousand coins: what happens to one is heard on the board. */
function coinUnder(event: Event): Coin | undefined {
  const element = (event.target as HTMLElement).closest<HTMLElement>('[data-coin]')
  return element ? sorted.value.coinOf(element.dataset.coin!) : undefined
}

function choose(event: MouseEvent): void {
  const coin = coinUnder(event)
  if (!coin) return
  focused.value = coin.value
  if (event.ctrlKey || event.metaKey) return toggle(coin.value)
  if (event.shiftKey) return chooseUpTo(coin.value)
  const isOnly = chosen.value.size === 1 && chosen.value.has(coin.value)
  chosen.value = isOnly ? new Set() : new Set([coin.value])
  show([...chosen.value])
}

function toggle(value: string): void {
  const now = new Set(chosen.value)
  if (!now.delete(value)) now.add(value)
  chosen.value = now
  show([...now])
}

/** All coins from the one that was chosen last up to this one, as they lie. */
function chooseUpTo(value: string): void {
  const all = coinsAsTheyLie().map(({ dataset }) => dataset.coin!)
  const from = Math.max(0, all.indexOf([...chosen.value].at(-1) ?? value))
  const to = all.indexOf(value)
  chosen.value = new Set([...chosen.value, ...all.slice(Math.min(from, to), Math.max(from, to) + 1)])
  show([...chosen.value])
}

const coinsAsTheyLie = () => [...(board.value?.querySelectorAll<HTMLElement>('[data-coin]') ?? [])]

function key(event: KeyboardEvent): void {
  const coin = (event.target as HTMLElement).closest<HTMLElement>('[data-coin]')
  if (!coin) return
  const value = coin.dataset.coin!
  if (event.key.startsWith('Arrow')) {
    const all = coinsAsTheyLie()
    const next = nextTowards(all.map(centreOf), all.indexOf(coin), event.key as Arrow)
    if (next === null) return
    if (event.shiftKey) chosen.value = new Set([...chosen.value, value, all[next]!.dataset.coin!])
    all[next]!.focus()
  } else if (event.key === ' ') toggle(value)
  else if (event.key === 'Enter') show(targets.value)
  else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) chosen.value = new Set(found.value.map((one) => one.value))
  else if (event.key === 'Escape' && chosen.value.size > 0) chosen.value = new Set()
  else return
  event.preventDefault()
  event.stopPropagation()
}

function centreOf(element: HTMLElement): { x: number; y: number } {
  const { left, top, width, height } = element.getBoundingClientRect()
  return { x: left + width / 2, y: top + height / 2 }
}

type Place = number | 'rail' | 'new'
const carried = ref<string[]>([])
const { hand, over, grab } = useDropping<Place>(
  (element) => {
    const at = element.closest<HTMLElement>('[data-tray-place]')?.dataset.trayPlace
    return at !== undefined ? Number(at) : element.closest('[data-new-tray]') ? 'new' : element.closest('[data-rail]') ? 'rail' : null
  },
  (place) => {
    if (place === 'new') void beginTray(carried.value)
    else void drop(carried.value, place === 'rail' ? null : place)
  },
)
function take(event: PointerEvent): void {
  const coin = coinUnder(event)
  if (coin) grab(event, () => (carried.value = chosen.value.has(coin.value) ? [...chosen.value] : [coin.value]))
}

const isInHand = () => targets.value.length === 0
const digits = (): Command[] => Array.from({ length: 9 }, (_, at) => ({
  words: `Drop into tray ${at + 1}`, key: String(at + 1), act: () => drop(targets.value, at), isOff: () => isInHand() || at >= props.gate.lines.length,
}))
const back = (key: string): Command => ({ words: 'Put back on the rail', key, act: () => drop(targets.value, null), isOff: isInHand })
useCommands([
  ...digits(), back('0'), back('Delete'),
  { words: 'New tray, for what is chosen', key: 'n', act: () => beginTray(targets.value) },
  { words: 'Drop into a tray by its name', key: 't', act: () => (isPicking.value = true), isOff: () => isInHand() || props.gate.lines.length === 0 },
  { words: 'Sort as a pasted list says', key: 'p', act: () => (isPasting.value = true) },
  { words: 'Choose all that are found on the rail', act: () => (chosen.value = new Set(found.value.map(({ value }) => value))), isOff: () => found.value.length === 0 },
])

const isTrayShown = (at: number) => tray.value.kind === 'rule' && tray.value.rule === at
const setRest = (entry: Entry) => change({ ...props.gate, otherwise: entry === null && props.gate.outcomes.length === 1 ? null : (props.gate.otherwise ?? props.gate.outcomes.map(() => null)).with(0, entry) })
</script>

<template>
  <div ref="board" class="match" @keydown="key" @pointerdown="take" @click="choose" @focusin="focused = coinUnder($event)?.value ?? null" @focusout="focused = null">
    <div class="facts second">
      <slot name="inputs" />
      <FoldChoice :gate="gate" :values="values?.values ?? []" @change="change" />
      <span class="space" />
      <button class="plain-button act" type="button" @click="isPasting = true">Paste a list<kbd>P</kbd></button>
      <button class="plain-button act" type="button" data-new-tray :class="{ over: over === 'new' }" @click="beginTray(targets)">New tray<kbd>N</kbd></button>
    </div>
    <div class="head">
      <span><b>On the rail</b> <span class="second">{{ values ? `${counted(sorted.rail.length, 'value')}, ${counted(recordsOf(sorted.rail), 'record')}` : '…' }}</span></span>
      <button v-if="near.size > 0" class="plain-button trouble link" type="button" :aria-pressed="isNearOnly" @click="isNearOnly = !isNearOnly">{{ near.size === 1 ? '1 looks like a value already sorted' : `${count(near.size)} look like values already sorted` }}</button>
      <button v-if="near.size > 0" class="plain-button act" type="button" @click="joinAll">Join {{ near.size === 1 ? 'it' : 'them' }}</button>
      <span class="space" />
      <span class="rest second">what stays here gets <EntryField :entry="gate.otherwise?.[0] ?? null" :outcome="gate.outcomes[0]!" :given="valuesGiven(gate, 0)" label="Label of what is in no tray" placeholder="no label" @give="setRest" /></span>
      <input v-model="wanted" class="find" type="search" aria-label="Find values on the rail" placeholder="find; ^ for the beginning" maxlength="100" @keydown.enter="chosen = new Set(found.map(({ value }) => value)); focusCoin(found[0]?.value ?? '')">
      <button v-if="isFiltered && found.length > 0" class="plain-button act" type="button" @click="chosen = new Set(found.map(({ value }) => value))">Choose {{ found.length === 1 ? 'it' : `all ${count(found.length)}` }}</button>
      <button class="plain-button second" type="button" :aria-label="`${order === 'records' ? 'most first' : 'by name'}: change the order of the rail`" @click="order = order === 'records' ? 'name' : 'records'">{{ order === 'records' ? 'most first' : 'by name' }}</button>
    </div>
    <div class="rail" :class="{ over: over === 'rail', empty: sorted.rail.length === 0 }" data-rail data-scrolls>
      <span v-for="coin in shown" :key="coin.value" class="waiting">
        <ValueCoin :coin="coin" :is-chosen="chosen.has(coin.value)" :class="{ near: nearOf(coin.value) }" /><button v-if="nearOf(coin.value)" class="plain-button trouble offer" type="button" :title="`It differs by ${nearOf(coin.value)!.differs}`" :aria-label="`Put ${coin.value} with ${nearOf(coin.value)!.value}`" @click="drop([coin.value], nearOf(coin.value)!.tray)">with {{ nearOf(coin.value)!.value }}?</button>
      </span>
      <span v-if="found.length > MOST_SHOWN" class="second">and {{ count(found.length - MOST_SHOWN) }} more: type to find them</span>
      <p v-if="values && sorted.rail.length === 0" class="second">Every value is sorted.</p>
      <p v-else-if="isFiltered && found.length === 0" class="second">No value on the rail is so. <button class="plain-button act" type="button" @click="wanted = ''; isNearOnly = false">Show all</button></p>
      <p v-if="values && values.distinct > values.values.length" class="second">These are the {{ count(values.values.length) }} commonest of {{ count(values.distinct) }} values.</p>
    </div>
    <div class="bar" aria-hidden="true" />
    <div class="trays" data-scrolls>
      <MatchTray
        v-for="(_, at) in gate.lines" :key="at" :gate="gate" :at="at" :coins="sorted.trays[at]!" :chosen="chosen" :look="lookOf(at)" :records="counts?.caught[at] ?? null" :all="counts?.records ?? 0" :digit="at < 9 ? String(at + 1) : ''"
        :is-shown="isTrayShown(at)" :is-over="over === at" :is-tried="coin === at"
        @show="tray = isTrayShown(at) ? { kind: 'all' } : { kind: 'rule', rule: at }" @rename="change(renameLabel(gate, labelGiven(gate.lines[at]!.entries) ?? '', $event))" @look="change(editLabel(gate, lookOf(at)!.label, $event))"
        @give="(outcome, entry) => change({ ...gate, lines: gate.lines.with(at, { ...gate.lines[at]!, entries: gate.lines[at]!.entries.with(outcome, entry) }) })" @move="change(moveTray(gate, at, at + $event))" @remove="change(removeTray(gate, at))"
      >
        <template #coins="{ coins }"><ValueCoin v-for="one in coins" :key="one.value" :coin="one" :is-counted="values !== null" :is-chosen="chosen.has(one.value)" :colour="lookOf(at)?.colour" /></template>
      </MatchTray>
      <div v-if="naming" class="naming"><input ref="newName" aria-label="Label of the new tray" placeholder="label of the new tray" maxlength="200" @keydown.enter.prevent="endTray" @keydown.escape.stop="naming = null" @blur="endTray"><p class="second">{{ naming.length === 0 ? 'an empty tray' : `for ${counted(naming.length, 'value')}` }}</p></div>
      <div v-else-if="gate.lines.length === 0" class="first">
        <p><b>No tray yet.</b> A tray is a label, and the values that get it.</p>
        <p class="second">Choose coins and press <kbd>N</kbd>, drag one onto <i>New tray</i>, or paste a list that says which value gets which label.</p>
        <v-btn class="primary" @click="beginTray(targets)">Make the first tray<kbd>N</kbd></v-btn>
      </div>
    </div>
    <div v-if="hand" class="hand" :style="{ left: `${hand.x + 10}px`, top: `${hand.y + 8}px` }">{{ carried.length === 1 ? carried[0] : counted(carried.length, 'value') }}</div>
    <PasteListDialog v-if="isPasting" :gate="gate" :values="values?.values ?? []" @close="isPasting = false" @take="change(sortAsListed(gate, $event)); isPasting = false" />
    <TrayPicker v-if="isPicking" :labels="gate.lines.map(({ entries }) => labelGiven(entries) ?? '')" @close="isPicking = false" @pick="isPicking = false; drop(targets, $event)" />
  </div>
</template>

<style scoped>
.match { display: grid; grid-template-rows: auto auto minmax(36px, auto) auto minmax(0, 1fr); min-width: 0; min-height: 0; padding: 0 16px 8px 20px; }
.facts, .head { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 16px; min-height: 30px; }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; min-height: 26px; }
.act.over { outline: 2px solid var(--brass); outline-offset: 3px; border-radius: 3px; }
.link { min-height: 26px; text-decoration: underline; text-underline-offset: 3px; }
.link[aria-pressed='true'] { font-weight: 700; }
.rest { display: inline-flex; align-items: baseline; gap: 6px; }
.find { width: 170px; height: 26px; padding: 0 6px; font: inherit; font-size: 13.5px; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 3px; }
.rail { display: flex; flex-wrap: wrap; gap: 6px; align-content: flex-start; max-height: min(132px, 22dvh); overflow: auto; padding: 5px 3px 7px; }
.rail.over { background: color-mix(in srgb, var(--brass) 12%, var(--ground)); }
.waiting { display: inline-flex; align-items: center; max-width: 100%; min-width: 0; }
.near { border: 1.3px dashed var(--brick); }
.offer { min-height: 26px; padding: 0 6px 0 5px; font-size: 13px; font-weight: 600; white-space: nowrap; }
.offer:hover { text-decoration: underline; }
/* The rail itself: what is sorted rolls off it. */
.bar { height: 2px; margin: 0 6px 12px 0; background: var(--ink); position: relative; }
.bar::after { content: ''; position: absolute; right: -6px; top: -6px; width: 10px; height: 10px; border: 2px solid var(--ink); border-radius: 50%; background: var(--ground); }
.trays { display: grid; grid-template-columns: repeat(auto-fit, minmax(196px, 1fr)); grid-auto-rows: minmax(118px, 1fr); gap: 14px; min-height: 0; overflow: auto; padding: 0 4px 12px 2px; }
.naming { padding: 6px 8px; border: 1.5px dashed var(--brass); border-top: 0; border-radius: 0 0 6px 6px; }
.naming input { width: 100%; height: 30px; padding: 0 4px; font: inherit; font-weight: 700; color: var(--ink); background: var(--sheet); border: 0; border-bottom: 2px solid var(--brass); }
.first { grid-column: 1 / -1; display: grid; gap: 8px; justify-items: start; align-content: start; padding: 14px 0; max-width: 560px; }
.first kbd { margin: 0 2px; }
.hand { position: fixed; z-index: 20; padding: 2px 10px; font-size: 13.5px; font-weight: 600; color: var(--on-brass); background: var(--brass); border-radius: 13px; pointer-events: none; }
@media (max-width: 760px) {
  .match { padding: 0 10px 8px; }
  .rail { max-height: 200px; }
}
</style>
