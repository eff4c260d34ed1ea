<script setup lang="ts">
/** What a file would do to a table, in numbers and examples, before it does it. */
import type { MergePlan } from '@dime-gate/contract/change'
import { computed } from 'vue'
import { count, counted } from '../shared/format'

const props = defineProps<{ plan: MergePlan; tableName: string; isReplacing: boolean }>()

const parts = computed(() => [
  { kind: 'added', records: props.plan.added, examples: props.plan.examples.added },
  { kind: 'changed', records: props.plan.changed, examples: props.plan.examples.changed.map(({ who, column, before, after }) => `${who}, ${column}: ${before ?? 'blank'} → ${after ?? 'blank'}`) },
  { kind: 'removed', records: props.plan.removed, examples: props.plan.examples.removed },
  { kind: 'the same', records: props.plan.same, examples: [] },
].filter(({ kind, records }) => records > 0 || (kind === 'removed' && props.isReplacing)))
const more = (records: number, examples: string[], isCut: boolean) => (isCut && records > examples.length ? ' …' : '')
</script>

<template>
  <section class="plan notice" aria-label="What it does to the table">
    <p v-if="plan.identity.length > 0">
      Records of “{{ tableName }}” are found again by <b>{{ plan.identity.join(' and ') }}</b>.
    </p>
    <p v-else>Nothing in the file tells who a record of “{{ tableName }}” is, so <b>all of them are added</b>.</p>
    <dl>
      <div v-for="part in parts" :key="part.kind">
        <dt>
          <b class="figure" :class="{ trouble: part.kind === 'removed' && part.records > 0 }">{{ count(part.records) }}</b> {{ part.kind }}
        </dt>
        <dd class="second" :title="part.examples.join('\n')">
          {{ part.examples.join(' · ') }}{{ more(part.records, part.examples, part.kind !== 'changed') }}
        </dd>
      </div>
      <div v-if="plan.newColumns.length > 0">
        <dt>
          <b class="figure">{{ plan.newColumns.length }}</b> new {{ plan.newColumns.length === 1 ? 'column' : 'columns' }}
        </dt>
        <dd class="second">{{ plan.newColumns.join(', ') }}</dd>
      </div>
      <div v-if="plan.untouched.length > 0">
        <dt>
          <b class="figure">{{ plan.untouched.length }}</b> not in the file
        </dt>
        <dd class="second">
          {{ plan.untouched.join(', ') }}: {{ plan.untouched.length === 1 ? 'stays' : 'stay' }} as
          {{ plan.untouched.length === 1 ? 'it is' : 'they are' }}
        </dd>
      </div>
    </dl>
    <p v-if="plan.ambiguous > 0" class="trouble" role="alert">
      {{ counted(plan.ambiguous, 'record') }} of the file cannot be told from others: {{ plan.examples.ambiguous.join(', ') }}. Say on the
      table’s page with more columns who a record is, or mend the file.
    </p>
  </section>
</template>

<style scoped>
.plan { display: grid; gap: 6px; padding: 10px 14px; }
dl { display: grid; gap: 2px; margin: 0; }
dl > div { display: grid; grid-template-columns: 150px minmax(0, 1fr); gap: 10px; align-items: baseline; }
dd { margin: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
@media (max-width: 640px) { dl > div { grid-template-columns: 1fr; gap: 0; } dd { white-space: normal; } }
</style>
