<script setup lang="ts">
/** What a new gate on a table is to be: its form, and for all but rules the columns that it is on, with a first draft made from their values. */
import type { BoundInputs } from '@dime-gate/contract/binding'
import { gateSchema } from '@dime-gate/contract/gate'
import { isComputed, tableSchema, type Column, type Table } from '@dime-gate/contract/table'
import type { Gate, Input } from '@dime-gate/core/gate/document'
import { newGrid } from '@dime-gate/core/gate/edit-grid'
import { newMatch } from '@dime-gate/core/gate/edit-match'
import { newRulesGate } from '@dime-gate/core/gate/edit-rules'
import { givenInput } from '@dime-gate/core/gate/given-input'
import { isNumeric, isOnLine, kindOfColumn } from '@dime-gate/core/value/read-cell'
import { computed, nextTick, onMounted, ref, shallowRef, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { columnAddress } from '../records/column-address'
import { useSession } from '../records/useSession'
import { ask, askWith, messageOf } from '../shared/api'
import { count } from '../shared/format'
import { freeName } from '../shared/free-name'
import SideTabs from '../shared/SideTabs.vue'
import { useAsOf } from '../shared/useAsOf'
import { useReturnFocus } from '../shared/useReturnFocus'
import { TYPE_WORDS, withUnit } from '../shared/words'

const props = defineProps<{ tableId: number; taken: string[] }>()
const emit = defineEmits<{ close: [] }>()

const router = useRouter()
useReturnFocus()
const session = useSession()
const { asOf } = useAsOf()
const table = shallowRef<Table | null>(null)
const trouble = ref('')
const isBusy = ref(false)
const FORMS = [
  { name: 'rules', words: 'Rules', says: 'Conditions on any columns, in order: the first that holds decides.' },
  { name: 'scale', words: 'Scale', says: 'Cuts one column of numbers or dates into bands.' },
  { name: 'match', words: 'Match list', says: 'Sorts the values of one column, each to its label.' },
  { name: 'grid', words: 'Grid', says: 'Crosses two columns: a label for each crossing.' },
] as const
const form = ref<(typeof FORMS)[number]['name']>('rules')
const says = computed(() => FORMS.find(({ name }) => name === form.value)!.says)
const columns = computed(() => (table.value?.columns ?? []).filter(({ type }) => form.value !== 'scale' || isOnLine(type)))
/** The first side of a grid, once it is chosen. */
const down = shallowRef<Column | null>(null)

const start = useTemplateRef<{ $el: HTMLElement }>('start')
onMounted(() => tell(async () => {
  table.value = await ask(tableSchema, `/tables/${props.tableId}`)
  isBusy.value = false
  await nextTick()
  start.value?.$el.focus()
}))

const nameOf = (words: string) => freeName(words, props.taken)
const inputOn = ({ name, type, unit }: Column): Input => givenInput(name, kindOfColumn(type), isNumeric(type) ? unit : '')
const fetched = (...of: Column[]) => session.open(of.map(({ id }) => columnAddress(table.value!, id, asOf.value!)))

async function make(draft: Gate, inputs: BoundInputs): Promise<void> {
  const gate = await askWith(gateSchema, 'POST', '/gates', { draft, binding: { tableId: props.tableId, inputs } })
  await router.push(`/gates/${gate.id}`)
}

function take(column: Column): Promise<void> | void {
  const input = inputOn(column)
  const bound = { [input.name]: { column: column.id } }
  if (form.value === 'match') return tell(() => make(newMatch(nameOf(`${column.name} list`), input), bound))
  if (form.value === 'scale') {
    return tell(async () => {
      await fetched(column)
      await make(await session.firstScale(nameOf(`${column.name} scale`), input, column.id), bound)
    })
  }
  const first = down.value
  if (!first) return void (down.value = column)
  return tell(async () => {
    await fetched(first, column)
    const inputs = [inputOn(first), input]
    const [one, other] = await Promise.all([session.firstSide(inputs[0]!, first.id), session.firstSide(input, column.id)])
    await make(newGrid(nameOf(`${first.name} by ${column.name}`), inputs, one, other), { ...bound, [first.name]: { column: first.id } })
  })
}

async function tell(work: () => Promise<void>): Promise<void> {
  isBusy.value = true
  try {
    await work()
  } catch (error) {
    trouble.value = messageOf(error)
  }
  isBusy.value = false
}

function about({ type, blank, unreadable, feel }: Column): string {
  const kind = isNumeric(type) ? '' : `${TYPE_WORDS[type]}, `
  if (feel !== null) return `${kind}figure`
  return `${kind}${count(table.value!.records - blank - unreadable)} values${unreadable ? `, ${count(unreadable)} unreadable` : ''}`
}
const isShown = (column: Column) => column.id !== down.value?.id && !(form.value === 'scale' && isComputed(column) && !isOnLine(column.type))
</script>

<template>
  <v-dialog :model-value="true" max-width="480" aria-label="New gate" @update:model-value="emit('close')">
    <v-card class="pa-5 new">
      <h1>New gate<template v-if="table"> on {{ table.name }}</template></h1>
      <SideTabs v-model="form" label="Form of the gate" :tabs="FORMS" @update:model-value="down = null" />
      <p class="second">{{ says }}</p>
      <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
      <v-btn v-if="form === 'rules'" ref="start" class="primary start" :disabled="!table || isBusy" @click="tell(() => make(newRulesGate(nameOf(`${table!.name} rules`)), {}))">Begin with no rule</v-btn>
      <template v-else-if="table">
        <h2 v-if="form === 'grid'">{{ down ? `${down.name} stands down; which stands across?` : 'Which column stands down?' }}</h2>
        <h2 v-else>On which column?</h2>
        <p v-if="columns.length === 0" class="second">{{ form === 'scale' ? 'A scale needs a column of numbers or dates, and this table has none.' : 'This table has no such column.' }}</p>
        <ul>
          <template v-for="column in columns" :key="column.id">
            <li v-if="isShown(column)">
              <button class="plain-button choice" type="button" :disabled="isBusy" @click="take(column)"><b>{{ withUnit(column.name, column.unit) }}</b><span class="second">{{ about(column) }}</span></button>
            </li>
          </template>
        </ul>
      </template>
      <p class="second">Or <router-link :to="{ path: '/bring-in-gate', query: { on: tableId } }">bring one in</router-link>: a chart of thresholds, a formula, SQL, FEEL, DMN.</p>
      <div><v-btn @click="emit('close')">Cancel</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.new { display: grid; gap: 10px; }
.start { justify-self: start; }
ul { list-style: none; padding: 0; margin: 0; max-height: 46dvh; overflow: auto; border-top: 1px solid var(--hairline); }
.choice { display: flex; justify-content: space-between; gap: 12px; width: 100%; padding: 8px 4px; border-bottom: 1px solid var(--hairline); }
.choice:hover { background: var(--sheet); }
</style>
