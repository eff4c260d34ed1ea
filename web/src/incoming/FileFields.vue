<script setup lang="ts">
/** How the file as a whole is read: what was detected, and can be chosen otherwise. */
import type { FileLook } from '@dime-gate/contract/table'
import { computed } from 'vue'
import type { Choice } from './file-on-its-way'

const props = defineProps<{ look: FileLook | null; choice: Choice }>()
const emit = defineEmits<{ choose: [format: Choice['format']] }>()

const DELIMITERS = [{ title: 'comma', value: ',' }, { title: 'semicolon', value: ';' }, { title: 'tab', value: '\t' }, { title: 'bar |', value: '|' }] as const
const ENCODINGS = [{ title: 'UTF-8', value: 'utf-8' }, { title: 'Windows-1252', value: 'windows-1252' }, { title: 'UTF-16, low byte first', value: 'utf-16le' }, { title: 'UTF-16, high byte first', value: 'utf-16be' }] as const
const DATES = [{ title: 'year, month, day', value: 'year' }, { title: 'day, month, year', value: 'day' }, { title: 'month, day, year', value: 'month' }] as const
const HEADS = [{ title: 'names the columns', value: true }, { title: 'is a record', value: false }] as const
const MARKS = [{ title: 'full marks', value: true }, { title: 'a record', value: false }] as const
const ABOVE = Array.from({ length: 31 }, (_, lines) => ({ title: lines === 0 ? 'none' : lines === 1 ? '1 line' : `${lines} lines`, value: lines }))

const settings = computed(() => props.look?.settings ?? null)
const isText = computed(() => !settings.value || settings.value.kind === 'delimited text')
/** Where names come with each value there is no first line. */
const isKeyed = computed(() => settings.value !== null && ['JSON', 'JSON Lines', 'Arrow'].includes(settings.value.kind))
const hasDates = computed(() => settings.value?.columns.some(({ type }) => type === 'date') ?? false)
const hasFigures = computed(() => isText.value)
const choose = (format: Choice['format']) => emit('choose', format)
</script>

<template>
  <div class="fields">
    <template v-if="look && settings">
      <v-select
        v-if="look.sheets.length > 1"
        label="Sheet"
        :items="look.sheets"
        :model-value="settings.sheet"
        @update:model-value="choose({ sheet: $event })"
      />
      <v-select
        v-if="isText"
        label="Columns are set apart by"
        :items="DELIMITERS"
        :model-value="settings.delimiter"
        @update:model-value="choose({ delimiter: $event })"
      />
      <v-select
        v-if="!isKeyed"
        label="Left out above"
        :items="ABOVE"
        :model-value="settings.skip"
        @update:model-value="choose({ skip: $event })"
      />
      <v-select
        v-if="!isKeyed"
        label="First line"
        :items="HEADS"
        :model-value="settings.hasHeader"
        @update:model-value="choose({ hasHeader: $event })"
      />
      <v-select
        v-if="settings.hasHeader"
        label="Line below the names"
        :items="MARKS"
        :model-value="settings.hasFullMarks"
        @update:model-value="choose({ hasFullMarks: $event })"
      />
      <v-select
        v-if="hasFigures"
        label="Decimal mark"
        :items="[{ title: 'point, 0.5', value: 'point' }, { title: 'comma, 0,5', value: 'comma' }]"
        :model-value="settings.decimalMark"
        @update:model-value="choose({ decimalMark: $event })"
      />
      <v-select
        v-if="hasDates && settings.kind !== 'Arrow'"
        label="Dates in figures"
        :items="DATES"
        :model-value="settings.dateOrder"
        @update:model-value="choose({ dateOrder: $event })"
      />
    </template>
    <v-select
      v-if="isText"
      class="encoding"
      label="Encoding"
      :items="ENCODINGS"
      :model-value="choice.format.encoding ?? settings?.encoding ?? 'utf-8'"
      @update:model-value="choose({ encoding: $event })"
    />
  </div>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: repeat(auto-fit, minmax(150px, 1fr)); gap: 10px; }
</style>
