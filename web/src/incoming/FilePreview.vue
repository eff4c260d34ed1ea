<script setup lang="ts">
/** The first records under heads that can be changed; each head says what the whole file holds in its column. */
import type { ColumnPlan } from '@dime-gate/interchange/table/settings'
import { readingOf } from '@dime-gate/interchange/table/settings'
import type { ColumnStatistics, FileLook } from '@dime-gate/contract/table'
import { COLUMN_TYPES, isNumeric, readCell } from '@dime-gate/core/value/read-cell'
import { computed } from 'vue'
import { count, typedNumber } from '../shared/format'
import { TYPE_WORDS } from '../shared/words'
import { vStands } from '../shared/v-stands'

const props = defineProps<{ look: FileLook }>()
const emit = defineEmits<{ edit: [column: number, plan: Partial<ColumnPlan>] }>()

const TYPES = [...COLUMN_TYPES.map((type) => ({ title: TYPE_WORDS[type], value: type as string })), { title: 'percent, as 0.72', value: 'fraction' }]
const columns = computed(() => props.look.settings.columns)

/** By record and column, which of the shown values their types cannot read. */
const unreadable = computed(() => {
  const readings = columns.value.map((column) => readingOf(props.look.settings, column))
  return props.look.records.map((record) => record.map((text, at) => readings[at] !== undefined && readCell(text, readings[at]).state === 'unreadable'))
})

function typeOf({ type, fraction }: ColumnPlan): string {
  return type === 'percent' && fraction ? 'fraction' : type
}

function setType(index: number, event: Event): void {
  const { value } = event.target as HTMLSelectElement
  emit('edit', index, { type: value === 'fraction' ? 'percent' : (COLUMN_TYPES.find((type) => type === value) ?? 'text'), fraction: value === 'fraction' })
}

function setFullMarks(index: number, event: Event): void {
  const { value } = event.target as HTMLInputElement
  const marks = typedNumber(value)
  // What is no number above zero says nothing.
  emit('edit', index, { fullMarks: marks !== null && Number(marks) > 0 ? marks : null })
}

const valueOf = (event: Event) => (event.target as HTMLInputElement).value
const isChecked = (event: Event) => (event.target as HTMLInputElement).checked

/** What the whole file holds in each column. */
const quality = computed(() => columns.value.map((_, at) => qualityOf(props.look.statistics?.columns[at], props.look.statistics?.records ?? 0)))

function qualityOf(found: ColumnStatistics | undefined, records: number) {
  if (!found) return null
  const { blank, unreadable, examples, dates } = found
  const words = [unreadable > 0 ? `${count(unreadable)} unreadable` : '', blank > 0 ? `${count(blank)} blank` : ''].filter(Boolean)
  const all = examples.map(({ record, text }) => `“${text}” in record ${count(record)}`)
  return {
    isTrouble: unreadable > 0, words: [words.join(', ') || 'all readable', ...(dates && dates.timed > 0 ? [`${count(dates.timed)} with a time of day, which does not count`] : [])].join('; '), first: all[0] ?? null, examples: all.join('\n'),
    shares: [{ kind: 'readable', share: records - blank - unreadable }, { kind: 'unreadable', share: unreadable }, { kind: 'blank', share: blank }],
  }
}
</script>

<template>
  <div class="frame" tabindex="0" role="region" aria-label="The first records">
    <table>
      <thead>
        <tr>
          <th v-for="(column, index) in columns" :key="index" scope="col" :class="{ out: column.isLeftOut }">
            <input
              :value="column.name"
              :aria-label="`Name of column ${index + 1}`"
              maxlength="200"
              @input="emit('edit', index, { name: valueOf($event) })"
            />
            <span class="kind">
              <select :value="typeOf(column)" :aria-label="`Type of ${column.name}`" @change="setType(index, $event)">
                <option v-for="type in TYPES" :key="type.value" :value="type.value">{{ type.title }}</option>
              </select>
              <input
                :value="column.unit"
                class="unit"
                :aria-label="`Unit of ${column.name}`"
                placeholder="unit"
                maxlength="40"
                @input="emit('edit', index, { unit: valueOf($event) })"
              />
              <label v-if="isNumeric(column.type)" class="marks"
                >of
                <input
                  v-stands="column.fullMarks ?? ''"
                  :aria-label="`Full marks of ${column.name}`"
                  placeholder="–"
                  maxlength="12"
                  @change="setFullMarks(index, $event)"
              /></label>
            </span>
            <span class="ticks">
              <label
                ><input type="checkbox" :checked="column.isIdentity" @change="emit('edit', index, { isIdentity: isChecked($event) })" /> who
                it is</label
              >
              <label
                ><input type="checkbox" :checked="column.isLeftOut" @change="emit('edit', index, { isLeftOut: isChecked($event) })" /> leave
                out</label
              >
            </span>
            <span class="bar" aria-hidden="true">
              <i v-for="{ kind, share } in quality[index]?.shares" :key="kind" :class="kind" :style="{ flexGrow: share }" />
            </span>
            <span
              class="said"
              :class="quality[index]?.isTrouble ? 'trouble' : 'second'"
              :title="quality[index]?.examples"
              >{{ quality[index]?.words }}</span
            >
            <span
              v-if="quality[index]?.first"
              class="said example second"
              :title="quality[index]?.examples"
              >{{ quality[index]?.first }}</span
            >
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(record, at) in look.records" :key="at">
          <td
            v-for="(text, index) in record"
            :key="index"
            :title="text"
            :class="{ right: isNumeric(columns[index]?.type ?? 'text'), trouble: unreadable[at]?.[index], second: text.trim() === '', out: columns[index]?.isLeftOut }"
          >
            {{ text.trim() === '' ? 'blank' : text }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="look.records.length === 0" class="second pa-3">The file has no record below its names.</p>
  </div>
</template>

<style scoped>
.frame { overflow: auto; min-height: 120px; max-height: 100%; border: 1px solid var(--hairline); background: var(--sheet); }
table { border-collapse: collapse; font-size: 13.5px; }
th { position: sticky; top: 0; z-index: 1; background: var(--sheet); text-align: left; font-weight: 400; padding: 8px 10px 6px; border-bottom: 1.5px solid var(--ink); vertical-align: top; }
th input:not([type]), th select { font: inherit; color: var(--ink); background: var(--ground); border: 1px solid var(--hairline); border-radius: 3px; height: 26px; padding: 0 5px; }
th > input { display: block; width: 100%; min-width: 150px; font-weight: 700 !important; }
.kind { display: flex; gap: 4px; margin-top: 4px; align-items: center; }
.kind select { min-width: 88px; }
.unit { width: 58px; }
.marks { display: flex; gap: 4px; align-items: center; color: var(--second); font-size: 12.5px; }
.marks input { width: 42px; }
.ticks { display: flex; gap: 10px; margin-top: 4px; font-size: 12.5px; color: var(--second); white-space: nowrap; }
.ticks label { display: inline-flex; gap: 4px; align-items: center; min-height: 24px; }
.ticks input { accent-color: var(--pine); width: 15px; height: 15px; }
.bar { display: flex; height: 4px; margin-top: 3px; background: var(--hairline); }
.bar i { flex-basis: 0; min-width: 0; }
.bar .readable { background: var(--pine); }
.bar .unreadable { background: var(--brick); }
.said { display: block; font-size: 12px; padding-top: 2px; white-space: nowrap; }
.example { max-width: 220px; overflow: hidden; text-overflow: ellipsis; padding-top: 0; }
td { padding: 4px 10px; border-bottom: 1px solid var(--hairline); white-space: nowrap; max-width: 320px; overflow: hidden; text-overflow: ellipsis; }
td.second { font-style: italic; }
.out { opacity: 0.45; }
td.out { text-decoration: line-through; }
.right { text-align: right; font-family: var(--figures); }
</style>
