<script setup lang="ts">
/** A column beside its table that is drawn from elsewhere: said as a sentence, with what it comes to while one chooses. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import type { Drawn } from '@dime-gate/contract/drawn'
import { drawnPreviewSchema } from '@dime-gate/contract/drawn-preview'
import type { Column, Table } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { computed, toRef } from 'vue'
import type { Name } from '../figure/completions'
import ExpressionField from '../figure/ExpressionField.vue'
import { askWith } from '../shared/api'
import { count, counted, date, FIGURE_PLACES, number, roundedText } from '../shared/format'
import SentenceView from '../shared/SentenceView.vue'
import SpreadView from '../shared/SpreadView.vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import { TYPE_WORDS } from '../shared/words'
import { listingText } from '../listing/listing'
import { calculationPieces } from './drawn-sentence'
import { useDrawnDraft } from './useDrawnDraft'
import { useWorld } from './useWorld'

/** @property begun what a new column begins with. @property who the record in focus is. @property change asks the server; false where it refuses */
const props = defineProps<{
  table: Table
  column: Column | null
  begun: Drawn
  record: number | null
  who: string
  change: (request: ChangeRequest) => Promise<boolean>
}>()
const emit = defineEmits<{ close: []; kept: [name: string] }>()
useReturnFocus()

const { world, wantTable, trouble: worldTrouble } = useWorld(toRef(props, 'table'), props.column?.id ?? null)
const draft = useDrawnDraft({
  world,
  column: props.column,
  begun: props.begun,
  record: toRef(props, 'record'),
  wantTable,
  preview: (drawn, record) => askWith(drawnPreviewSchema, 'POST', `/tables/${props.table.id}/drawn-previews`, { drawn, column: props.column?.id ?? null, record }),
})
const { name, unit, drawn, sentence, other, calculation, where, shown, trouble, isKeepable, told } = draft

const calculated = computed(() => (calculation.value ? calculationPieces(calculation.value, world.value, (one) => one) : []))
const names = computed((): Name[] => (other.value?.columns ?? []).map((column) => ({ name: column.name, detail: column.unit || TYPE_WORDS[column.type] })))

const hint = computed(() => {
  const [name, how] = [other.value?.name ?? '', drawn.value.kind === 'related' ? drawn.value.take : calculation.value?.take]
  if (how === 'share') return 'Counted are those of which this is true:'
  return where.value ? `Only records of ${name} of which this is true:` : `All records of ${name}, or those of which this is true:`
})

const words = (text: string) => (shown.value?.type === 'date' ? date(text) : shown.value && isNumeric(shown.value.type) ? number(roundedText(text, FIGURE_PLACES)) : text)
const bins = computed(() => {
  const spread = shown.value?.spread
  return spread?.kind === 'bins' ? { from: words(spread.from), to: words(spread.to), bins: spread.bins } : null
})
const common = computed(() => {
  const spread = shown.value?.spread
  return spread?.kind === 'values' ? spread.common.map(({ value, records }) => ({ words: words(value), records })) : []
})

/** Records whose keys meet nothing, or several, each a step away. */
const meetings = computed(() => {
  const [of, found] = [drawn.value, shown.value?.keys]
  if (of.kind !== 'related' || !found || !other.value) return []
  const [key] = of.keys
  const rows = [
    { ...found.alone, words: `meet no record of ${other.value.name}`, table: props.table.id, column: key!.own },
    { ...found.theirsAlone, words: `of ${other.value.name} meet none here`, table: other.value.id, column: key!.theirs },
    // Many may have one ward; who somebody is should be one record's alone.
    ...(props.table.columns.some(({ id, isIdentity }) => id === key!.own && isIdentity) ? [{ ...found.twice, words: 'share their key with another here', table: props.table.id, column: key!.own }] : []),
    ...(of.take === 'value' ? [{ ...found.theirsTwice, words: `of ${other.value.name} share their key, so that nothing can be looked up`, table: other.value.id, column: key!.theirs }] : []),
  ]
  return rows.filter(({ records }) => records > 0).map(({ values, column, ...row }) => ({ ...row, list: listingText({ filters: [{ kind: 'values', column, values }], sorts: [] }) }))
})

function calculateAnew(): void {
  const [first] = world.value.tables.filter(({ id }) => id !== props.table.id)
  if (first) draft.calculate({ table: first.id, take: 'count', of: null, where: null })
}

function leave(event: KeyboardEvent): void {
  if (!(event.target as HTMLElement).closest('.expression')) emit('close')
}

async function keep(): Promise<void> {
  if (isKeepable.value && (await props.change(draft.request()))) emit('kept', name.value.trim())
}
</script>

<template>
  <aside class="aside" :aria-label="column ? `The column ${column.name}` : 'A new column from elsewhere'" @keydown.esc="leave">
    <form @submit.prevent="keep">
      <div class="head">
        <v-text-field v-model="name" label="Name of the column" maxlength="200" :autofocus="column !== null" />
        <v-text-field v-model="unit" label="Unit" maxlength="40" />
      </div>
      <p v-if="worldTrouble" class="trouble-words" role="alert">{{ worldTrouble }}</p>

      <template v-if="drawn.kind === 'own'">
        <p class="second">Each row has a calculation of its own, over any table.</p>
        <template v-if="record !== null">
          <h2>{{ who || 'The record in focus' }}</h2>
          <template v-if="calculation && told">
            <SentenceView :pieces="calculated" @take="draft.calculate" />
            <div class="head">
              <v-text-field label="Places" type="number" min="0" max="20" :model-value="told.places ?? ''" @update:model-value="draft.tell({ places: $event === '' ? null : Math.min(20, Math.max(0, Math.round(Number($event)))) })" />
              <v-text-field label="Its unit" maxlength="40" :model-value="told.unit" @update:model-value="draft.tell({ unit: $event })" />
            </div>
          </template>
          <p v-else><v-btn @click="calculateAnew">Give it a calculation</v-btn></p>
        </template>
        <p v-else class="second">Put the focus on a row to say how it is calculated.</p>
      </template>
      <SentenceView v-else :pieces="sentence" @take="draft.take" />

      <template v-if="other">
        <p class="second hint">{{ hint }}</p>
        <ExpressionField v-model="where" :label="`Condition on ${other.name}`" :names="names" :trouble="null" />
      </template>
      <p v-if="trouble" class="trouble-words" role="alert">{{ trouble }}</p>

      <template v-if="shown">
        <SpreadView :bins="bins" :common="common" />
        <p class="counts" role="status">
          <span><b class="figure">{{ count(shown.computed) }}</b> computed</span>
          <span v-if="shown.blank > 0"><b class="figure">{{ count(shown.blank) }}</b> blank</span>
        </p>
        <p v-if="record !== null">
          <span class="second">{{ who || 'The record in focus' }}:</span>&nbsp;<b class="figure">{{ shown.value === null ? 'blank' : words(shown.value) }}</b><span v-if="unit && shown.value !== null" class="second">&nbsp;{{ unit }}</span>
        </p>
        <ul v-if="meetings.length > 0" class="meetings">
          <li v-for="row in meetings" :key="row.words">
            <router-link :to="{ path: `/tables/${row.table}`, query: row.list === null ? {} : { list: row.list } }"><b class="figure">{{ counted(row.records, 'record') }}</b> {{ row.words }}</router-link>
          </li>
        </ul>
      </template>
      <p v-else-if="drawn.kind === 'label'" class="second">It follows the gate, and whatever is corrected. The gate’s bench shows how many get which label.</p>

      <footer>
        <v-btn class="primary" type="submit" :disabled="!isKeepable">{{ column ? 'Keep the column' : 'Add the column' }}</v-btn>
        <v-btn @click="emit('close')">Cancel</v-btn>
      </footer>
    </form>
  </aside>
</template>

<style scoped>
.aside { overflow: auto; padding: 14px 18px 20px; border-left: 1px solid var(--hairline); background: var(--ground); }
form { display: grid; gap: 10px; }
.head { display: grid; grid-template-columns: minmax(0, 1fr) 96px; gap: 8px; }
.hint { font-size: 13px; margin-bottom: -4px; }
.trouble-words { color: var(--brick); }
.counts { display: flex; flex-wrap: wrap; gap: 2px 18px; }
.meetings { list-style: none; margin: 0; padding: 0; }
.meetings a { display: block; padding: 5px 0; border-top: 1px solid var(--hairline); color: inherit; text-decoration: none; }
.meetings a:hover { background: var(--tint); }
footer { display: flex; align-items: center; gap: 10px; padding: 4px 0 6px; }
</style>
