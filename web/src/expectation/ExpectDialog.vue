<script setup lang="ts">
/** Says what is expected: one thing of one's own, or what a run in hand suggests. */
import type { Expectation } from '@dime-gate/contract/expectation'
import type { Column } from '@dime-gate/contract/table'
import { AFTER_RULES } from '@dime-gate/core/bulk/decisions'
import { type BoundKind, type Expected, LOOKED_AT } from '@dime-gate/core/expectation/expectation'
import { computed, reactive, ref, shallowRef } from 'vue'
import SideTabs from '../shared/SideTabs.vue'
import { useReturnFocus } from '../shared/useReturnFocus'
import { expectationWords, expectedWords } from './expectation-words'
import { fromTyped, type TypedExpectation } from './typed-expectation'

/** @property proposed what a run in hand suggests @property of with what to begin */
const props = defineProps<{ labels: string[]; columns: Column[]; tableName: string; proposed: Expectation[]; of?: Expected | null }>()
const emit = defineEmits<{ add: [expectations: Expectation[], isForTable: boolean]; close: [] }>()

useReturnFocus()
const side = ref<'own' | 'proposed'>('own')
const typed = reactive<TypedExpectation>({ of: props.of ?? null, bound: 'at most', as: 'count', low: '', high: '', within: null, who: { column: props.columns.find(({ isIdentity }) => isIdentity)?.id ?? props.columns[0]?.id ?? null, value: '' }, label: props.labels[0] ?? null })
const isForTable = ref(false)
const group = reactive<{ column: number | null; value: string }>({ column: null, value: '' })
/** Those of the proposed ones that are left out. */
const left = shallowRef<ReadonlySet<number>>(new Set())

const BOUNDS: BoundKind[] = ['at most', 'at least', 'exactly', 'between']
const KINDS = computed(() => [
  ...props.labels.map((label): { title: string; value: TypedExpectation['of'] } => ({ title: label || 'no value', value: { kind: 'label', label } })),
  ...AFTER_RULES.map((status) => ({ title: status, value: { kind: 'status', status } as const })),
  ...LOOKED_AT.map((of) => ({ title: expectedWords({ kind: 'to look at', of }), value: { kind: 'to look at', of } as const })),
  { title: 'one record', value: { kind: 'record' } as const },
])
const made = computed(() => fromTyped({ ...typed, within: group.column !== null && typed.of?.kind !== 'record' ? { column: group.column, value: group.value } : null }))
const columnItems = computed(() => props.columns.map(({ id, name }) => ({ value: id, title: name })))
/** What names a column, or one record, holds for one table. */
const mustBeForTable = computed(() => typed.of?.kind === 'record' || (group.column !== null && typed.of?.kind !== 'to look at'))
const taken = computed(() => props.proposed.filter((_, at) => !left.value.has(at)))
const isShare = computed(() => typed.as === 'share')

function toggle(at: number): void {
  const next = new Set(left.value)
  if (!next.delete(at)) next.add(at)
  left.value = next
}

function done(): void {
  if (side.value === 'proposed') emit('add', taken.value, isForTable.value)
  else if (made.value && typeof made.value !== 'string') emit('add', [made.value], isForTable.value || mustBeForTable.value)
}
const isReady = computed(() => (side.value === 'proposed' ? taken.value.length > 0 : made.value !== null && typeof made.value !== 'string'))
</script>

<template>
  <v-dialog :model-value="true" max-width="600" aria-label="Expect something" @update:model-value="emit('close')">
    <v-card class="pa-5">
      <form class="expect" @submit.prevent="isReady && done()">
        <h1>Expect something</h1>
        <SideTabs v-if="proposed.length > 0" v-model="side" label="From where" :tabs="[{ name: 'own', words: 'One of your own' }, { name: 'proposed', words: 'As this run came out', count: proposed.length }]" />
        <template v-if="side === 'own'">
          <v-autocomplete v-model="typed.of" :items="KINDS" :value-comparator="(a, b) => JSON.stringify(a) === JSON.stringify(b)" label="What" density="compact" variant="outlined" hide-details autofocus />
          <template v-if="typed.of?.kind === 'record'">
            <div class="line">
              <v-autocomplete v-model="typed.who.column" :items="columnItems" label="The record whose" density="compact" variant="outlined" hide-details />
              <v-text-field v-model="typed.who.value" label="is" density="compact" variant="outlined" hide-details />
            </div>
            <v-autocomplete v-model="typed.label" :items="[...labels.map((label) => ({ title: label || 'no value', value: label })), { title: 'no label', value: null }]" label="gets" density="compact" variant="outlined" hide-details />
          </template>
          <template v-else>
            <div class="line">
              <v-select v-model="typed.bound" :items="BOUNDS" label="How many" density="compact" variant="outlined" hide-details />
              <v-text-field v-if="typed.bound !== 'at most'" v-model="typed.low" :label="typed.bound === 'between' ? 'from' : 'number'" density="compact" variant="outlined" hide-details inputmode="decimal" />
              <v-text-field v-if="typed.bound === 'at most' || typed.bound === 'between'" v-model="typed.high" :label="typed.bound === 'between' ? 'to' : 'number'" density="compact" variant="outlined" hide-details inputmode="decimal" />
              <v-select v-model="typed.as" :items="[{ title: 'records', value: 'count' }, { title: '% of the records', value: 'share' }]" label="of" density="compact" variant="outlined" hide-details />
            </div>
            <div v-if="typed.of?.kind !== 'to look at'" class="line">
              <v-autocomplete v-model="group.column" :items="columnItems" label="Only where (or all records)" density="compact" variant="outlined" hide-details clearable />
              <v-text-field v-if="group.column !== null" v-model="group.value" label="is" density="compact" variant="outlined" hide-details />
            </div>
          </template>
          <p class="told" role="status"><b v-if="made && typeof made !== 'string'">{{ expectationWords(made, columns) }}</b><span v-else-if="made" class="trouble">{{ made }}</span><span v-else class="second">{{ isShare ? 'A share may have a fraction, as 2.5.' : 'Nothing stated yet.' }}</span></p>
        </template>
        <div v-else class="proposed">
          <v-checkbox v-for="(one, at) in proposed" :key="at" :model-value="!left.has(at)" :label="expectationWords(one, columns)" density="compact" hide-details @update:model-value="toggle(at)" />
        </div>
        <v-checkbox v-model="isForTable" :disabled="side === 'own' && mustBeForTable" :label="`On ${tableName} alone${side === 'own' && mustBeForTable ? ', since it names what only this table has' : ''}`" density="compact" hide-details />
        <div class="ways"><v-btn class="primary" type="submit" :disabled="!isReady">{{ side === 'proposed' ? 'Expect these' : 'Expect it' }}</v-btn><v-btn @click="emit('close')">Cancel</v-btn></div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.expect { display: grid; gap: 12px; }
.line { display: flex; gap: 10px; }
.line > * { min-width: 0; flex: 1; }
.proposed { display: grid; max-height: 46vh; overflow-y: auto; }
.told { min-height: 22px; }
.ways { display: flex; gap: 10px; }
@media (max-width: 520px) { .line { flex-direction: column; } }
</style>
