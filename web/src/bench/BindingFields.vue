<script setup lang="ts">
/** Which columns of which table stand for what the gate looks at. */
import { type Bound, type BoundInputs, columnsBound, standingInputs } from '@dime-gate/contract/binding'
import { deskSchema } from '@dime-gate/contract/desk'
import { tableSchema, type Column, type Table } from '@dime-gate/contract/table'
import { membersOfSet } from '@dime-gate/contract/table-figures'
import type { Input } from '@dime-gate/core/gate/document'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { computed, ref, shallowRef } from 'vue'
import { ask, messageOf } from '../shared/api'
import { count } from '../shared/format'
import { listed, withUnit } from '../shared/words'
import { useNotices } from '../shared/notices'

const props = defineProps<{ table: Table; asked: Input[]; inputs: BoundInputs }>()
const emit = defineEmits<{ bind: [table: Table, input: string, bound: Bound] }>()

const notices = useNotices()
/** The input that is being bound; null for none. */
const open = ref<string | null>(null)
/** Null while they are fetched. */
const tables = shallowRef<{ title: string; value: number }[] | null>(null)
const chosen = shallowRef<Table>(props.table)
const members = shallowRef<number[]>([])

const given = computed(() => props.asked.filter(({ source }) => source.kind === 'given').map((input) => {
  const bound = props.inputs[input.name]
  const columns = bound ? columnsBound(standingInputs({ it: bound }, props.table).it!).flatMap((id) => props.table.columns.find((one) => one.id === id) ?? []) : []
  const [first] = columns
  const words = bound && 'set' in bound ? `${bound.set} (${columns.length})` : !first ? 'nothing yet' : input.isSet ? `${columns.length} columns` : withUnit(first.name, first.unit)
  return { input, columns, words, title: listed(columns.map(({ name }) => name)), isNamedAlike: first?.name === input.name && !input.isSet }
}))
const figures = computed(() => props.asked.flatMap(({ name, source }) => (source.kind === 'figure' ? [{ name, feel: source.feel }] : [])))
const fed = computed(() => props.asked.filter(({ source }) => source.kind === 'gate').map(({ source }) => (source as { gate: string }).gate))
const fitting = (input: Input) => chosen.value.columns.filter(({ type }) => kindOfColumn(type) === input.type)

async function begin(input: Input, columns: readonly Column[]): Promise<void> {
  open.value = input.name
  chosen.value = props.table
  members.value = columns.map(({ id }) => id)
  await tell(async () => {
    tables.value = (await ask(deskSchema, '/desk')).tables.map(({ id, name }) => ({ title: name, value: id }))
  })
}

async function choose(id: number): Promise<void> {
  await tell(async () => {
    chosen.value = await ask(tableSchema, `/tables/${id}`)
    members.value = []
  })
}

function bind(input: string, bound: Bound): void {
  open.value = null
  emit('bind', chosen.value, input, bound)
}

function isSetBound({ name }: Input, set: string): boolean {
  const bound = props.inputs[name]
  return chosen.value.id === props.table.id && bound !== undefined && 'set' in bound && bound.set === set
}

function toggle(id: number): void {
  members.value = members.value.includes(id) ? members.value.filter((one) => one !== id) : [...members.value, id]
}

async function tell(work: () => Promise<void>): Promise<void> {
  try {
    await work()
  } catch (error) {
    notices.warn(messageOf(error))
  }
}
</script>

<template>
  <span class="bindings">looks at{{ asked.length === 0 ? ' nothing yet' : '' }}
    <template v-for="({ input, columns, words, title, isNamedAlike }, index) in given" :key="input.name">
      <span class="one"><template v-if="!isNamedAlike && given.length > 1">{{ input.name }}: </template>
        <v-menu :model-value="open === input.name" :close-on-content-click="false" @update:model-value="$event ? begin(input, columns) : (open = null)">
          <template #activator="{ props: activator }">
            <button v-bind="activator" class="plain-button bound" :class="{ trouble: columns.length === 0 }" type="button" :title="title" :data-input="input.name"><b>{{ words }}</b><span class="visually-hidden">: what stands for {{ input.name }}</span></button>
          </template>
          <v-card class="pa-4" width="320">
            <v-select v-if="tables" label="Table" :items="tables" :model-value="chosen.id" @update:model-value="choose" />
            <p v-else class="second">{{ table.name }}</p>
            <h2 class="pt-3 pb-1">{{ input.isSet ? 'Columns that stand' : 'Column that stands' }} for {{ input.name }}</h2>
            <p v-if="fitting(input).length === 0" class="second">This table has no column of {{ input.type === 'number' ? 'numbers' : `the kind “${input.type}”` }}.</p>
            <ul v-if="input.isSet && chosen.sets.length > 0" class="sets">
              <li v-for="set in chosen.sets" :key="set.name"><button class="plain-button choice" :class="{ chosen: isSetBound(input, set.name) }" type="button" :aria-pressed="isSetBound(input, set.name)" @click="bind(input.name, { set: set.name })"><b>{{ set.name }}</b> <span class="second">{{ count(membersOfSet(set, chosen.columns).length) }} columns, and those that join it</span></button></li>
            </ul>
            <ul>
              <li v-for="one in fitting(input)" :key="one.id"><button class="plain-button choice" :class="{ chosen: members.includes(one.id) }" type="button" :aria-pressed="members.includes(one.id)" @click="input.isSet ? toggle(one.id) : bind(input.name, { column: one.id })">{{ withUnit(one.name, one.unit) }}</button></li>
            </ul>
            <v-btn v-if="input.isSet" class="mt-3" :disabled="members.length === 0" @click="bind(input.name, { columns: members })">Take these {{ members.length }}</v-btn>
          </v-card>
        </v-menu><template v-if="index < given.length - 1">, </template>
      </span>
    </template>
    <template v-if="fed.length > 0">{{ given.length > 0 ? ' and ' : '' }}what <b>{{ listed(fed) }}</b> {{ fed.length === 1 ? 'gives' : 'give' }}</template>
    <span v-for="{ name, feel } in figures" :key="name" class="reckoned" :title="`${name} = ${feel}`">; <b>{{ name }}</b> = <code>{{ feel }}</code></span>
  </span>
</template>

<style scoped>
.bindings b { color: var(--ink); }
.bound { color: var(--ink); border-bottom: 1px dotted var(--second); }
.one { white-space: nowrap; }
.reckoned code { font-family: var(--figures); font-size: 12.5px; }
ul { list-style: none; padding: 0; margin: 0; max-height: 320px; overflow: auto; }
.sets { border-bottom: 1px solid var(--hairline); padding-bottom: 6px; margin-bottom: 6px; }
.choice { width: 100%; padding: 5px 8px; border-radius: 3px; }
.choice:hover { background: var(--sheet); }
.chosen { background: var(--tint); font-weight: 600; }
</style>
