<script setup lang="ts">
/** Rules in order, to be edited on the records themselves: the course with its stream, and beside it what is found, tried, given and looked at. */
import type { BoundInputs } from '@dime-gate/contract/binding'
import type { KnownCondition } from '@dime-gate/contract/condition'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import { addRule, copyRule, dropOtherwise, editRule, giveEntry, moveRule, removeRule, reorderRules, switchRule } from '@dime-gate/core/gate/edit-rules'
import { labelGiven } from '@dime-gate/core/gate/entries'
import type { Entry, RulesGate } from '@dime-gate/core/gate/document'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { conditionsOf, inputsNamed } from '@dime-gate/core/gate/named-conditions'
import type { LabelLook, Tray } from '@dime-gate/core/result/tray'
import type { Remote } from 'comlink'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { RecordsWorker } from '../records/records-worker'
import type { ToldFindings } from '../findings/told-findings'
import { count } from '../shared/format'
import { useCarrying } from '../shared/useCarrying'
import { useSteady } from '../shared/useSteady'
import { useThrottled } from '../shared/useThrottled'
import { type Command, useCommands } from '../finder/commands'
import { linesFor, type LineStyle, provideConditionBench } from '../conditions/condition-bench'
import { orderByBreadth, type Placed, stopsOf } from './course'
import { provideCourseCounts } from './course-counts'
import NamedConditions from '../conditions/NamedConditions.vue'
import type { ToldMoves } from '../records/session'
import { useUnfinished } from './useUnfinished'
import RestRow from './RestRow.vue'
import RuleRow from './RuleRow.vue'
import StreamView from './StreamView.vue'
import { type OnTable, subjectsOf, withoutUnused } from '../conditions/subjects'

const props = defineProps<{
  id: number
  gate: RulesGate
  inputs: BoundInputs
  table: Table
  /** That are bound to the table and have a version. */
  gates: Pick<GateSummary, 'name'>[]
  /** Named conditions, also those of other gates. */
  known: readonly KnownCondition[]
  asOf: string
  labels: readonly LabelLook[]
  /** Which records another state of the gate gives other labels. */
  compare: (gate: RulesGate, inputs: BoundInputs) => Promise<ToldMoves | null>
  /** An input that somebody looks at in the records; null where there is none. */
  pointed: string | null
  counts: Counts | null
  further: FurtherCounts | null
  findings: ToldFindings | null
  session: Remote<RecordsWorker>
  /** Changes whenever the worker has decided anew. */
  tick: number
  /** Moves whenever values have changed. */
  renewed: number
  /** Where a record that is tried falls. */
  coin: Placed['at'] | null
  /** Rules that give an example another label than it should get. */
  broken: ReadonlySet<number>
}>()
const emit = defineEmits<{
  /** @param step what belongs to one drag, or one run of keys, is undone at once */
  change: [gate: RulesGate, inputs: BoundInputs, step: string | null]
  changed: []
  /** Inputs that are pointed out, each by its line. */
  lines: [lines: ReadonlyMap<string, LineStyle>]
}>()
const tray = defineModel<Tray>('tray', { required: true })

const list = useTemplateRef<HTMLElement>('list')
const rows = useTemplateRef<InstanceType<typeof RuleRow>[]>('rows')
const open = ref<number | 'rest' | null>(null)
/** Id of the named condition that is open. */
const openNamed = ref<string | null>(null)
const named = useTemplateRef('named')
// One thing is open at a time.
watch(open, (now) => now !== null && (openNamed.value = null))
watch(openNamed, (now) => now !== null && (open.value = null))
/** The rule that was added last, as long as it is being written. */
const fresh = ref<number | null>(null)
/** By rule, or by the id of a named condition, texts that are no conditions yet. */
const unfinished = useUnfinished(`gate ${props.id}`)
const parts = shallowRef<ReadonlyMap<string, number>>(new Map())
const areSameParts = (one: ReadonlyMap<string, number>, other: ReadonlyMap<string, number>) => one.size === other.size && [...one].every(([way, records]) => other.get(way) === records)

const chosen = computed((): Placed['at'] | null => {
  const { value: shown } = tray
  if (shown.kind === 'rule' || shown.kind === 'alone' || shown.kind === 'only' || shown.kind === 'part' || shown.kind === 'where') return shown.rule
  if (shown.kind === 'otherwise' || shown.kind === 'unplaced') return 'rest'
  return shown.kind === 'held' || shown.kind === 'contested' ? shown.kind : null
})
const shownPart = computed(() => (tray.value.kind === 'part' ? tray.value.way.join('.') : null))
const stops = computed(() => (props.counts && props.counts.caught.length === props.gate.rules.length ? stopsOf(props.counts, props.gate.hitPolicy) : []))
const coloured = useSteady(() => {
  const looks = new Map(props.gate.outcomes[0]!.labels.map(({ value, colour }) => [value, colour]))
  const of = (at: Placed['at'], entries: readonly Entry[] | null): [Placed['at'], string][] => {
    const colour = looks.get(labelGiven(entries ?? []) ?? '')
    return colour ? [[at, colour]] : []
  }
  return [...props.gate.rules.flatMap(({ entries }, at) => of(at, entries)), ...of('rest', props.gate.otherwise)]
})
const colours = computed(() => new Map(coloured.value))
const on = computed((): OnTable => ({ gate: props.gate, inputs: props.inputs }))
const subjects = computed(() => subjectsOf(on.value, props.table, props.gates, props.known))
/** What the chosen rule, or named condition, looks at; and what somebody looks at in the records. */
const lines = computed((before?: ReadonlyMap<string, LineStyle>): ReadonlyMap<string, LineStyle> => {
  const now = linesFor([...lookedAt.value, ...(props.pointed === null ? [] : [props.pointed])])
  return before && [...before.keys()].join('\n') === [...now.keys()].join('\n') ? before : now
})
const lookedAt = computed((): string[] => {
  if (tray.value.kind === 'where') return inputsNamed(props.gate, tray.value.condition)
  const named = tray.value.kind === 'condition' ? tray.value.name : null
  const text = typeof chosen.value === 'number' ? props.gate.rules[chosen.value]?.condition : conditionsOf(props.gate).find(({ name }) => name === named)?.feel
  return text === undefined ? [] : inputsNamed(props.gate, text)
})
watch(lines, (now) => emit('lines', now), { immediate: true })
provideConditionBench({ on, subjects, choices: (input) => props.session.choices(input), spread: (input) => props.session.spread(input), tick: computed(() => props.tick), renewed: computed(() => props.renewed), lines, showsRecords: true, openNamed: (name) => void named.value?.open(name) })

provideCourseCounts({ counts: () => props.counts, further: () => props.further })

/** By rule, what is told of it first. */
const findingByRule = computed(() => new Map((props.findings?.told ?? []).filter(({ severity, rules }) => severity !== 'note' && rules.length > 0).map(({ rules, words }) => [rules[0]!, words] as const).reverse()))
const findingOf = (rule: number) => (props.broken.has(rule) ? 'An example that is kept gets another label here than it should.' : (findingByRule.value.get(rule) ?? null))
const heldBy = ref<string[]>([])
// That takes a while, and is in nobody's way once nothing changes.
let asking: ReturnType<typeof setTimeout> | undefined
watch(() => props.further, () => {
  clearTimeout(asking)
  asking = setTimeout(async () => (heldBy.value = await props.session.missing()), 500)
})
onBeforeUnmount(() => clearTimeout(asking))

// What parts hold for is asked for the open rule alone; while its values change the counts go first.
async function lookAtParts(): Promise<void> {
  const at = open.value
  if (typeof at !== 'number') return void (parts.value = new Map())
  const found = new Map(await props.session.parts(at))
  if (open.value === at && !areSameParts(found, parts.value)) parts.value = found
}
watch(open, lookAtParts)
watch(() => props.tick, useThrottled(lookAtParts, BESIDE))
watch(() => props.gate.rules.length, (now) => {
  if (typeof open.value === 'number' && open.value >= now) open.value = null
})

/** Where the stops stand: rows are as tall as what they say. */
const measured = shallowRef<{ top: number; height: number }[]>([])
const places = useSteady(() => measured.value)
const width = ref(122)
function measure(): void {
  const all = [...(list.value?.querySelectorAll<HTMLElement>('[data-stop]') ?? [])]
  measured.value = all.map((row) => ({ top: row.offsetTop, height: row.offsetHeight }))
  width.value = (list.value?.offsetWidth ?? 900) < 620 ? 62 : 122
}
const placed = computed((): Placed[] => (places.value.length === stops.value.length ? stops.value.map((stop, at) => ({ ...stop, ...places.value[at]! })) : []))
let observer: ResizeObserver | undefined
onMounted(() => {
  observer = new ResizeObserver(measure)
  // Of a list of sources with a shallow one among them Vue tells every trigger, also where nothing is another.
  watch([() => list.value, () => props.gate.rules.length, () => stops.value.length, open], () => void nextTick(() => {
    observer!.disconnect()
    if (!list.value) return
    observer!.observe(list.value)
    list.value.querySelectorAll('[data-stop]').forEach((row) => observer!.observe(row))
  }), { immediate: true })
})
onBeforeUnmount(() => observer?.disconnect())

function change(gate: RulesGate, step: string | null = null, inputs: BoundInputs = props.inputs): void {
  const left = withoutUnused({ gate, inputs })
  emit('change', left.gate, left.inputs, step)
}

const show = (next: Tray) => (tray.value = next)
function choose(at: Placed['at']): void {
  const own: Tray = typeof at === 'number' ? { kind: 'rule', rule: at } : at === 'rest' ? { kind: props.gate.otherwise ? 'otherwise' : 'unplaced' } : { kind: at }
  if (chosen.value === at && tray.value.kind === own.kind && open.value === null) show({ kind: 'all' })
  else show(own)
}

async function openRule(at: number, way = '', part = 'subject'): Promise<void> {
  open.value = at
  if (chosen.value !== at) show({ kind: 'rule', rule: at })
  await nextTick()
  if (part === 'label') rowAt(at)?.focusLabel()
  else rowAt(at)?.focus(way, part)
}
const rowAt = (at: number) => rows.value?.find((row) => row.$props.at === at)

async function add(at = typeof chosen.value === 'number' ? chosen.value + 1 : props.gate.rules.length): Promise<void> {
  move(unfinished, (rule) => (rule >= at ? rule + 1 : rule))
  change(addRule(props.gate, at, ''))
  await nextTick()
  fresh.value = at
  await openRule(at)
}

/** A rule in which nothing was written is as good as none. */
function isBare(at: number): boolean {
  const rule = props.gate.rules[at]
  return rule !== undefined && rule.condition.trim() === '' && rule.entries.every((entry) => entry === null) && !unfinished.has(at)
}
// Whoever goes on to another rule leaves the bare one behind.
watch(open, (now, before) => {
  if (now !== fresh.value) fresh.value = null
  if (typeof before === 'number' && before !== now && isBare(before)) drop(before)
})

function close(): void {
  const at = open.value
  open.value = null
  emit('changed')
  void nextTick(() => focusRow(at))
}

function focusRow(at: Placed['at'] | null): void {
  if (at === null) return
  list.value?.querySelector<HTMLElement>(`[data-rule="${at}"] .number, [data-rule="${at}"] button`)?.focus()
}

/** From a label to the next rule, and from the last one to a new one. */
async function next(at: number): Promise<void> {
  if (at + 1 < props.gate.rules.length) await openRule(at + 1)
  else await add(at + 1)
}

/** Texts that are not finished go along with their rules. */
function move(all: Map<number | string, string>, to: (rule: number) => number | null): void {
  const before = [...all]
  all.clear()
  for (const [rule, text] of before) {
    const place = typeof rule === 'number' ? to(rule) : rule
    if (place !== null) all.set(place, text)
  }
}

function moveTo(from: number, to: number, step: string | null = null): number {
  const place = Math.min(Math.max(0, to), props.gate.rules.length - 1)
  if (place === from) return from
  const left = (rule: number) => (rule === from ? place : rule - (rule > from ? 1 : 0) + (rule - (rule > from ? 1 : 0) >= place ? 1 : 0))
  move(unfinished, left)
  change(moveRule(props.gate, from, place), step)
  if (typeof open.value === 'number') open.value = left(open.value)
  show({ kind: 'rule', rule: place })
  return place
}

function drop(at: number): void {
  move(unfinished, (rule) => (rule === at ? null : rule > at ? rule - 1 : rule))
  if (typeof open.value === 'number' && open.value > at) open.value--
  change(removeRule(props.gate, at))
  if (chosen.value === at) show({ kind: 'all' })
}

function remove(at: number): void {
  open.value = null
  drop(at)
  const left = props.gate.rules.length - 2
  if (left < 0) show({ kind: 'all' })
  else show({ kind: 'rule', rule: Math.min(at, left) })
  void nextTick(() => focusRow(left < 0 ? 'rest' : Math.min(at, left)))
}

function copy(at: number): void {
  change(copyRule(props.gate, at))
  show({ kind: 'rule', rule: at + 1 })
}

const sort = (first: 'broad' | 'narrow') => change(reorderRules(props.gate, orderByBreadth(props.further!, first)))

/** A rule is carried by its number; the stream moves along. */
const { carried, grab } = useCarrying(() => list.value?.querySelectorAll('li.rule') ?? [], (from, to) => moveTo(from, to, 'carry a rule'), () => emit('changed'))

function key(event: KeyboardEvent): void {
  if (event.key === 'Escape' && open.value !== null) close()
  else if (event.defaultPrevented || isTyping(event.target) || event.ctrlKey || event.metaKey) return
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    const by = event.key === 'ArrowDown' ? 1 : -1
    const order: Placed['at'][] = ['held', ...props.gate.rules.keys(), 'rest']
    const at = chosen.value === null ? 0 : order.indexOf(chosen.value)
    if (event.altKey && typeof chosen.value === 'number') void nextTick(() => focusRow(moveTo(chosen.value as number, (chosen.value as number) + by, 'move a rule')))
    else {
      const to = order[Math.min(Math.max(0, at + by), order.length - 1)]!
      choose(to)
      focusRow(to)
    }
  } else if (event.key === 'Enter' && typeof chosen.value === 'number' && !(event.target instanceof HTMLButtonElement && !event.target.classList.contains('number'))) void openRule(chosen.value)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || target.tagName === 'INPUT')
}

const ofChosen = (words: string, key: string, act: (at: number) => unknown): Command => ({ words, key, act: () => act(chosen.value as number), isOff: () => typeof chosen.value !== 'number' })
const isUncounted = () => !props.further || props.gate.rules.length < 2
useCommands([
  { words: 'Add a rule', key: 'n', act: () => add() },
  { words: 'Build a condition by itself', key: 'c', act: () => named.value?.add('') },
  ofChosen('Change the rule', 'e', openRule),
  ofChosen('Copy the rule', 'y', copy),
  ofChosen('Switch the rule off, or on', 'x', (at) => change(switchRule(props.gate, at))),
  ofChosen('Remove the rule', 'Delete', remove),
  { words: 'Say what the others get', key: 'o', act: () => (open.value = 'rest') },
  { words: 'Order: broad rules first', act: () => sort('broad'), isOff: isUncounted },
  { words: 'Order: narrow rules first', act: () => sort('narrow'), isOff: isUncounted },
])

</script>

<template>
  <div class="rules">
    <div class="facts second">
      <slot name="inputs" />
      <span class="space" />
      <v-menu v-if="gate.rules.length > 1">
        <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button act" type="button">Order</button></template>
        <v-list density="compact">
          <v-list-item title="Broad rules first, narrow ones last" subtitle="by what each would take alone" :disabled="!further" @click="sort('broad')" />
          <v-list-item title="Narrow rules first, broad ones last" subtitle="so that exceptions come before what is usual" :disabled="!further" @click="sort('narrow')" />
        </v-list>
      </v-menu>
      <button class="plain-button act" type="button" title="A condition by itself, to be used by its name in rules of this gate and of others" @click="named?.add('')">Build a condition<kbd>C</kbd></button>
      <button class="plain-button act" type="button" @click="add()">Add a rule<kbd>N</kbd></button>
    </div>
    <div class="course" role="region" aria-label="Rules in order" tabindex="-1" @keydown="key">
      <NamedConditions
        :id="id" ref="named" v-model:tray="tray" v-model:open="openNamed" :gate="gate" :inputs="inputs" :known="known" :session="session" :tick="tick" :labels="labels" :as-of="asOf" :unfinished="unfinished" :compare="compare"
        @change="(next, wider, step) => change(next, step, wider)" @changed="emit('changed')"
      />
      <ol v-if="gate.rules.length > 0" ref="list" :class="{ crowded: gate.rules.length > CROWDED }" :style="{ paddingLeft: `${width + 8}px` }">
        <StreamView v-if="placed.length" :stops="placed" :records="counts!.records" :colours="colours" :chosen="chosen" :coin="coin" :width="width" />
        <li class="end held" :class="{ chosen: chosen === 'held' }" data-stop data-rule="held">
          <span />
          <button class="plain-button takes" type="button" @click="choose('held')"><template v-if="counts && counts.held > 0">Held until <b>{{ heldBy.join(' or ') || 'more' }}</b> is known</template><span v-else class="second">{{ counts ? 'Nothing is held' : 'Not counted yet' }}</span></button>
          <span class="second">held</span>
          <button class="plain-button caught figure" type="button" data-cell="count" :disabled="!counts?.held" :aria-label="`${counts ? count(counts.held) : '…'} records held. Show them`" @click="choose('held')">{{ counts ? count(counts.held) : '…' }}</button>
        </li>
        <li v-if="counts && counts.contested > 0" class="end held" :class="{ chosen: chosen === 'contested' }" data-stop data-rule="contested">
          <span />
          <span class="takes">Rules that give different labels are true</span>
          <span class="second">contested</span>
          <button class="plain-button caught figure" type="button" @click="choose('contested')">{{ count(counts.contested) }}</button>
        </li>
        <RuleRow
          v-for="(rule, at) in gate.rules" :key="at" ref="rows" v-memo="[rule, chosen === at, open === at, carried === at, fresh === at, open === at && parts, open === at && shownPart, unfinished.get(at), findingOf(at), gate.inputs, gate.outcomes, open === at && gate]" data-stop :gate="gate" :rule="rule" :at="at"
          :is-chosen="chosen === at" :is-open="open === at" :is-moved="carried === at" :is-fresh="fresh === at" :parts="open === at ? parts : NO_PARTS" :shown-part="open === at ? shownPart : null" :unfinished="unfinished.get(at) ?? null" :finding="findingOf(at)"
          @choose="choose(at)" @open="(way, part) => openRule(at, way, part)" @close="close" @next="next(at)"
          @condition="(text, wider, step) => change(editRule(wider.gate, at, { condition: text }), step, wider.inputs)"
          @unfinished="$event === null ? unfinished.delete(at) : unfinished.set(at, $event)"
          @give="(outcome, entry) => change(giveEntry(gate, at, outcome, entry))" @note="change(editRule(gate, at, { note: $event }))"
          @name="named?.nameIn(rule.condition, $event, (next, text) => editRule(next, at, { condition: text }))"
          @show="show(typeof $event === 'string' ? { kind: $event, rule: at } : { kind: 'part', rule: at, way: $event.way })" @grab="grab($event, at)"
        >
          <template #acts>
            <button class="plain-button way" type="button" @click="copy(at)">Copy<kbd>Y</kbd></button>
            <button class="plain-button way" type="button" @click="change(switchRule(gate, at))">{{ rule.isOff ? 'Switch on' : 'Switch off' }}<kbd>X</kbd></button>
            <button class="plain-button way" type="button" @click="remove(at)">Remove</button>
          </template>
        </RuleRow>
        <RestRow data-stop :gate="gate" :taken="counts ? counts.otherwise + counts.unplaced : null" :records="counts?.records ?? 0" :is-chosen="chosen === 'rest'" :is-open="open === 'rest'" @choose="choose('rest')" @open="open = 'rest'" @give="(outcome, entry) => change(giveEntry(gate, null, outcome, entry))" @drop="change(dropOtherwise(gate)); close()" />
      </ol>
      <div v-else class="first">
        <p><b>No rule yet.</b> Every record flows past: <span class="figure">{{ count(counts?.records ?? table.records) }}</span> {{ (counts?.records ?? table.records) === 1 ? 'record gets' : 'records get' }} no label.</p>
        <p class="second">A rule says which records it takes, as in <i>Decay at least 40 %</i>, and what label they get. The first rule that holds decides.</p>
        <v-btn class="primary" @click="add(0)">Add the first rule<kbd>N</kbd></v-btn>
      </div>
    </div>
  </div>
</template>

<script lang="ts">
/** From so many rules on they stand closer. */
const CROWDED = 10
const NO_PARTS: ReadonlyMap<string, number> = new Map()
/** Milliseconds between two looks at what stands beside the counts. */
const BESIDE = 90
</script>

<style scoped src="./course.css"></style>
<style scoped>
.rules { position: relative; display: grid; grid-template-rows: auto minmax(0, 1fr); padding: 0 0 0 20px; min-width: 0; min-height: 0; }
.facts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 18px; min-height: 30px; padding-right: 16px; }
.space { flex: 1; }
.act { color: var(--pine); font-weight: 600; min-height: 26px; }
.course { overflow: auto; min-height: 0; padding-right: 12px; }
ol { position: relative; list-style: none; margin: 0; padding: 0 0 8px; }
.crowded { --row: 38px; --counts: 142px; }
.first { display: grid; gap: 10px; justify-items: start; align-content: center; padding: 34px 0; max-width: 520px; }
@media (max-width: 980px) {
  .course { max-height: none; }
}
@media (max-width: 760px) {
  .rules { padding-left: 8px; }
}
</style>
