<script setup lang="ts">
/** A table of groups of a table: by which of its columns, and what each group is told with. */
import type { Calculation } from '@dime-gate/contract/drawn'
import { tableSchema, type Table } from '@dime-gate/contract/table'
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import ExpressionField from '../figure/ExpressionField.vue'
import { askWith, messageOf } from '../shared/api'
import SentenceView from '../shared/SentenceView.vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import { TYPE_WORDS } from '../shared/words'
import { calculationPieces } from './drawn-sentence'
import { beginGroup, type GroupFigure, groupChoices, rollUpRequest } from './roll-up'

const props = defineProps<{ table: Table }>()
const emit = defineEmits<{ close: [] }>()
useReturnFocus()
const router = useRouter()

const choices = computed(() => groupChoices(props.table.columns))
const chosen = ref<string[]>(choices.value.slice(0, 1).map(({ value }) => value))
const name = ref(beginGroup(props.table.name, choices.value, chosen.value))
let isNameOwn = true
function nameIt(text: string): void {
  isNameOwn = false
  name.value = text
}
const figures = shallowRef<GroupFigure[]>([{ name: 'Records', calculation: { table: props.table.id, take: 'count', of: null, where: null } }])
const trouble = ref('')
const isBusy = ref(false)

const world = computed(() => ({ tables: [props.table], other: () => props.table }))
const names = computed(() => props.table.columns.map((column) => ({ name: column.name, detail: column.unit || TYPE_WORDS[column.type] })))
const request = computed(() => rollUpRequest(props.table, name.value, choices.value, chosen.value, figures.value))

function choose(values: string[]): void {
  chosen.value = values
  if (isNameOwn) name.value = beginGroup(props.table.name, choices.value, values)
}

function change(at: number, more: Partial<GroupFigure>): void {
  figures.value = figures.value.map((one, place) => (place === at ? { ...one, ...more } : one))
}

function changeCalculation(at: number, calculation: Calculation): void {
  change(at, { calculation })
}

function addFigure(): void {
  figures.value = [...figures.value, { name: `Figure ${figures.value.length + 1}`, calculation: { table: props.table.id, take: 'count', of: null, where: null } }]
}

async function make(): Promise<void> {
  isBusy.value = true
  try {
    const made = await askWith(tableSchema, 'POST', `/tables/${props.table.id}/roll-ups`, request.value)
    await router.push(`/tables/${made.id}`)
  } catch (error) {
    trouble.value = messageOf(error)
  }
  isBusy.value = false
}
</script>

<template>
  <v-dialog :model-value="true" max-width="620" scrollable aria-label="Roll up" @update:model-value="emit('close')">
    <v-card class="pa-5">
      <h1>Roll up {{ table.name }}</h1>
      <p class="second">A table with one record for each group. It has figures, gates and runs of its own, and follows what is changed beneath.</p>
      <form @submit.prevent="make">
        <v-select :model-value="chosen" :items="choices" item-title="words" item-value="value" label="A group is all records with the same" multiple @update:model-value="choose" />
        <v-text-field :model-value="name" label="Name of the table of groups" maxlength="120" @update:model-value="nameIt" />
        <h2>Each group is told with</h2>
        <div v-for="(figure, at) in figures" :key="at" class="told">
          <v-text-field :model-value="figure.name" :label="`Name of column ${at + 1}`" maxlength="200" @update:model-value="change(at, { name: $event })" />
          <button class="plain-button away" type="button" :aria-label="`Without ${figure.name}`" @click="figures = figures.filter((_, place) => place !== at)">×</button>
          <SentenceView class="wide" :pieces="calculationPieces(figure.calculation, world, (one) => one)" @take="changeCalculation(at, $event)" />
          <ExpressionField
            v-if="figure.calculation.where !== null || figure.calculation.take === 'share'"
            class="wide" :model-value="figure.calculation.where ?? ''" :label="`Condition of ${figure.name}`" :names="names" :trouble="null"
            @update:model-value="changeCalculation(at, { ...figure.calculation, where: $event })"
          />
          <button v-else class="plain-button wide more" type="button" @click="changeCalculation(at, { ...figure.calculation, where: '' })">only of those that meet a condition</button>
        </div>
        <p><v-btn @click="addFigure">Another column</v-btn></p>
        <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
        <footer>
          <v-btn class="primary" type="submit" :disabled="isBusy || chosen.length === 0 || name.trim() === ''">Make the table</v-btn>
          <v-btn @click="emit('close')">Cancel</v-btn>
        </footer>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
form { display: grid; gap: 12px; padding-top: 14px; }
.told { display: grid; grid-template-columns: minmax(0, 1fr) 28px; gap: 6px 8px; padding-bottom: 10px; border-bottom: 1px solid var(--hairline); }
.wide { grid-column: 1 / -1; }
.away { min-width: 28px; text-align: center; }
.more { justify-self: start; color: var(--pine); border-bottom: 1px dotted; }
footer { display: flex; gap: 10px; }
</style>
