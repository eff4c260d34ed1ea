<script setup lang="ts">
/** A figure beside its table: said as a sentence or written as an expression, with what it comes to while one writes. */
import { API } from '@dime-gate/contract/api'
import type { ChangeRequest } from '@dime-gate/contract/change'
import type { Drawn } from '@dime-gate/contract/drawn'
import type { Column, SetOfColumns, Table } from '@dime-gate/contract/table'
import { computed, ref, toRef, watch } from 'vue'
import { drawnOffers } from '../drawn/drawn-sentence'
import { useWorld } from '../drawn/useWorld'
import { useSession } from '../records/useSession'
import { messageOf } from '../shared/api'
import { count, counted, date, FIGURE_PLACES, number, roundedText } from '../shared/format'
import SentenceView from '../shared/SentenceView.vue'
import SpreadView from '../shared/SpreadView.vue'
import { useAsOf } from '../shared/useAsOf'
import { useReturnFocus } from '../shared/useReturnFocus'
import { useThrottled } from '../shared/useThrottled'
import ExpressionField from './ExpressionField.vue'
import type { FigureAsked } from './preview'
import { setWords } from './sentence'
import SetDialog from './SetDialog.vue'
import { useFigureDraft } from './useFigureDraft'

/** @property who the record in focus is. @property change asks the server; false where it refuses, and then it is told why */
const props = defineProps<{ table: Table; figure: Column | null; record: number | null; who: string; change: (request: ChangeRequest) => Promise<boolean> }>()
const emit = defineEmits<{ close: []; kept: [name: string]; draw: [drawn: Drawn] }>()
useReturnFocus()

const session = useSession()
const { asOf } = useAsOf()
const trouble = ref('')
const isBusy = ref(false)
const settingSet = ref<SetOfColumns | null>(null)
const path = `${API}/tables/${props.table.id}/columns`

const draft = useFigureDraft({
  table: toRef(props, 'table'),
  figure: props.figure,
  asOf,
  record: toRef(props, 'record'),
  async preview(asked: FigureAsked) {
    try {
      trouble.value = ''
      return await session.previewFigure(JSON.parse(JSON.stringify(asked)) as FigureAsked, path)
    } catch (error) {
      trouble.value = messageOf(error)
      return { trouble: { words: trouble.value, from: null, to: null } }
    }
  },
})
const { name, unit, feel, units, sets, names, sentence, offers, shown, isReady, isKeepable } = draft

const { world, isKnown } = useWorld(toRef(props, 'table'), props.figure?.id ?? null)
const elsewhere = computed(() => (props.figure || !isKnown.value ? [] : drawnOffers(world.value)))

// What is there has changed, and so has what the figure comes to.
watch(() => props.table.version, () => void session.forget())

/** Typed names are told from half-written ones once the fingers rest. */
const told = ref<typeof shown.value>(null)
watch(shown, useThrottled(async () => void (told.value = shown.value), 60), { immediate: true })
const preview = computed(() => (told.value && !('trouble' in told.value) ? told.value : null))
const wrong = computed(() => (told.value && 'trouble' in told.value ? told.value.trouble : null))

const ends = computed(() => {
  const spread = preview.value?.spread
  if (!spread) return null
  const text = (value: number) => number(roundedText(String(Number(value.toPrecision(12))), FIGURE_PLACES))
  return { from: text(spread.from), to: text(spread.to), bins: spread.bins }
})
const result = computed(() => {
  const working = preview.value?.working
  if (!working) return null
  if (working.result === null) return { words: working.why ?? 'nothing', isNothing: true }
  return { words: preview.value!.kind === 'number' ? number(roundedText(working.result, 6)) : preview.value!.kind === 'date' ? date(working.result) : working.result, isNothing: false }
})

function lengthWords({ years, months, days }: { years: string; months: string; days: string }): string {
  return `${counted(Number(years), 'year')} and ${counted(Number(months), 'month')}, or ${counted(Number(days), 'day')}.`
}

/** In the expression Escape closes what is proposed, and what was written stays. */
function leave(event: KeyboardEvent): void {
  if (!(event.target as HTMLElement).closest('.expression')) emit('close')
}

async function keep(): Promise<void> {
  if (!isKeepable.value || isBusy.value) return
  isBusy.value = true
  try {
    for (const request of draft.requests()) if (!(await props.change(request))) return
    emit('kept', name.value)
  } finally {
    isBusy.value = false
  }
}

async function keepSet(set: SetOfColumns): Promise<void> {
  const before = settingSet.value!
  const all = props.table.sets.some((one) => one.name === before.name) ? props.table.sets.map((one) => (one.name === before.name ? set : one)) : [...props.table.sets, set]
  if (!(await props.change({ kind: 'column sets', sets: all }))) return
  // What is being written is not the table's yet, so nobody else renames it there.
  if (before.name !== set.name) feel.value = feel.value.replaceAll(before.name, set.name)
  settingSet.value = null
}
</script>

<template>
  <aside class="aside" :aria-label="figure ? `The figure ${figure.name}` : 'A new figure'" @keydown.esc="leave">
    <form @submit.prevent="keep">
      <div class="head">
        <v-text-field v-model="name" class="name" label="Name of the figure" maxlength="200" :autofocus="figure !== null" />
        <v-text-field class="unit" label="Unit" maxlength="40" :model-value="unit" @update:model-value="draft.setUnit" />
      </div>

      <SentenceView v-if="sentence" :pieces="sentence" @take="draft.take" />
      <p v-else-if="feel.trim() === ''" class="second">Choose a sentence below, or write an expression.</p>
      <p v-else-if="!wrong" class="second own">An expression of its own, which no sentence says.</p>
      <p v-for="set in sets" :key="set.name" class="second set">
        {{ setWords(set, table.columns) }} <button class="plain-button change" type="button" @click="settingSet = set">Change</button>
      </p>

      <ExpressionField v-model="feel" label="Expression" :names="names" :trouble="wrong" />
      <p v-if="wrong" class="trouble-words" role="alert">{{ wrong.words }}</p>
      <template v-else>
        <p v-for="one in units.troubles" :key="one.words + one.span.from" class="notice unit-trouble" role="status">
          {{ one.words }}
          <button v-if="one.converted !== null" class="plain-button change" type="button" @click="feel = one.converted">Convert: <code>{{ one.converted }}</code></button>
        </p>
      </template>

      <template v-if="preview">
        <SpreadView :bins="ends" :common="preview.common.map((one) => ({ words: preview!.kind === 'date' ? date(one.value) : one.value, records: one.records }))" />
        <p class="counts" role="status">
          <span
            ><b class="figure">{{ count(preview.computed) }}</b> computed<template v-if="preview.of < table.records">
              of the first {{ count(preview.of) }}</template
            ></span
          >
          <span v-for="one in preview.nothing" :key="one.words"
            ><b class="figure">{{ count(one.records) }}</b> blank: {{ one.words }}</span
          >
        </p>
        <div v-if="preview.working && result" class="working">
          <h2>For the record in focus{{ who ? `, ${who}` : '' }}</h2>
          <p class="figure put">{{ preview.working.text }}</p>
          <p>
            = <b class="figure" :class="{ nothing: result.isNothing }">{{ result.words }}</b><span
              v-if="unit && !result.isNothing"
              class="second"
              >&nbsp;{{ unit }}</span
            >
          </p>
          <p v-if="preview.working.lengths" class="second">In full: {{ lengthWords(preview.working.lengths) }}</p>
        </div>
        <p v-else class="second">Put the focus on a record to see how it comes about there.</p>
      </template>
      <p v-else-if="feel.trim() !== '' && !wrong" class="second" role="status">Computing …</p>

      <footer>
        <v-btn class="primary" type="submit" :disabled="!isKeepable || isBusy">{{ figure ? 'Keep the figure' : 'Add the figure' }}</v-btn>
        <v-btn @click="emit('close')">Cancel</v-btn>
        <span v-if="isReady && !isKeepable" class="second">It needs a name.</span>
      </footer>

      <template v-if="offers.length > 0">
        <h2>{{ feel.trim() === '' ? 'Figures, in a sentence' : 'Other figures, in a sentence' }}</h2>
        <ul class="offers">
          <li v-for="offer in offers" :key="offer.words">
            <button class="plain-button" type="button" @click="draft.begin(offer.part)">
              <span>{{ offer.words }}</span
              ><span class="second about">{{ offer.about }}</span>
            </button>
          </li>
        </ul>
      </template>
      <template v-if="elsewhere.length > 0 && feel.trim() === ''">
        <h2>From other records</h2>
        <ul class="offers">
          <li v-for="offer in elsewhere" :key="offer.words">
            <button class="plain-button" type="button" @click="emit('draw', offer.drawn)">
              <span>{{ offer.words }}</span
              ><span class="second about">{{ offer.about }}</span>
            </button>
          </li>
        </ul>
      </template>
    </form>
    <SetDialog v-if="settingSet" :set="settingSet" :columns="table.columns" @keep="keepSet" @close="settingSet = null" />
  </aside>
</template>

<style scoped>
.aside { overflow: auto; padding: 14px 18px 20px; border-left: 1px solid var(--hairline); background: var(--ground); }
form { display: grid; gap: 10px; }
.head { display: grid; grid-template-columns: minmax(0, 1fr) 96px; gap: 8px; }
.set, .own { font-size: 13px; }
.change { color: var(--pine); border-bottom: 1px dotted; }
.trouble-words { color: var(--brick); }
.offers { list-style: none; margin: 0; padding: 0; }
.counts { display: flex; flex-wrap: wrap; gap: 2px 18px; }
.working { display: grid; gap: 2px; }
.put { font-size: 13px; overflow-wrap: anywhere; }
.working b { font-size: 16px; }
.nothing { font-family: var(--text); font-style: italic; font-weight: 400; color: var(--second); }
footer { display: flex; align-items: center; gap: 10px; padding: 4px 0 6px; }
.offers button { display: flex; justify-content: space-between; gap: 12px; width: 100%; min-height: 30px; padding: 4px 6px; border-top: 1px solid var(--hairline); }
.offers button:hover { background: var(--tint); }
.about { text-align: right; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; max-width: 150px; }
</style>
