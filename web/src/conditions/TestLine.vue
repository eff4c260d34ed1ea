<script setup lang="ts">
/** One test of a condition as a sentence in which every part is changed in place; one that no sentence says as an expression. */
import { ALWAYS, type Condition } from '@dime-gate/core/rule/condition'
import { conditionSaid, firstSentence, type Relation, relationsOf, type Sentence, sentenceOf, valueCount, valueKind, withRelation } from '@dime-gate/core/rule/sentence'
import { nameNode } from '@dime-gate/core/rule/literal'
import { isEverything } from '@dime-gate/core/rule/edit-condition'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import { printExpression } from '@dime-gate/core/expression/print'
import { computed, ref, shallowRef, watch } from 'vue'
import { count } from '../shared/format'
import { useSteady } from '../shared/useSteady'
import { useConditionBench } from './condition-bench'
import PickField, { type Option } from './PickField.vue'
import { END_WORDS, literalWords, relationChoice, relationWords } from './sentence-words'
import { type OnTable, writtenCondition } from './subjects'
import ValueField from './ValueField.vue'

const props = defineProps<{ condition: Condition }>()
const emit = defineEmits<{
  /**
   * @param on the gate, with an input more where the test looks at something new
   * @param next the field to go on to; null to stay
   */
  say: [condition: Condition, on: OnTable, next: string | null]
  /** A whole condition was typed. */
  written: []
}>()

const bench = useConditionBench()
const known = shallowRef<CommonValues | null>(null)
const trouble = ref('')

const isNew = computed(() => isEverything(props.condition))
const sentence = computed(() => (isNew.value ? null : sentenceOf(props.condition, bench.kindOf.value)))
const subjectName = computed(() => (sentence.value?.subject.kind === 'name' ? sentence.value.subject.name : null))
const unit = computed(() => (sentence.value ? bench.unitOf(sentence.value.subject) : ''))
const subjectWords = computed(() => (sentence.value ? printExpression(sentence.value.subject) : isNew.value ? '' : props.condition.kind === 'test' ? props.condition.text : ''))
const subjectOptions = useSteady((): Option[] => bench.subjects.value.map(({ name, detail }) => ({ value: name, words: name, detail })))
const isNamed = computed(() => sentence.value !== null && bench.isNamed(sentence.value.subject))
const relationOptions = useSteady((): Option[] => {
  if (!sentence.value) return []
  const { kind } = sentence.value
  const relations = isNamed.value ? (['yes', 'no'] as const) : relationsOf(kind)
  return relations.map((relation) => ({ value: relation, words: relationChoice(relation, kind, isNamed.value) }))
})
const valueOptions = useSteady((): Option[] => (known.value?.values ?? []).map(({ text, records }) => ({ value: text, words: text === '' ? 'nothing' : text, detail: count(records) })))
const isText = computed(() => sentence.value !== null && valueKind(sentence.value) === 'text')
const isListed = computed(() => sentence.value !== null && valueCount(sentence.value.relation) === null)
const isRange = computed(() => sentence.value !== null && valueCount(sentence.value.relation) === 2)
const relation = computed(() => (sentence.value ? relationWords(sentence.value.relation, sentence.value.kind, isNamed.value) : ['']))
/** Values left to choose from in a list. */
const unlisted = computed(() => valueOptions.value.filter(({ value }) => !sentence.value?.values.includes(value)))

watch([subjectName, bench.renewed, bench.tick], async ([name, renewed], [before, wasRenewed]) => {
  // They are counted over all records: once.
  if (known.value && name === before && renewed === wasRenewed) return
  const found = name === null ? null : await bench.choices(name)
  if (subjectName.value === name) known.value = found
}, { immediate: true })

const say = (said: Sentence, next: string | null = null, on: OnTable = bench.on.value) => emit('say', conditionSaid(said), on, next)

function takeSubject(value: string): void {
  trouble.value = ''
  const subject = bench.subjects.value.find(({ name }) => name === value)
  if (!subject) {
    const written = writtenCondition(bench.on.value, value, bench.subjects.value)
    if ('trouble' in written) trouble.value = written.trouble.words
    else {
      emit('say', written.condition, written, null)
      emit('written')
    }
    return
  }
  const written = writtenCondition(bench.on.value, `${value} = null`, bench.subjects.value)
  if ('trouble' in written) return
  const input = written.gate.inputs.find(({ name }) => name === value)
  // A named condition is said by its name alone.
  if (!input) return say(firstSentence(value, 'boolean', ''), null, written)
  const next = input.type === 'date' || input.type === 'boolean' ? 'relation' : 'value 0'
  if (input.isSet) {
    const means = writtenCondition(bench.on.value, `mean(${value}) >= 0`, bench.subjects.value)
    if (!('trouble' in means)) emit('say', means.condition, means, next)
  } else if (sentence.value?.kind === input.type) say({ ...sentence.value, subject: nameNode(value) }, next, written)
  else say(firstSentence(value, input.type, FIRST[input.type] ?? ''), next, written)
}
const FIRST: Partial<Record<string, string>> = { number: '0', date: '2026-01-01', time: '12:00:00', 'date and time': '2026-01-01T00:00:00', 'days and time duration': 'P1D', 'years and months duration': 'P1Y' }

/** What was typed may be a whole test, or an expression that a test can be made of. */
function typedSubject(typed: string): Option | null {
  const written = writtenCondition(bench.on.value, typed, bench.subjects.value)
  if (!('trouble' in written)) return { value: typed, words: typed }
  const compared = writtenCondition(bench.on.value, `(${typed}) >= 0`, bench.subjects.value)
  return 'trouble' in compared ? null : { value: `(${typed}) >= 0`, words: typed }
}

function wrongSubject(typed: string): string {
  const written = writtenCondition(bench.on.value, typed, bench.subjects.value)
  return 'trouble' in written ? written.trouble.words : ''
}

function takeRelation(value: string): void {
  const next = withRelation(sentence.value!, value as Relation, FIRST[sentence.value!.kind] ?? valueOptions.value[0]?.value ?? '')
  say(next, valueCount(next.relation) === 0 ? null : 'value 0')
}

const setValue = (at: number, value: string) => say({ ...sentence.value!, values: sentence.value!.values.with(at, value) })
const dropValue = (at: number) => say({ ...sentence.value!, values: sentence.value!.values.toSpliced(at, 1) })
const addValue = (value: string) => {
  // Of a first one that was never chosen nothing is kept.
  const chosen = sentence.value!.values.filter((one) => one !== '')
  say({ ...sentence.value!, values: [...chosen, value] }, 'another')
}
const typedText = (typed: string): Option => ({ value: typed, words: typed })
function turnEnd(end: 0 | 1): void {
  const included = sentence.value!.included.with(end, !sentence.value!.included[end]) as [boolean, boolean]
  say({ ...sentence.value!, included })
}
</script>

<template>
  <span class="line">
    <span data-field="subject" :class="{ written: !sentence && !isNew }"><PickField :words="subjectWords" :options="subjectOptions" label="What it looks at" placeholder="What does it look at?" :other="typedSubject" :wrong="wrongSubject" :wide="isNew || !sentence" @pick="takeSubject" /></span>
    <template v-if="sentence">
      <span data-field="relation"><PickField :words="isRange ? (sentence.relation === 'not between' ? 'not within' : 'within') : relation[0]!" :options="relationOptions" label="How it compares" @pick="takeRelation" /></span>
      <template v-if="isRange">
        <button class="plain-button end" type="button" :title="sentence.included[0] ? 'The lower end belongs to it' : 'The lower end does not belong to it'" @click="turnEnd(0)">{{ END_WORDS.low[`${sentence.included[0]}`] }}</button>
        <ValueField data-field="value 0" :text="sentence.values[0]!" :kind="sentence.kind" :unit="''" label="Lower end" :spread="subjectName === null ? null : () => bench.spread(subjectName!)" @take="setValue(0, $event)" />
        <button class="plain-button end" type="button" :title="sentence.included[1] ? 'The upper end belongs to it' : 'The upper end does not belong to it'" @click="turnEnd(1)">{{ END_WORDS.high[`${sentence.included[1]}`] }}</button>
        <ValueField data-field="value 1" :text="sentence.values[1]!" :kind="sentence.kind" :unit="unit" label="Upper end" :spread="subjectName === null ? null : () => bench.spread(subjectName!)" @take="setValue(1, $event)" />
      </template>
      <template v-else-if="isListed">
        <span v-for="(value, at) in sentence.values" :key="`${at} ${value}`" class="listed">
          <span :data-field="`value ${at}`"><PickField v-if="isText" :words="value" :options="valueOptions" :label="`Value ${at + 1}`" placeholder="which?" :other="typedText" @pick="setValue(at, $event)" /><ValueField v-else :text="value" :kind="sentence.kind" :unit="''" :label="`Value ${at + 1}`" :spread="null" @take="setValue(at, $event)" /></span>
          <button v-if="sentence.values.length > 1" class="plain-button drop" type="button" :aria-label="`Without ${literalWords(value, sentence.kind)}`" @click="dropValue(at)">×</button>
        </span>
        <span v-if="isText" data-field="another"><PickField words="" :options="unlisted" label="One more value" placeholder="one more …" :other="typedText" @pick="addValue" /></span>
        <button v-else class="plain-button end" type="button" @click="addValue(sentence.values.at(-1)!)">one more</button>
      </template>
      <template v-else-if="sentence.values.length === 1">
        <span data-field="value 0">
          <PickField v-if="isText" :words="sentence.values[0]!" :options="valueOptions" label="Value" placeholder="which?" :other="typedText" @pick="setValue(0, $event)" />
          <ValueField v-else :text="sentence.values[0]!" :kind="valueKind(sentence)" :unit="relation[1] ? '' : unit" label="Value" :spread="relation[1] || subjectName === null ? null : () => bench.spread(subjectName!)" @take="setValue(0, $event)" />
        </span>
        <span v-if="relation[1]">{{ relation[1] }}</span>
      </template>
    </template>
    <button v-if="isNamed" class="plain-button end" type="button" title="Look at what it says, where it is written once" @click="bench.openNamed?.(subjectWords)">what it says</button>
    <span v-else-if="!sentence && !isNew && condition !== ALWAYS" class="second mark">an expression</span>
    <span v-if="trouble" class="trouble" role="alert">{{ trouble }}</span>
  </span>
</template>

<style scoped>
.line { display: inline-flex; flex-wrap: wrap; align-items: baseline; gap: 2px 6px; min-width: 0; }
.written { font-family: var(--figures); border-left: 2px solid var(--brass); padding-left: 4px; }
.end { color: var(--pine); border-bottom: 1.5px dotted var(--pine); min-height: 24px; }
.end:hover { background: var(--tint); }
.listed { display: inline-flex; align-items: baseline; }
.drop { width: 24px; min-height: 24px; text-align: center; color: var(--second); }
.mark { font-size: 12.5px; }
</style>
