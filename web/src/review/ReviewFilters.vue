<script setup lang="ts">
/** Which exceptions are listed, and by what they are grouped. Apart, so that going through them does not draw these anew. */
import { NOBODY, type Reviewer, type ReviewRun } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS } from '@dime-gate/core/result/exception'
import { computed } from 'vue'
import { KIND_WORDS, STATE_WORDS } from './exception-words'
import type { ReviewAddress } from './review-address'

const props = defineProps<Omit<ReviewAddress, 'at'> & { runs: ReviewRun[]; people: Reviewer[] }>()
const emit = defineEmits<{ choose: [change: Partial<ReviewAddress>] }>()
const choose = (change: Partial<ReviewAddress>) => emit('choose', { ...change, at: null })

const GROUPED = [{ value: 'reason', title: 'by reason' }, { value: 'gate', title: 'by gate' }, { value: 'table', title: 'by table' }, { value: 'person', title: 'by person' }]
const SHOWS = [{ value: 'waiting', title: 'that wait' }, { value: 'all', title: 'all' }, ...(['lapsed', 'settled', 'overridden', 'corrected'] as const).map((value) => ({ value, title: STATE_WORDS[value] }))]
const REASONS = [{ value: null, title: 'any reason' }, ...EXCEPTION_KINDS.map((kind) => ({ value: kind, title: KIND_WORDS[kind].name }))]
const named = (any: string, of: (run: ReviewRun) => [number, string]) => [{ value: null, title: any }, ...[...new Map(props.runs.map(of))].map(([value, title]) => ({ value, title }))]
const gates = computed(() => named('any gate', ({ gateId, gateName }) => [gateId, gateName]))
const tables = computed(() => named('any table', ({ tableId, tableName }) => [tableId, tableName]))
const people = computed(() => [{ value: null, title: 'for anybody' }, { value: NOBODY, title: 'for nobody yet' }, ...props.people.map(({ id, name }) => ({ value: id, title: `for ${name}` }))])
</script>

<template>
  <div class="filters">
    <v-select :model-value="by" :items="GROUPED" aria-label="Grouped" @update:model-value="choose({ by: $event })" />
    <v-select :model-value="shows" :items="SHOWS" aria-label="Which are shown" @update:model-value="choose({ shows: $event })" />
    <v-select :model-value="kind" :items="REASONS" aria-label="Reason" @update:model-value="choose({ kind: $event })" />
    <v-select :model-value="gate" :items="gates" aria-label="Gate" @update:model-value="choose({ gate: $event })" />
    <v-select :model-value="table" :items="tables" aria-label="Table" @update:model-value="choose({ table: $event })" />
    <v-select v-if="props.people.length > 0" :model-value="person" :items="people" aria-label="Whom they wait for" @update:model-value="choose({ person: $event })" />
    <v-text-field :model-value="text" placeholder="Find" aria-label="Find a record" @change="choose({ text: ($event.target as HTMLInputElement).value })" />
  </div>
</template>

<style scoped>
.filters { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 8px; padding: 10px 20px; border-bottom: 1px solid var(--hairline); }
.filters :deep(.v-field__input) { padding-inline: 8px 0; font-size: 13.5px; }
@media (max-width: 760px) { .filters { grid-template-columns: repeat(2, minmax(0, 1fr)); } }
</style>
