<script setup lang="ts">
/** A part of a condition that is being changed: a test with what can be done to it, or a group of parts on its rail. */
import { ALWAYS, type Condition } from '@dime-gate/core/rule/condition'
import type { Way } from '@dime-gate/core/rule/edit-condition'
import { computed } from 'vue'
import { useConditionBench } from './condition-bench'
import type { OnTable } from './subjects'
import HoldsFor from './HoldsFor.vue'
import TestLine from './TestLine.vue'

export interface Acts {
  say(way: Way, part: Condition, on: OnTable, next: string | null): void
  add(way: Way, kind: 'all' | 'any'): void
  remove(way: Way): void
  not(way: Way): void
  kind(way: Way, kind: 'all' | 'any'): void
  move(way: Way, by: number): void
  lift(way: Way): void
  show(way: Way): void
  /** Gives the part a name, to be written once. */
  name(way: Way): void
}

const props = defineProps<{
  condition: Condition
  way: Way
  isTest: (condition: Condition) => boolean
  alone: ReadonlyMap<string, number>
  shown: string | null
  adding: { way: Way; kind: 'all' | 'any' } | null
  acts: Acts
  count: (value: number) => string
}>()
const emit = defineEmits<{ added: [condition: Condition, on: OnTable, next: string | null]; dropped: [] }>()

const name = computed(() => props.way.join('.'))
/** A `not` around a group is told with the group. */
const isNot = computed(() => props.condition.kind === 'not' && !props.isTest(props.condition))
const group = computed(() => {
  const inner = props.condition.kind === 'not' ? props.condition.of : props.condition
  return !props.isTest(props.condition) && (inner.kind === 'all' || inner.kind === 'any') ? inner : null
})
const groupWay = computed(() => (isNot.value ? [...props.way, 0] : props.way))
const groupWords = computed(() => {
  const all = group.value?.kind === 'all'
  return isNot.value ? (all ? 'not all of these' : 'none of these') : all ? 'all of these' : 'any of these'
})
const bench = useConditionBench()
const isNamed = computed(() => props.condition.kind === 'test' && bench.isNamed(props.condition.tree))
const isAddingHere = computed(() => props.adding !== null && props.adding.way.join('.') === name.value)
const isInGroup = computed(() => props.way.length > 0)
const isInInner = computed(() => props.way.length > 1)

function key(event: KeyboardEvent): void {
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) props.acts.move(props.way, event.key === 'ArrowUp' ? -1 : 1)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div v-if="group" class="group" :data-group="name">
    <div class="head">
      <v-menu>
        <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button kind" type="button">{{ groupWords }}</button></template>
        <v-list density="compact">
          <v-list-item title="all of these" @click="isNot ? (acts.not(way), acts.kind(way, 'all')) : acts.kind(way, 'all')" />
          <v-list-item title="any of these" @click="isNot ? (acts.not(way), acts.kind(way, 'any')) : acts.kind(way, 'any')" />
          <v-list-item :title="isNot ? 'without the not' : 'not: turned about'" @click="acts.not(way)" />
        </v-list>
      </v-menu>
      <HoldsFor of="group" :records="alone.get(name)" :is-shown="shown === name" @show="acts.show(way)" />
      <span class="acts">
        <button class="plain-button act" type="button" title="Go on with and" @click="acts.add(way, 'all')">and</button>
        <button class="plain-button act" type="button" title="Go on with or" @click="acts.add(way, 'any')">or</button>
        <button v-if="bench.openNamed" class="plain-button act" type="button" title="Give this group a name, to use it in other rules and gates" @click="acts.name(way)">name</button>
        <button v-if="isInGroup" class="plain-button act" type="button" aria-label="Remove this group" @click="acts.remove(way)">×</button>
      </span>
    </div>
    <div class="rail">
      <ConditionPart v-for="(part, at) in group.of" :key="at" :condition="part" :way="[...groupWay, at]" :is-test="isTest" :alone="alone" :shown="shown" :adding="adding" :acts="acts" :count="count" @added="(one, on, next) => emit('added', one, on, next)" @dropped="emit('dropped')" />
    </div>
  </div>
  <div v-else class="part" :data-line="name" :class="{ here: shown === name }" @keydown="key">
    <b v-if="isNot" class="kind">not</b>
    <TestLine :condition="isNot && condition.kind === 'not' ? condition.of : condition" @say="(part, on, next) => acts.say(groupWay, part, on, next)" />
    <HoldsFor of="test" :records="alone.get(name)" :is-shown="shown === name" @show="acts.show(way)" />
    <span class="acts">
      <button class="plain-button act" type="button" title="Another test that has to hold too" @click="acts.add(way, 'all')">and</button>
      <button class="plain-button act" type="button" title="Another test that may hold instead" @click="acts.add(way, 'any')">or</button>
      <button class="plain-button act" type="button" title="Must not hold" @click="acts.not(way)">not</button>
      <button v-if="isInInner" class="plain-button act" type="button" title="Out of its group" @click="acts.lift(way)">lift</button>
      <button v-if="bench.openNamed && !isNamed" class="plain-button act" type="button" title="Give this test a name, to use it in other rules and gates" @click="acts.name(way)">name</button>
      <button class="plain-button act" type="button" aria-label="Remove this test" @click="acts.remove(way)">×</button>
    </span>
  </div>
  <div v-if="isAddingHere" class="part adding">
    <b class="kind">{{ adding!.kind === 'all' ? 'and' : 'or' }}</b>
    <TestLine :condition="ALWAYS" @say="(part, on, next) => emit('added', part, on, next)" />
    <span class="acts"><button class="plain-button act" type="button" aria-label="No other test" @click="emit('dropped')">×</button></span>
  </div>
</template>

<style scoped>
.group { display: grid; gap: 1px; min-width: 0; }
.head, .part { display: flex; flex-wrap: wrap; align-items: baseline; gap: 2px 12px; min-height: 30px; min-width: 0; padding: 1px 4px; border-radius: 3px; }
.rail { display: grid; gap: 1px; margin-left: 6px; padding-left: 10px; border-left: 3px solid color-mix(in srgb, var(--brass) 55%, transparent); border-radius: 3px 0 0 3px; }
.rail .rail { border-left-color: color-mix(in srgb, var(--pine) 55%, transparent); }
.kind { color: var(--brass); font-weight: 700; border-bottom: 1.5px dotted currentColor; }
b.kind { border: 0; }
.acts { display: inline-flex; gap: 1px; opacity: 0; }
:is(.part, .head):is(:hover, :focus-within) > .acts, .adding > .acts { opacity: 1; }
@media (hover: none) { .acts { opacity: 1; } }
.act { min-width: 26px; min-height: 24px; padding: 0 5px; text-align: center; color: var(--second); border-radius: 3px; font-size: 13px; }
.act:hover { background: var(--tint); color: var(--ink); }
.part:hover, .part:focus-within { background: color-mix(in srgb, var(--sheet) 70%, transparent); }
</style>
