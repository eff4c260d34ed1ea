<script setup lang="ts">
/** A condition while it is changed: a line a test, groups on a rail of their own. What is changed is whole at every step. */
import type { Condition } from '@dime-gate/core/rule/condition'
import { ALWAYS, conditionText } from '@dime-gate/core/rule/condition'
import { isEverything, partAt, type Way, withAnother, withKind, withNot, withPart, withPartLifted, withPartMoved } from '@dime-gate/core/rule/edit-condition'
import { sentenceOf } from '@dime-gate/core/rule/sentence'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { count } from '../shared/format'
import ConditionPart from './ConditionPart.vue'
import { useConditionBench } from './condition-bench'
import type { OnTable } from './subjects'
import TestLine from './TestLine.vue'

/** @property alone by way, how many records a part holds for */
const props = defineProps<{ condition: Condition; alone: ReadonlyMap<string, number>; shown: string | null }>()
const emit = defineEmits<{ change: [text: string, on: OnTable]; show: [way: number[]]; written: []; name: [way: number[]] }>()

const bench = useConditionBench()
const host = useTemplateRef<HTMLElement>('host')
/** A test that is being added, and beside what; it is part of the condition once it looks at something. */
const adding = ref<{ way: Way; kind: 'all' | 'any' } | null>(null)

function change(condition: Condition, on: OnTable = bench.on.value): void {
  adding.value = null
  emit('change', isEverything(condition) ? '' : conditionText(condition), on)
}

async function add(way: Way, kind: 'all' | 'any'): Promise<void> {
  adding.value = { way, kind }
  await nextTick()
  host.value?.querySelector<HTMLElement>('.adding [data-field=subject] input')?.focus()
}

async function added(condition: Condition, on: OnTable, next: string | null): Promise<void> {
  const { way, kind } = adding.value!
  const place = newPlace(props.condition, way, kind)
  change(withAnother(props.condition, way, kind, condition), on)
  if (next !== null) await focus(place, next)
}

async function say(way: Way, part: Condition, on: OnTable, next: string | null): Promise<void> {
  change(withPart(props.condition, way, part), on)
  if (next !== null) await focus(way.join('.'), next)
}

/** @param part as it was pointed at in the words */
async function focus(way: string, part: string): Promise<void> {
  // What was changed comes back from the gate first.
  await nextTick()
  await nextTick()
  const line = host.value?.querySelector<HTMLElement>(`[data-line="${way}"]`) ?? host.value
  ;(line?.querySelector<HTMLElement>(`[data-field="${part}"] input, input[data-field="${part}"]`) ?? line?.querySelector<HTMLElement>('input'))?.focus()
}

/** Where the part that was added beside `way` stands now. */
function newPlace(before: Condition, way: Way, kind: 'all' | 'any'): string {
  const above = way.slice(0, -1)
  if (way.length > 0 && partAt(before, above)?.kind === kind) return [...above, way.at(-1)! + 1].join('.')
  const at = partAt(before, way)
  return [...way, at && at.kind === kind && (at.kind === 'all' || at.kind === 'any') ? at.of.length : 1].join('.')
}

const acts = computed(() => ({
  say,
  add,
  remove: (way: Way) => change(withPart(props.condition, way, null)),
  not: (way: Way) => change(withNot(props.condition, way)),
  kind: (way: Way, kind: 'all' | 'any') => change(withKind(props.condition, way, kind)),
  move: (way: Way, by: number) => change(withPartMoved(props.condition, way, by)),
  lift: (way: Way) => change(withPartLifted(props.condition, way)),
  show: (way: Way) => emit('show', [...way]),
  name: (way: Way) => emit('name', [...way]),
}))
const isTest = (condition: Condition) => condition.kind === 'test' || sentenceOf(condition, bench.kindOf.value) !== null

defineExpose({ focus })
</script>

<template>
  <div ref="host" class="conditions">
    <TestLine v-if="isEverything(condition)" data-line="" :condition="ALWAYS" @say="(part, on, next) => say([], part, on, next)" @written="emit('written')" />
    <ConditionPart v-else :condition="condition" :way="[]" :is-test="isTest" :alone="alone" :shown="shown" :adding="adding" :acts="acts" :count="count" @added="added" @dropped="adding = null" />
  </div>
</template>

<style scoped>
.conditions { display: grid; min-width: 0; }
</style>
