<script setup lang="ts">
/** A condition as it is read: sentences with and, or and not between them; what belongs together lies on one ground, so that no bracket is counted. */
import type { Condition } from '@dime-gate/core/rule/condition'
import type { Way } from '@dime-gate/core/rule/edit-condition'
import { sentenceOf } from '@dime-gate/core/rule/sentence'
import { computed } from 'vue'
import { useConditionBench } from './condition-bench'
import { sentenceParts } from './sentence-words'

/** @property within how many groups it lies in */
const props = withDefaults(defineProps<{ condition: Condition; way?: Way; within?: number }>(), { way: () => [], within: 0 })
const { kindOf, unitOf, isNamed, lines } = useConditionBench()

const sentence = computed(() => sentenceOf(props.condition, kindOf.value))
const named = computed(() => sentence.value !== null && isNamed(sentence.value.subject))
const parts = computed(() => (sentence.value ? sentenceParts(sentence.value, unitOf(sentence.value.subject), named.value) : []))
/** By itself: what is pointed out changes with every step of a rule that is moved, and nearly everywhere comes to the same. */
const line = computed(() => (sentence.value?.subject.kind === 'name' ? lines.value.get(sentence.value.subject.name) : undefined))
</script>

<template>
  <span v-if="sentence" class="test" :data-way="way.join('.')">
    <template v-for="({ part, words }, at) in parts" :key="at"><template v-if="at > 0">{{ ' ' }}</template><span :class="[part?.split(' ')[0] ?? 'joint', { named: named && part === 'subject' }]" :data-part="part ?? 'relation'" :style="line && part === 'subject' && { textDecoration: `underline ${line} var(--brass)`, textDecorationThickness: '2px', textUnderlineOffset: '4px' }">{{ words }}</span></template>
  </span>
  <code v-else-if="condition.kind === 'test'" class="written" :data-way="way.join('.')" data-part="expression" title="Stays an expression: no sentence says it">{{ condition.text }}</code>
  <span v-else-if="condition.kind === 'not'" class="not"><b class="word">not</b> <ConditionWords :condition="condition.of" :way="[...way, 0]" :within="within + 1" /></span>
  <span v-else :class="{ group: within > 0, odd: within % 2 === 1 }">
    <template v-if="condition.of.length === 0">{{ condition.kind === 'all' ? 'every record' : 'no record' }}</template>
    <template v-for="(part, at) in condition.of" :key="at"><template v-if="at > 0">{{ ' ' }}<b class="word">{{ condition.kind === 'all' ? 'and' : 'or' }}</b>{{ ' ' }}</template><ConditionWords :condition="part" :way="[...way, at]" :within="within + 1" /></template>
  </span>
</template>

<style scoped>
.subject { color: var(--ink); }
.relation, .joint { color: var(--pine); }
.value { font-weight: 700; }
.named { font-weight: 700; border: 1px solid color-mix(in srgb, var(--brass) 60%, transparent); border-radius: 3px; padding: 0 5px; box-decoration-break: clone; -webkit-box-decoration-break: clone; }
.word { color: var(--brass); font-weight: 700; }
.group { background: color-mix(in srgb, var(--brass) 9%, transparent); border-radius: 3px; padding: 1px 5px; box-decoration-break: clone; -webkit-box-decoration-break: clone; }
.group:not(.odd) { background: color-mix(in srgb, var(--pine) 10%, transparent); }
.written { font-family: var(--figures); font-size: 13px; border-left: 2px solid var(--brass); padding-left: 5px; overflow-wrap: anywhere; }
</style>
