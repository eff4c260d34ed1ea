<script setup lang="ts">
/** The desk: what there is, what needs a look, and where to begin. */
import { deskSchema, type Desk } from '@dime-gate/contract/desk'
import type { RunSummary } from '@dime-gate/contract/run'
import type { TableSummary } from '@dime-gate/contract/table'
import { onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { ask, messageOf } from '../shared/api'
import { count, counted, date, moment } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { useShortcuts } from '../shared/useShortcuts'
import { useTitle } from '../shared/useTitle'
import ImportDialog from './ImportDialog.vue'
import NewScaleDialog from './NewScaleDialog.vue'

const desk = shallowRef<Desk | null>(null)
const trouble = ref('')
const file = shallowRef<File | null>(null)
const scaleOn = shallowRef<TableSummary | null>(null)
const isOver = ref(false)
const picker = ref<HTMLInputElement | null>(null)

useTitle('Desk')
useShortcuts({ i: () => picker.value?.click() })
onMounted(load)

async function load(): Promise<void> {
  trouble.value = ''
  try {
    desk.value = await ask(deskSchema, '/desk')
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  file.value = input.files?.[0] ?? null
  input.value = ''
}

function drop(event: DragEvent): void {
  isOver.value = false
  file.value = event.dataTransfer?.files[0] ?? null
}

/** A file may be dropped anywhere on the page. */
function over(event: DragEvent): void {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  isOver.value = true
}
window.addEventListener('dragover', over)
onBeforeUnmount(() => window.removeEventListener('dragover', over))

function exceptionsOf({ counts }: RunSummary): number {
  return counts.held + counts.unplaced
}
</script>

<template>
  <section class="desk" :class="{ over: isOver }" @drop.prevent="drop" @dragleave.self="isOver = false">
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }} <v-btn class="plain" @click="load">Try again</v-btn></p>
    <template v-else-if="desk">
      <div class="begin">
        <div>
          <h1>Cut figures into labels, and see who falls where</h1>
          <p class="second">Bring a table, choose a column of numbers, and set the cuts on the values themselves.</p>
        </div>
        <span class="space" />
        <input ref="picker" class="visually-hidden" type="file" accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values" aria-label="A CSV or TSV file" tabindex="-1" @change="pick">
        <v-btn class="primary" @click="picker?.click()">Bring in a file<kbd>I</kbd></v-btn>
        <span class="second drop">or drop a CSV or TSV file anywhere here</span>
      </div>

      <div class="shelves">
        <section id="gates" aria-labelledby="gates-title">
          <h2 id="gates-title">Gates <span class="figure">{{ desk.gates.length }}</span></h2>
          <p v-if="desk.gates.length === 0" class="second empty">No gate yet. Choose “New scale” beside a table to cut one of its columns.</p>
          <router-link v-for="gate in desk.gates" :key="gate.id" class="item" :to="`/gates/${gate.id}`" :data-gate="gate.name">
            <span class="name">{{ gate.name }}</span>
            <span class="second">{{ gate.latestVersion === 0 ? 'draft, no version set' : `version ${gate.latestVersion}` }}</span>
            <span class="second wide">{{ gate.tables.length === 0 ? 'on no table yet' : `on ${gate.tables.map(({ name }) => name).join(', ')}` }}</span>
            <span class="wide labels">
              <span v-for="(band, index) in gate.bands.slice(0, 8)" :key="index"><MarkCoin :mark="band.mark" :colour="band.colour" :size="13" /> {{ band.label }}</span>
              <span v-if="gate.bands.length > 8" class="second">and {{ gate.bands.length - 8 }} more</span>
            </span>
          </router-link>
        </section>

        <section id="tables" aria-labelledby="tables-title">
          <h2 id="tables-title">Tables <span class="figure">{{ desk.tables.length }}</span></h2>
          <p v-if="desk.tables.length === 0" class="second empty">No table yet. Bring in a CSV or TSV file to begin.</p>
          <div v-for="table in desk.tables" :key="table.id" class="item table" :data-table="table.name">
            <router-link class="name" :to="`/tables/${table.id}`">{{ table.name }}</router-link>
            <button class="plain-button act" type="button" @click="scaleOn = table">New scale</button>
            <span class="second wide">{{ counted(table.records, 'record') }}, {{ counted(table.columns, 'column') }}<template v-if="table.unreadable > 0">, <span class="trouble">{{ counted(table.unreadable, 'value') }} unreadable</span></template></span>
          </div>
        </section>

        <section id="runs" aria-labelledby="runs-title">
          <h2 id="runs-title">Runs <span class="figure">{{ desk.runs.length }}</span></h2>
          <p v-if="desk.runs.length === 0" class="second empty">No run kept yet. On a gate's bench, set a version and keep a run of it.</p>
          <router-link v-for="run in desk.runs" :key="run.id" class="item" :to="`/runs/${run.id}`" :data-run="`${run.gateName} ${run.number}`">
            <span class="name">{{ run.gateName }}, run {{ run.number }}</span>
            <span class="second">{{ moment(run.keptAt) }}</span>
            <span class="shares wide" aria-hidden="true"><span v-for="(band, index) in run.bands" :key="index" :style="{ flexGrow: run.counts.bands[index], background: band.colour }" /><span class="none" :style="{ flexGrow: exceptionsOf(run) }" /></span>
            <span class="second wide">version {{ run.gateVersion }} on {{ run.tableName }}, as of {{ date(run.asOf) }}</span>
            <span class="wide"><b>{{ count(run.counts.records) }}</b> <span class="second">records,</span> <b :class="{ trouble: exceptionsOf(run) > 0 }">{{ count(exceptionsOf(run)) }}</b> <span class="second">without a label</span></span>
          </router-link>
        </section>
      </div>
    </template>
    <p v-else class="second" role="status">Laying out the desk …</p>
    <ImportDialog v-if="file" :file="file" :taken="desk?.tables.map(({ name }) => name) ?? []" @close="file = null" />
    <NewScaleDialog v-if="scaleOn" :table-id="scaleOn.id" :taken="desk?.gates.map(({ name }) => name) ?? []" @close="scaleOn = null" />
  </section>
</template>

<style scoped>
.desk { min-height: calc(100dvh - 48px); padding: 22px 20px 40px; max-width: 1320px; margin: 0 auto; }
.over { outline: 3px dashed var(--brass); outline-offset: -8px; }
.begin { display: flex; flex-wrap: wrap; align-items: center; gap: 10px 14px; padding-bottom: 20px; border-bottom: 1px solid var(--hairline); }
.space { flex: 1; }
.drop { font-size: 13px; }
.shelves { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 320px), 1fr)); gap: 12px 44px; padding-top: 20px; }
h2 { padding-bottom: 8px; border-bottom: 1.5px solid var(--ink); color: var(--ink) !important; font-size: 14px !important; }
h2 .figure { color: var(--second); font-weight: 400; margin-left: 4px; }
.item { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 2px 12px; padding: 11px 0; border-bottom: 1px solid var(--hairline); color: var(--ink) !important; text-decoration: none; }
.name { font-weight: 600; font-size: 15px; color: var(--ink) !important; text-decoration: none; overflow: hidden; text-overflow: ellipsis; }
a.item:hover .name, a.name:hover { text-decoration: underline; text-decoration-color: var(--brass); text-underline-offset: 3px; }
.wide { grid-column: 1 / -1; }
.labels { display: flex; flex-wrap: wrap; gap: 2px 12px; font-size: 13px; }
.shares { display: flex; height: 8px; margin: 4px 0; gap: 1px; }
.shares > * { flex: 0 0 0; }
.none { background: repeating-linear-gradient(45deg, var(--second) 0 1px, transparent 1px 4px); }
.act { color: var(--pine); font-weight: 600; }
.empty { padding: 12px 0; }
</style>
