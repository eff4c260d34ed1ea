<script setup lang="ts">
/** A file on its way to become a table: what was detected, the first records, and everything changeable. */
import { tablePreviewSchema, tableSchema, type FileFormatChoice, type TablePreviewBody } from '@dime-gate/contract/table'
import { checkColumns, readingOf } from '@dime-gate/interchange/table/settings'
import type { FileProblem } from '@dime-gate/interchange/table/problem'
import { COLUMN_TYPES, readCell } from '@dime-gate/core/value/read-cell'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, messageOf, RequestProblem, send } from '../shared/api'
import { counted, date } from '../shared/format'
import { freeName } from '../shared/free-name'
import { useNotices } from '../shared/notices'
import { useReturnFocus } from '../shared/useReturnFocus'
import { TYPE_WORDS } from '../shared/words'
import { useWorkspace } from '../shared/workspace'

const props = defineProps<{ file: File; taken: string[] }>()
const emit = defineEmits<{ close: [] }>()

/** As the server looks at it. */
const START = 512 * 1024

const router = useRouter()
const notices = useNotices()
const workspace = useWorkspace()
useReturnFocus()
const name = ref(freeName(props.file.name.replace(/\.[^.]+$/, '').replaceAll(/[_-]+/g, ' ').trim() || 'Table', props.taken))
const preview = ref<TablePreviewBody | null>(null)
const chosen = shallowRef<FileFormatChoice>({})
const trouble = ref<string | null>(null)
/** Why the last attempt failed; another may go better. */
const failure = ref<string | null>(null)
const sent = ref<number | null>(null)
const cancel = new AbortController()
onBeforeUnmount(() => cancel.abort())

watch(chosen, look, { immediate: true })

async function look(): Promise<void> {
  trouble.value = null
  failure.value = null
  const query = new URLSearchParams({ format: JSON.stringify(chosen.value), whole: String(props.file.size <= START) })
  try {
    preview.value = await ask(tablePreviewSchema, `/table-previews?${query}`, { method: 'POST', body: props.file.slice(0, START) })
  } catch (error) {
    trouble.value = messageOf(error)
    // Another encoding may be all that it takes, so the choices stay.
    if (!(error instanceof RequestProblem && error.problem.code === 'encoding')) preview.value = null
  }
}

function choose(choice: FileFormatChoice): void {
  chosen.value = { ...chosen.value, ...choice }
}

const settings = computed(() => preview.value?.settings ?? null)
const problem = computed<string | null>(() => {
  if (trouble.value) return trouble.value
  if (!preview.value) return null
  const { problem: found, settings: { columns } } = preview.value
  // Names may have been mended here since the server looked.
  if (found && found.code !== 'same-name') return found.message
  if (columns.some((column) => column.name.trim() === '')) return `Column ${columns.findIndex((column) => column.name.trim() === '') + 1} has no name. Give it one.`
  try {
    checkColumns(columns.map((column) => ({ name: column.name.trim() })))
    return null
  } catch (error) {
    return (error as Error & { problem?: FileProblem }).message
  }
})

/** By column, how many of the shown values its type cannot read; by record, which. */
const unreadable = computed(() => {
  if (!preview.value) return { byColumn: [] as number[], isUnreadable: () => false }
  const { records, settings: all } = preview.value
  const readings = all.columns.map((column) => readingOf(all, column))
  const wrong = records.map((record) => record.map((text, at) => readCell(text, readings[at]!).state === 'unreadable'))
  return { byColumn: readings.map((_, at) => wrong.filter((record) => record[at]).length), isUnreadable: (record: number, at: number) => wrong[record]?.[at] ?? false }
})

async function bringIn(): Promise<void> {
  if (!settings.value || problem.value) return
  sent.value = 0
  failure.value = null
  try {
    const request = JSON.stringify({ name: name.value, fileName: props.file.name, settings: settings.value })
    const table = await send(tableSchema, `/tables?${new URLSearchParams({ request })}`, props.file, (share) => (sent.value = share), cancel.signal)
    await router.push(`/tables/${table.id}`)
    tellDate()
  } catch (error) {
    if (!cancel.signal.aborted) failure.value = messageOf(error)
    sent.value = null
  }
}

/** The date that counts may be that of other data. */
function tellDate(): void {
  const today = new Date().toLocaleDateString('sv')
  const { asOf } = workspace
  if (asOf === null || asOf === today) return
  notices.say(`Here ${date(asOf)} counts as today, for this table too.`, { label: 'Make it today', run: () => void workspace.change(today).catch((error) => notices.warn(messageOf(error))) })
}

const TYPES = [...COLUMN_TYPES.map((type) => ({ title: TYPE_WORDS[type], value: type as string })), { title: 'percent, as 0.72', value: 'fraction' }]

function typeOf(index: number): string {
  const { type, fraction } = settings.value!.columns[index]!
  return type === 'percent' && fraction ? 'fraction' : type
}

function setType(index: number, event: Event): void {
  const value = (event.target as HTMLSelectElement).value
  const column = settings.value!.columns[index]!
  column.type = value === 'fraction' ? 'percent' : (COLUMN_TYPES.find((type) => type === value) ?? 'text')
  column.fraction = value === 'fraction'
}

const DELIMITERS = [{ title: 'comma', value: ',' }, { title: 'semicolon', value: ';' }, { title: 'tab', value: '\t' }, { title: 'bar |', value: '|' }] as const
const ENCODINGS = [{ title: 'UTF-8', value: 'utf-8' }, { title: 'Windows-1252', value: 'windows-1252' }, { title: 'UTF-16, low byte first', value: 'utf-16le' }, { title: 'UTF-16, high byte first', value: 'utf-16be' }] as const
const DATES = [{ title: 'year, month, day', value: 'year' }, { title: 'day, month, year', value: 'day' }, { title: 'month, day, year', value: 'month' }] as const
</script>

<template>
  <v-dialog :model-value="true" max-width="1180" persistent aria-label="Bring in a table" @update:model-value="emit('close')" @keydown.escape="emit('close')">
    <v-card class="card">
      <header>
        <div>
          <h1>Bring in {{ file.name }}</h1>
          <p v-if="settings" class="second">{{ counted(settings.columns.length, 'column') }}. Every setting below was detected and can be changed; what does not fit its type is kept as written.</p>
        </div>
        <v-text-field v-model="name" class="table-name" label="Name of the table" maxlength="120" />
      </header>

      <div v-if="settings" class="format">
        <v-select label="Columns are set apart by" :items="DELIMITERS" :model-value="settings.delimiter" @update:model-value="choose({ delimiter: $event })" />
        <v-select label="First line" :items="[{ title: 'names the columns', value: true }, { title: 'is a record', value: false }]" :model-value="settings.hasHeader" @update:model-value="choose({ hasHeader: $event })" />
        <v-select label="Decimal mark" :items="[{ title: 'point, 0.5', value: 'point' }, { title: 'comma, 0,5', value: 'comma' }]" :model-value="settings.decimalMark" @update:model-value="choose({ decimalMark: $event })" />
        <v-select label="Dates in figures" :items="DATES" :model-value="settings.dateOrder" @update:model-value="choose({ dateOrder: $event })" />
        <v-select label="Encoding" :items="ENCODINGS" :model-value="chosen.encoding ?? settings.encoding" @update:model-value="choose({ encoding: $event })" />
      </div>
      <div v-else-if="trouble" class="format">
        <v-select label="Encoding" :items="ENCODINGS" :model-value="chosen.encoding ?? 'utf-8'" @update:model-value="choose({ encoding: $event })" />
      </div>
      <p v-if="problem ?? failure" class="notice problem" role="alert">{{ problem ?? failure }}</p>

      <div v-if="preview && settings" class="frame">
        <table>
          <thead>
            <tr>
              <th v-for="(column, index) in settings.columns" :key="index" scope="col">
                <input v-model="column.name" :aria-label="`Name of column ${index + 1}`" maxlength="200">
                <span class="kind">
                  <select :value="typeOf(index)" :aria-label="`Type of ${column.name}`" @change="setType(index, $event)">
                    <option v-for="type in TYPES" :key="type.value" :value="type.value">{{ type.title }}</option>
                  </select>
                  <input v-model="column.unit" class="unit" :aria-label="`Unit of ${column.name}`" placeholder="unit" maxlength="40">
                </span>
                <span class="said" :class="unreadable.byColumn[index] ? 'trouble' : 'second'">{{ unreadable.byColumn[index] ? `${unreadable.byColumn[index]} unreadable below` : 'all readable below' }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(record, place) in preview.records" :key="place">
              <td v-for="(text, index) in record" :key="index" :class="{ right: ['number', 'percent'].includes(settings.columns[index]?.type ?? ''), trouble: unreadable.isUnreadable(place, index), second: text.trim() === '' }">{{ text.trim() === '' ? 'blank' : text }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="preview.records.length === 0" class="second pa-3">The file has no record below its names.</p>
      </div>
      <p v-else-if="!trouble" class="second pa-4" role="status">Looking at the file …</p>

      <footer>
        <v-btn class="primary" :disabled="!settings || problem !== null || sent !== null || name.trim() === ''" @click="bringIn">Bring it in</v-btn>
        <v-btn @click="emit('close')">Cancel</v-btn>
        <template v-if="sent !== null">
          <v-progress-linear :model-value="100 * sent" :indeterminate="sent === 1" color="brass" height="6" />
          <span class="second" role="status">{{ sent < 1 ? `${Math.round(100 * sent)} % sent` : 'storing the records …' }}</span>
        </template>
        <span v-else class="second">{{ preview?.records.length ? `The first ${counted(preview.records.length, 'record')} of the file.` : '' }}</span>
      </footer>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.card { display: flex; flex-direction: column; gap: 12px; padding: 18px 20px; max-height: 90dvh; }
header { display: flex; flex-wrap: wrap; gap: 12px 24px; justify-content: space-between; align-items: start; }
.table-name { max-width: 280px; min-width: 200px; }
.format { display: grid; grid-template-columns: repeat(auto-fit, minmax(170px, 1fr)); gap: 10px; }
.frame { overflow: auto; min-height: 120px; border: 1px solid var(--hairline); background: var(--sheet); }
table { border-collapse: collapse; font-size: 13.5px; }
th { position: sticky; top: 0; background: var(--sheet); text-align: left; padding: 8px 10px 6px; border-bottom: 1.5px solid var(--ink); vertical-align: top; }
th input, th select { font: inherit; color: var(--ink); background: var(--ground); border: 1px solid var(--hairline); border-radius: 3px; height: 26px; padding: 0 5px; }
th > input { display: block; width: 100%; min-width: 130px; font-weight: 700; }
.kind { display: flex; gap: 4px; margin-top: 4px; }
.kind select { min-width: 88px; font-weight: 400; }
.unit { width: 66px; font-weight: 400 !important; }
.said { display: block; font-size: 12px; font-weight: 400; padding-top: 3px; }
td { padding: 4px 10px; border-bottom: 1px solid var(--hairline); white-space: nowrap; max-width: 320px; overflow: hidden; text-overflow: ellipsis; }
.right { text-align: right; font-family: var(--figures); }
footer { display: flex; align-items: center; gap: 12px; }
footer .v-progress-linear { max-width: 260px; }
</style>
