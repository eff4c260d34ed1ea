<script setup lang="ts">
/** The desk: what there is, what needs a look, and where to begin. */
import { deskSchema, type Desk } from '@dime-gate/contract/desk'
import { gateSchema, type GateSummary } from '@dime-gate/contract/gate'
import { type Review, reviewSchema } from '@dime-gate/contract/review'
import { runSchema, type RunSummary } from '@dime-gate/contract/run'
import { tableSchema, type TableSummary } from '@dime-gate/contract/table'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import { useIncoming } from '../incoming/incoming'
import { ask, askWith, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { useReviewMoves } from '../shared/moves'
import { useNotices } from '../shared/notices'
import { useCommands } from '../finder/commands'
import { runTitle } from '../shared/words'
import { useThrottled } from '../shared/useThrottled'
import { useTitle } from '../shared/useTitle'
import GateShelf from './GateShelf.vue'
import NeedsYou from './NeedsYou.vue'
import { needsOf } from './needs'
import NewGateDialog from './NewGateDialog.vue'
import RunShelf from './RunShelf.vue'
import TableShelf from './TableShelf.vue'

/** @property shelf the one shelf that is shown by itself; null for the whole desk */
const props = defineProps<{ shelf: 'gates' | 'tables' | 'runs' | null }>()
const TITLES = { gates: 'Gates', tables: 'Tables', runs: 'Runs' }
const shows = (shelf: string) => props.shelf === null || props.shelf === shelf

const FILES = '.csv,.tsv,.tab,.txt,.xlsx,.xlsm,.ods,.json,.jsonl,.ndjson,.arrow,.arrows,.feather,text/csv,text/tab-separated-values'
const router = useRouter()
const incoming = useIncoming()
const desk = shallowRef<Desk | null>(null)
const notices = useNotices()
const trouble = ref('')
const gateOn = shallowRef<TableSummary | null>(null)
const picker = ref<HTMLInputElement | null>(null)

/** Null as long as it is not here: the desk stands without. */
const review = shallowRef<Review | null>(null)
const isEmpty = computed(() => desk.value !== null && desk.value.tables.length === 0 && desk.value.gates.length === 0 && desk.value.runs.length === 0)
const lookAtReview = useThrottled(async () => {
  if (props.shelf === null) review.value = await ask(reviewSchema, '/review').catch(() => review.value)
}, 1000)
useReviewMoves(lookAtReview)

useTitle(() => (props.shelf ? TITLES[props.shelf] : 'Desk'))
useCommands([
  { words: 'Bring in a file', key: 'i', act: () => picker.value?.click() },
  { words: 'Run gates over tables', key: 'r', act: () => router.push('/run-gates') },
  { words: 'Bring in a gate: a chart, a formula, SQL, FEEL, DMN', key: 'g', act: () => router.push('/bring-in-gate') },
])
onMounted(load)
useReturn(() => void load())

async function load(): Promise<void> {
  trouble.value = ''
  try {
    desk.value = await ask(deskSchema, '/desk')
    lookAtReview()
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

/** Does something, and lays the desk out anew; what was refused is told. */
async function act(work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work()
    desk.value = await ask(deskSchema, '/desk')
    return true
  } catch (error) {
    notices.warn(messageOf(error))
    return false
  }
}

function rename({ id }: TableSummary, name: string): void {
  void act(() => askWith(tableSchema, 'PATCH', `/tables/${id}`, { name }))
}

function copyTable({ id }: TableSummary): void {
  void act(() => askWith(tableSchema, 'POST', `/tables/${id}/copies`, {}))
}

function renameRun({ id }: RunSummary, name: string): void {
  void act(() => askWith(runSchema, 'PATCH', `/runs/${id}`, { name }))
}

function copy({ id }: GateSummary): void {
  void act(() => askWith(gateSchema, 'POST', `/gates/${id}/copies`, {}))
}

/** Removing is no end: it can be taken back as long as somebody is there to see it. */
async function remove(path: string, name: string): Promise<void> {
  const isDone = await act(() => askWith(z.object({}), 'DELETE', path, {}))
  if (isDone) notices.say(`“${name}” is removed.`, { label: 'Take it back', run: () => void act(() => askWith(z.object({}), 'POST', `${path}/restoration`, {})) })
}

function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length === 0) return
  incoming.add(files)
  void router.push('/bring-in')
}
</script>

<template>
  <section class="desk" :class="{ alone: shelf }">
    <p v-if="trouble" class="notice problem" role="alert">{{ unlessAway(trouble) }} <v-btn class="plain" @click="load">Try again</v-btn></p>
    <template v-else-if="desk">
      <h1 v-if="shelf" class="visually-hidden">{{ TITLES[shelf] }}</h1>
      <div v-if="shelf === null || shelf === 'tables'" class="begin" :class="{ full: !shelf && !isEmpty }">
        <div v-if="!shelf && isEmpty">
          <h1>Cut figures into labels, and see who falls where</h1>
          <p class="second">Bring a table, and say which of its values earn which label: by cuts on a column, rules, a list, or a grid.</p>
        </div>
        <template v-else-if="!shelf">
          <h1 class="visually-hidden">Desk</h1>
          <NeedsYou class="first" :needs="needsOf(desk, review)" />
        </template>
        <span v-if="!shelf && isEmpty" class="space" />
        <input ref="picker" class="visually-hidden" type="file" multiple :accept="FILES" aria-label="Files to bring in" tabindex="-1" @change="pick">
        <div class="ways">
          <h2 v-if="!shelf && !isEmpty">Start from</h2>
          <v-btn class="primary" @click="picker?.click()">Bring in a file<kbd>I</kbd></v-btn>
          <span class="second drop">or drop files, or paste cells, anywhere: CSV, TSV, XLSX, ODS, JSON, Arrow</span>
          <v-btn to="/bring-in-gate">Bring in a gate<kbd>G</kbd></v-btn>
          <span class="second drop">from a chart of thresholds, a formula, SQL, FEEL, DMN</span>
        </div>
      </div>

      <p v-if="shelf === 'runs' || shelf === 'gates'" class="over"><v-btn class="primary" to="/run-gates">Run gates over tables<kbd>R</kbd></v-btn></p>
      <div class="shelves">
        <GateShelf v-if="shows('gates')" :gates="desk.gates" :runs="desk.runs" :expected="desk.expected" :fresh="desk.fresh" :is-managed="shelf !== null" @copy="copy" @remove="remove(`/gates/${$event.id}`, $event.name)" />
        <TableShelf v-if="shows('tables')" :tables="desk.tables" :is-managed="shelf !== null" @gate="gateOn = $event" @rename="rename" @copy="copyTable" @remove="remove(`/tables/${$event.id}`, $event.name)" />
        <RunShelf v-if="shows('runs')" :runs="desk.runs" :expected="desk.expected" :fresh="desk.fresh" :is-managed="shelf !== null" @rename="renameRun" @remove="remove(`/runs/${$event.id}`, runTitle($event))" />
      </div>
    </template>
    <p v-else class="second" role="status">Laying out the desk …</p>
    <NewGateDialog v-if="gateOn" :table-id="gateOn.id" :taken="desk?.gates.map(({ name }) => name) ?? []" @close="gateOn = null" />
  </section>
</template>

<style scoped>
.desk { min-height: calc(100dvh - 48px); padding: 22px 20px 40px; max-width: 1320px; margin: 0 auto; }
.begin { display: flex; flex-wrap: wrap; align-items: center; gap: 10px 14px; padding-bottom: 20px; border-bottom: 1px solid var(--hairline); }
.begin.full { display: grid; grid-template-columns: minmax(0, 1fr) 400px; gap: 10px 44px; align-items: start; border-bottom: 0; padding-bottom: 8px; }
.begin.full .first { grid-row: 1; }
.begin.full .ways { padding: 14px 18px 16px; border: 1px dashed var(--second); border-radius: 4px; }
.begin.full .ways h2 { grid-column: 1 / -1; color: var(--ink) !important; font-size: 15px !important; font-weight: 700 !important; }
@media (max-width: 980px) { .begin.full { grid-template-columns: minmax(0, 1fr); } }
.alone { max-width: 860px; margin: 0; }
.space { flex: 1; }
.ways { display: grid; grid-template-columns: auto minmax(0, 1fr); gap: 8px 14px; align-items: center; }
.drop { font-size: 13px; }
.over { padding-bottom: 4px; }
.shelves { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 320px), 1fr)); gap: 12px 44px; padding-top: 20px; }
</style>
