<script setup lang="ts">
/** One rule of the course: its condition, what it gives, and what it takes; while it is open, all of it can be changed. */
import type { Entry, Rule, RulesGate } from '@dime-gate/core/gate/document'
import { labelGiven } from '@dime-gate/core/gate/entries'
import { isIdle } from '@dime-gate/core/gate/form'
import { readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
import { ALWAYS } from '@dime-gate/core/rule/condition'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import { computed, nextTick, useTemplateRef } from 'vue'
import MarkCoin from '../shared/MarkCoin.vue'
import ConditionField from '../conditions/ConditionField.vue'
import ConditionWords from '../conditions/ConditionWords.vue'
import EntryField from '../gives/EntryField.vue'
import { valuesGiven } from '../gives/values-given'
import { entryWords } from './rule-words'
import RuleCounts from './RuleCounts.vue'
import type { OnTable } from '../conditions/subjects'
import { vStands } from '../shared/v-stands'

const props = defineProps<{
  gate: RulesGate
  rule: Rule
  at: number
  isChosen: boolean
  isOpen: boolean
  isMoved: boolean
  /** Whether it was added last, and is still being written. */
  isFresh: boolean
  /** By way, how many records the parts of its condition hold for. */
  parts: ReadonlyMap<string, number>
  shownPart: string | null
  /** A text that is no condition yet, as it was left. */
  unfinished: string | null
  /** What analysis says of it, in short. */
  finding: string | null
}>()
const emit = defineEmits<{
  choose: []
  open: [way: string, part: string]
  close: []
  condition: [text: string, on: OnTable, step: string | null]
  unfinished: [text: string | null]
  give: [outcome: number, entry: Entry]
  note: [text: string]
  show: [what: 'alone' | 'only' | { way: number[] }]
  /** A part of its condition is to be written once, under a name. */
  name: [way: number[]]
  grab: [event: PointerEvent]
  next: []
}>()

const field = useTemplateRef('field')
const labelField = useTemplateRef<InstanceType<typeof EntryField>[]>('labelField')

const read = computed(() => readCondition(props.rule.condition, typesIn(props.gate)))
const condition = computed(() => ('condition' in read.value ? read.value.condition : ALWAYS))
const trouble = computed(() => ('problem' in read.value ? problemWords(read.value.problem) : ''))
const isUnwritten = computed(() => props.rule.condition.trim() === '')
const label = computed(() => labelGiven(props.rule.entries))
const gives = computed(() => (label.value === '' ? 'no value' : (label.value ?? (props.rule.entries[0] ? entryWords(props.rule.entries[0]) : 'no label yet'))))
const look = computed(() => props.gate.outcomes[0]!.labels.find(({ value }) => value === label.value))
const others = computed(() => props.rule.entries.slice(1).map(entryWords).filter((words) => words !== ''))
function point(event: MouseEvent): void {
  const target = event.target as HTMLElement
  const test = target.closest<HTMLElement>('[data-way]')
  const part = target.closest<HTMLElement>('[data-part]')?.dataset.part ?? 'subject'
  if (test) emit('open', test.dataset.way!, part)
  else emit('choose')
}

/** Enter goes on from the condition to the label, and from there to the next rule. */
function enter(event: KeyboardEvent): void {
  if (event.key !== 'Enter' || event.defaultPrevented) return
  const isInLabel = (event.target as HTMLElement).closest('[data-gives]') !== null
  event.preventDefault()
  event.stopPropagation()
  if (isInLabel) emit('next')
  else labelField.value?.[0]?.focus()
}

/** Of a rule that was just added, the label is the last word: the next one begins. */
async function give(outcome: number, entry: Entry): Promise<void> {
  const isByKey = isEntering
  emit('give', outcome, entry)
  // What was given is part of the gate before another rule is.
  await nextTick()
  if (props.isFresh && isByKey && outcome === props.gate.outcomes.length - 1) emit('next')
}

let isEntering = false
function press(event: KeyboardEvent): void {
  isEntering = event.key === 'Enter'
}

defineExpose({
  focus: (way: string, part: string) => field.value?.focus(way, part),
  focusLabel: () => labelField.value?.[0]?.focus(),
})
</script>

<template>
  <li class="rule" :class="{ chosen: isChosen, open: isOpen, idle: isIdle(rule), moved: isMoved }" :data-rule="at" @keydown="enter">
    <button class="plain-button number figure" type="button" :aria-label="`Rule ${at + 1}. Drag to move it, or hold Alt and press an arrow`" @pointerdown="emit('grab', $event)" @click="emit('choose')">{{ at + 1 }}</button>
    <div v-if="!isOpen" class="takes" @click="point">
      <span v-if="unfinished !== null" class="trouble">not finished: <code>{{ unfinished }}</code></span>
      <span v-else-if="trouble" class="trouble">{{ trouble }}</span>
      <span v-else-if="isUnwritten" class="second">no condition yet: takes nothing</span>
      <ConditionWords v-else :condition="condition" />
      <span v-if="rule.isOff" class="off">switched off</span>
      <span v-if="rule.note" class="second note">{{ rule.note }}</span>
      <span v-if="finding" class="second note"><span class="sign" />{{ finding }}</span>
    </div>
    <div v-else class="takes editing">
      <ConditionField ref="field" :gate="gate" :condition="rule.condition" :label="`Condition of rule ${at + 1}`" :parts="parts" :shown-part="shownPart" :unfinished="unfinished" @change="(text, on, step) => emit('condition', text, on, step)" @unfinished="emit('unfinished', $event)" @show="emit('show', { way: $event })" @written="labelField?.[0]?.focus()" @name="emit('name', $event)">
        <input class="remark" v-stands="rule.note" placeholder="A remark for colleagues" :aria-label="`Remark on rule ${at + 1}`" maxlength="500" @change="emit('note', ($event.target as HTMLInputElement).value.trim())" @keydown.enter.prevent.stop="($event.target as HTMLInputElement).blur()">
        <template #acts>
          <slot name="acts" />
          <button class="plain-button way" type="button" @click="emit('close')">Done<kbd>Esc</kbd></button>
        </template>
      </ConditionField>
    </div>
    <div class="gives" data-gives @keydown.capture="press" @keyup.capture="isEntering = false" @pointerdown.capture="isEntering = false">
      <template v-if="isOpen">
        <span v-for="(outcome, place) in gate.outcomes" :key="outcome.name" class="given">
          <span v-if="place > 0" class="second of">{{ outcome.name }}</span>
          <EntryField ref="labelField" :entry="rule.entries[place] ?? null" :outcome="outcome" :given="valuesGiven(gate, place)" :label="place === 0 ? `Label of rule ${at + 1}` : `${outcome.name} of rule ${at + 1}`" :placeholder="place === 0 ? 'which label?' : 'no value'" @give="give(place, $event)" />
        </span>
      </template>
      <button v-else class="plain-button shown" type="button" :aria-label="`${[gives, ...others].join(', ')}: change what rule ${at + 1} gives`" @click="emit('open', '', 'label')">
        <MarkCoin v-if="look" :mark="look.mark" :colour="look.colour" /><b v-if="label !== null" class="label">{{ gives }}</b><span v-else class="second">{{ gives }}</span>
        <span v-if="others.length" class="second others">{{ others.join(' · ') }}</span>
      </button>
    </div>
    <RuleCounts class="counts" :at="at" :is-open="isOpen" @choose="emit('choose')" @show="emit('show', $event)" />
  </li>
</template>

<style scoped>
.rule { display: grid; grid-template-columns: 26px minmax(0, 1fr) minmax(110px, 168px) var(--counts, 88px); gap: 0 12px; align-items: center; min-height: var(--row, 52px); padding: 4px 8px 4px 0; border-bottom: 1px solid var(--hairline); }
/* Of hundreds of rules those out of sight are not laid out. What is open may reach over its row. */
.crowded .rule:not(.open) { content-visibility: auto; contain-intrinsic-block-size: auto var(--row); }
.number { height: 26px; text-align: right; color: var(--second); cursor: grab; touch-action: none; border-radius: 3px; }
.number:hover { color: var(--ink); }
.takes { min-width: 0; line-height: 1.45; overflow-wrap: anywhere; cursor: pointer; }
.takes:not(.editing):hover { background: linear-gradient(90deg, color-mix(in srgb, var(--tint) 55%, transparent), transparent); }
.note { display: block; font-size: 12.5px; line-height: 1.35; }
.sign { display: inline-block; width: 7px; height: 7px; margin-right: 6px; rotate: 45deg; background: var(--brass); }
.off { display: inline-block; font-size: 12px; padding: 0 6px; margin-left: 6px; border: 1px solid var(--hairline); border-radius: 8px; color: var(--second); }
.editing { cursor: default; display: grid; gap: 4px; padding: 4px 0; }
.remark { flex: 1; min-width: 120px; height: 26px; padding: 0 3px; font: inherit; font-size: 13px; color: var(--ink); background: none; border: 0; border-bottom: 1px solid var(--hairline); }
.remark::placeholder { color: var(--second); opacity: 1; }
.way { min-height: 26px; color: var(--pine); font-weight: 600; font-size: 13px; }
.way kbd { margin-left: 5px; }
.gives { display: grid; gap: 3px; min-width: 0; }
.given { display: flex; flex-wrap: wrap; align-items: baseline; gap: 0 6px; min-width: 0; }
.of { font-size: 12.5px; }
.shown { display: flex; flex-wrap: wrap; align-items: center; gap: 1px 7px; min-height: 28px; max-width: 100%; }
.shown { align-items: flex-start; }
.label { flex: 1 1 0; min-width: 60px; font-weight: 600; line-height: 1.3; overflow-wrap: anywhere; }
.others { flex-basis: 100%; font-size: 12.5px; }
.crowded .counts:not(.open *) { display: flex; flex-flow: row-reverse wrap; gap: 0 8px; align-items: baseline; }
.chosen { background: linear-gradient(90deg, var(--tint), color-mix(in srgb, var(--tint) 30%, transparent)); }
.open { align-items: start; padding-top: 8px; }
.idle:not(.open) .takes, .idle:not(.open) .label, .idle:not(.open) :deep(.caught) { color: var(--second); }
.moved { box-shadow: inset 0 0 0 1.5px var(--brass); background: var(--tint); }
@media (max-width: 760px) {
  .rule { grid-template-columns: 22px minmax(0, 1fr) auto; gap: 2px 8px; padding: 8px 4px 8px 0; }
  .gives { grid-column: 2; grid-row: 2; }
  .counts, .crowded .counts:not(.open *) { display: grid; grid-column: 3; grid-row: 1 / span 2; max-width: 70px; }
}
</style>
